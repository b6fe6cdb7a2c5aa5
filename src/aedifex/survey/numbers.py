"""What the numbers that are written out in a file are for."""

from __future__ import annotations

import re
from collections.abc import Hashable, Iterator
from dataclasses import dataclass
from enum import Enum
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import only_value
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Operator, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import ScopeKind
from aedifex.program.structure.state import Constants
from aedifex.survey.kinds.objects import class_of_objects
from aedifex.survey.words import words_of

_VALUE = "value"
"""A field of this name is what its class is called."""
_PLAIN = re.compile(r"\d+(\.\d+)?")
_PLAINEST = frozenset({0.0, 1.0, 2.0})
_ORDER = frozenset({Operator.LESS, Operator.MORE, Operator.AT_MOST, Operator.AT_LEAST})
_DIVISION = frozenset({Operator.DIVIDED, Operator.WHOLE_DIVIDED, Operator.REST})
_PLACES = frozenset({Sense.NAME, Sense.MEMBER})
_ADDING = frozenset({Operator.PLUS, Operator.MINUS})


class Role(Enum):
    """What a number is for."""

    LIMIT = "something is compared with it"
    VALUE = "something is given it"
    STEP = "something grows or shrinks by it"
    DIVISOR = "something is divided by it"
    FACTOR = "something is multiplied by it"


@dataclass(frozen=True, eq=False)
class Subject:
    """What a number has to do with: a variable or a field, or how many things it holds, and the words of its name."""

    key: Hashable
    words: tuple[str, ...]


@dataclass(frozen=True, eq=False)
class Number:
    """A number that is written out: its role, what it has to do with, and how.

    `operator` is the one between the two, the subject first. `target` is what the whole is given to, if that is
    anything. `is_direct` tells that nothing but a sign stands between the two.
    """

    expression: Expression
    text: str
    role: Role
    subject: Subject
    operator: Operator | None = None
    target: Subject | None = None
    is_direct: bool = True

    @property
    def value(self) -> float:
        """The number."""
        return float(self.text)


class Numbers(Analysis):
    """The numbers of a file that have a role, but for 0, 1 and 2, which say what they are."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.holdings = Holdings.of(module)
        self.found = [number for tree in self.holdings.trees for number in self._in_tree(tree)]

    def _in_tree(self, tree: Expression) -> Iterator[Number]:
        target = self.subject_of(tree.parts[0]) if tree.sense in (Sense.SET, Sense.UPDATE) and tree.parts else None
        waiting = [tree]
        while waiting:
            around = waiting.pop()
            waiting.extend(reversed(around.parts))
            for part in around.parts:
                text = self.module.source.slice(part.span) if part.sense is Sense.CONSTANT else ""
                if _PLAIN.fullmatch(text) and float(text) not in _PLAINEST:
                    number = self._number(part, text, around, tree, target)
                    if number is not None:
                        yield number

    def _number(
        self, part: Expression, text: str, around: Expression, tree: Expression, target: Subject | None
    ) -> Number | None:
        if around is tree and tree.sense is Sense.SET:
            is_value = len(tree.parts) == 2 and part is tree.parts[1] and target is not None
            return Number(part, text, Role.VALUE, target) if is_value and target else None
        if around is tree and tree.sense is Sense.UPDATE:
            is_step = tree.operator in _ADDING and target is not None
            return Number(part, text, Role.STEP, target, tree.operator, target) if is_step and target else None
        if around.operator is None or len(around.parts) != 2:
            return None
        is_right = part is around.parts[1]
        other = around.parts[0 if is_right else 1]
        is_signed = other.sense is Sense.OPERATION and len(other.parts) == 1
        is_direct = (other.parts[0] if is_signed else other).sense in _PLACES
        subject = self.subject_of(other)
        if subject is None and around.operator is Operator.TIMES and is_right:
            subject = target
        if subject is None:
            return None
        operator = around.operator if is_right else around.operator.turned
        if operator in _ORDER:
            if any(map(self.is_difference, other.walk())):
                return None  # how near two things are to each other says nothing of either
            return Number(part, text, Role.LIMIT, subject, operator, target)
        if operator in _DIVISION and is_right:
            return Number(part, text, Role.DIVISOR, subject, operator, target, is_direct)
        if operator is Operator.TIMES and not self.is_multiplied_again(around, text):
            return Number(part, text, Role.FACTOR, subject, operator, target, is_direct)
        is_own = target is not None and target.key == subject.key and tree.parts[1] is around
        return Number(part, text, Role.STEP, subject, operator, target) if operator in _ADDING and is_own else None

    def is_difference(self, expression: Expression) -> bool:
        """Whether an expression says by how much one variable or field is more than another."""
        is_minus = expression.operator is Operator.MINUS and len(expression.parts) == 2
        return is_minus and all(self.subject_of(part) is not None for part in expression.parts)

    def is_multiplied_again(self, product: Expression, text: str) -> bool:
        """Whether a product is part of a sum that is multiplied by the same number, which is for something else."""
        surroundings = Surroundings.of(self.module)
        inner, around, is_in_sum = product, surroundings.around(product), False
        while around is not None:
            others = [part for part in around.parts if part is not inner]
            is_again = is_in_sum and around.operator is Operator.TIMES
            if is_again and text in {self.module.source.slice(part.span) for part in others}:
                return True
            is_in_sum = is_in_sum or around.operator in _ADDING
            inner, around = around, surroundings.around(around)
        return False

    @cached_property
    def growths(self) -> list[tuple[Subject, Subject | None]]:
        """What something is added to, with that, where it is a variable or field itself."""
        found: list[tuple[Subject, Subject | None]] = []
        for tree in self.holdings.trees:
            value = tree.parts[-1] if tree.parts else tree
            is_sum = tree.sense is Sense.SET and value.operator is Operator.PLUS
            what = self.subject_of(tree.parts[0]) if is_sum or tree.sense is Sense.UPDATE else None
            if what is None or (tree.sense is Sense.UPDATE and tree.operator is not Operator.PLUS):
                continue
            first, added = (self.subject_of(value.parts[0]), value.parts[1]) if is_sum else (what, value)
            if first is not None and first.key == what.key:
                found.append((what, self.subject_of(added) if added.sense in _PLACES else None))
        return found

    def added_to(self, subject: Subject) -> Subject | None:
        """The one variable or field that something is added to."""
        found = {what.key: what for what, added in self.growths if added is not None and added.key == subject.key}
        return next(iter(found.values())) if len(found) == 1 else None

    def subject_of(self, expression: Expression) -> Subject | None:
        """What an expression is about: a variable or field, as it is, counted, turned or computed with."""
        sense, parts = expression.sense, expression.parts
        if sense is Sense.NAME:
            reference = expression.reference
            return Subject(reference.symbol, tuple(words_of(reference.name))) if reference is not None else None
        if sense is Sense.MEMBER and expression.name is not None:
            inner = parts[0]
            scope = class_of_objects(self.holdings, self.holdings.of_expression(inner))
            if scope in self.module.classes:
                words = words_of(scope.name if scope and expression.name == _VALUE else expression.name)
                return Subject((scope, expression.name), tuple(words))
            around = self.subject_of(inner)
            return Subject((around.key, expression.name), tuple(words_of(expression.name))) if around else None
        if sense is Sense.CALL and len(parts) == 2 and parts[0].sense is Sense.NAME and parts[0].reference is not None:
            library, name = self.module.dialect.library, parts[0].reference.name
            inner_subject = self.subject_of(parts[1])
            if inner_subject is None or parts[0].reference.symbol.scope.kind is not ScopeKind.OUTSIDE:
                return None
            if library.handling_by_function(name) is Handling.COUNTS:
                return Subject((name, inner_subject.key), inner_subject.words)
            return inner_subject if library.makes_plain_values(name) else None
        if sense in (Sense.OPERATION, Sense.SUM) and expression.operator not in _ORDER:
            return next((found for part in parts if (found := self.subject_of(part)) is not None), None)
        return None


def constants_at_top(module: Module, value: str, before: int) -> list[str]:
    """The names of the constants with which a file begins that are a number, each the only thing that is called so."""
    constants, found = Constants.of(module), []
    for symbol in (s for s in module.scope.symbols.values() if constants.settles(s)):
        only = only_value(symbol)
        is_it = only is not None and only.statement.end <= before and module.source.slice(only.value.span) == value
        if is_it and not any(other.name == symbol.name and other is not symbol for other in module.symbols):
            found.append(symbol.name)
    return found
