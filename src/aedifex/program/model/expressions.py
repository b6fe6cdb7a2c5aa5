"""Expressions as trees: what each part of a statement does with the values that it is given."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from enum import Enum

from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.statements import Statement
from aedifex.source.text import Span

NEGATED = "not"
"""The name of a comparison that asks whether something is not so."""


class Sense(Enum):
    """What an expression does, and what its `parts` are."""

    NAME = "a name"
    CONSTANT = "a number, a plain text or a truth value"
    NOTHING = "the absence of a value"
    TEXT = "a text with values in it: those values"
    MEMBER = "a member: the object"
    PART = "a part of a container: the container, and the key"
    SLICE = "some of a container: the container, and the limits"
    CALL = "a call: the callee, and the arguments"
    LIST = "a list written out: its elements"
    TUPLE = "a tuple written out: its elements"
    GROUP = "a set written out: its elements"
    TABLE = "a table written out: its keys and values in turn"
    RECORD = "an object of nothing but members, with their first values: what makes it, and the values"
    EACH = "a container made from others: the element, or key and value, and then WALK and TEST parts"
    CHOICE = "one of two: the condition, and both values"
    EITHER = "`and` or `or`: both operands"
    NOT = "a truth turned round: the operand"
    SAME = "a question whether operands are one object"
    BASE = "the object, as what its class comes from sees it"
    KIND = "a question whether an object is of a kind: it, and the kind"
    EQUAL = "a question whether operands are equal"
    WITHIN = "a question whether a container has something: that, and the container"
    SUM = "what may join two containers, or repeat one: both operands"
    OPERATION = "what is computed: the operands"
    FUNCTION = "a nameless routine: what it gives back"
    SPREAD = "the elements of a container, one by one: the container"
    NAMED = "a value that is given a name in passing: the name, and the value"
    SET = "an assignment: its targets, and the value"
    UPDATE = "an augmented assignment: the target, and the value"
    WALK = "a loop over a container: the target, and the container"
    TEST = "a condition: that"
    RETURN = "what a routine gives back: that"
    DELETE = "what is deleted"
    ALONE = "an expression that stands alone: that"
    OTHER = "anything else: its parts"


class Operator(Enum):
    """What is asked of, or done with, two operands."""

    BOTH = "both hold"
    EITHER = "one holds"
    LESS = "less"
    MORE = "more"
    AT_MOST = "not more"
    AT_LEAST = "not less"
    PLUS = "the sum"
    MINUS = "the difference"
    TIMES = "the product"
    DIVIDED = "the quotient"
    WHOLE_DIVIDED = "the quotient without its fraction"
    REST = "what a division leaves"

    @property
    def turned(self) -> Operator:
        """What is asked when the operands change places."""
        return _TURNED.get(self, self)


_TURNED = {
    Operator.LESS: Operator.MORE,
    Operator.MORE: Operator.LESS,
    Operator.AT_MOST: Operator.AT_LEAST,
    Operator.AT_LEAST: Operator.AT_MOST,
}
_QUESTIONS = frozenset({Sense.SAME, Sense.KIND, Sense.EQUAL, Sense.WITHIN, Sense.NOT})


@dataclass(slots=True, eq=False, repr=False)
class Expression:
    """One expression, or the header of one statement.

    `name` is that of a member, a key that is a plain text or a whole number, or what a plain text says; `names` are
    the keywords of a call's arguments ("" where there is none, "*" and "**" for what is spread out), or the plain keys
    of a table. `operator` is that of two operands, and of an augmented assignment.
    """

    sense: Sense
    start: int
    end: int
    parts: list[Expression] = field(default_factory=list)
    name: str | None = None
    names: tuple[str | None, ...] = ()
    reference: Reference | None = None
    statement: Statement | None = None
    operator: Operator | None = None

    def __repr__(self) -> str:
        return f"<{self.sense.name} {self.start}-{self.end}>"

    @property
    def span(self) -> Span:
        """Where it stands."""
        return Span(self.start, self.end)

    @property
    def is_negated(self) -> bool:
        """Whether it asks for the contrary of what its sense says, as `!=` does."""
        return self.sense in _QUESTIONS and self.name == NEGATED

    @property
    def is_equality(self) -> bool:
        """Whether it asks two operands whether they are equal."""
        return self.sense is Sense.EQUAL and len(self.parts) == 2 and not self.is_negated

    @property
    def is_truth(self) -> bool:
        """Whether it asks something by the signs of the language alone: its value is a truth, or stands for one."""
        if self.sense is Sense.EITHER:
            return all(part.is_truth for part in self.parts)
        return self.sense in _QUESTIONS or self.operator in _TURNED

    def walk(self) -> Iterator[Expression]:
        """It and all its parts, outer ones first."""
        waiting = [self]
        while waiting:
            expression = waiting.pop()
            yield expression
            waiting.extend(reversed(expression.parts))


def is_named(expression: Expression, symbol: Symbol | None) -> bool:
    """Whether an expression is a name of a variable and nothing else."""
    reference = expression.reference
    return expression.sense is Sense.NAME and reference is not None and reference.symbol is symbol
