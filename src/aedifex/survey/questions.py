"""What code asks about one object of a class of the script, or two: decisions that one of them could take itself."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.definite_assignment import bound_before
from aedifex.program.analysis.holding.absence import Absence
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.members import receiver_class
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Operator, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Scope, ScopeKind
from aedifex.program.structure.state import Constants, is_state
from aedifex.survey.kinds.objects import class_of_objects
from aedifex.survey.kinds.walks import builtin_called
from aedifex.survey.words import words_of

ORDERING = frozenset({Operator.LESS, Operator.MORE, Operator.AT_MOST, Operator.AT_LEAST})
"""Comparisons by order."""
_ASKING = frozenset({Sense.EQUAL, Sense.SAME, Sense.KIND, Sense.WITHIN, Sense.NOT, Sense.EITHER})
_PASSING = frozenset({*_ASKING, Sense.OPERATION, Sense.SUM, Sense.PART, Sense.TUPLE, Sense.LIST})
_PLAIN = frozenset({Sense.CONSTANT, Sense.NOTHING})
_MOST_GIVEN = 1
_MOST_THINGS = 2
_OTHER = "other"


@dataclass(frozen=True, eq=False)
class Question:
    """A decision about one object, or about how it stands to another one.

    `text` is the condition in the words of a method of class `scope`, whose receiver stands for the object;
    `parameters` are the names in it that the method would have to be given. `uses` are the places of the object in the
    expression, `fields` those of its fields, `given` those of the parameters: names, or, where `is_of_two`, places of
    the other object.
    """

    module: Module
    expression: Expression
    scope: Scope
    text: str
    parameters: tuple[str, ...]
    uses: tuple[Expression, ...]
    given: tuple[Expression, ...]
    fields: tuple[Expression, ...]
    is_of_two: bool = False

    @property
    def is_inside(self) -> bool:
        """Whether the object asks itself: it stands in a method of its class."""
        reference = self.uses[0].reference
        return reference is not None and receiver_class(reference.symbol) is self.scope


def is_decision(expression: Expression) -> bool:
    """Whether an expression asks something that is so or not."""
    return expression.sense in _ASKING or expression.operator in ORDERING


class Questions(Analysis):
    """The decisions of a file that are about one object of a class of the script, or two, and about nothing else."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.holdings = Holdings.of(module)
        self.absence = Absence.of(module)
        self.constants = Constants.of(module)
        self._known: dict[Expression, Question | None] = {}
        self.methods = {function.name for function in module.all_functions if function.is_method}

    def outermost(self) -> Iterator[Expression]:
        """The decisions that stand in no other, in the order of the text."""
        for tree in self.holdings.trees:
            waiting = [tree]
            while waiting:
                expression = waiting.pop()
                if is_decision(expression):
                    yield expression
                else:
                    waiting.extend(reversed(expression.parts))

    def everywhere(self) -> Iterator[Question]:
        """All decisions about one object, those inside of others as well."""
        for tree in self.holdings.trees:
            for expression in tree.walk():
                question = self.of_expression(expression) if is_decision(expression) else None
                if question is not None:
                    yield question

    def of_expression(self, expression: Expression) -> Question | None:
        """What an expression asks of one object, if it is about one and about nothing that is not at hand."""
        if expression not in self._known:
            self._known[expression] = self._asked_by(expression)
        return self._known[expression]

    def _asked_by(self, expression: Expression) -> Question | None:
        found = _Gathered()
        if expression.statement is None or not self._gather(expression, found) or not found.fields:
            return None
        slice_of = self.module.source.slice
        things = list(dict.fromkeys(slice_of(use.span) for use in found.uses))
        uses = [use for use in found.uses if slice_of(use.span) == things[0]]
        others = [use for use in found.uses if use not in uses]
        names = tuple(dict.fromkeys(slice_of(given.span) for given in found.given))
        scope = self._class_of(uses[0])
        is_shown = self.module.echo_at(expression.start) is not None or not self._fits_a_line(expression)
        if scope is None or len(things) > _MOST_THINGS or len(names) + len(things) > 1 + _MOST_GIVEN or is_shown:
            return None
        if any(self._class_of(use) is not self._class_of(same[0]) for same in (uses, others) for use in same):
            return None
        if any(map(self.absence.may_be_absent, found.uses)):
            return None
        given = others or found.given
        if not all(self._has_value(each, expression) for each in given):
            return None
        if others:
            names = (self._name_of_other(others[0], scope),)
        words = {use: self.module.dialect.writer.receiver for use in uses} | {use: names[0] for use in others}
        text = self.module.source.slice_with(expression.span, {use.span: word for use, word in words.items()})
        text = " ".join(line.strip() for line in text.splitlines())
        fields = tuple(field for field in found.fields if field.parts[0] in uses)
        return Question(
            self.module, expression, scope, text, names, tuple(uses), tuple(given), fields, is_of_two=bool(others)
        )

    def _fits_a_line(self, expression: Expression) -> bool:
        """Whether what stands on several lines may stand on one: no comment and no text of several lines is in it."""
        span, slice_of = expression.span, self.module.source.slice
        if "\n" not in slice_of(span):
            return True
        told = any(span.holds(comment.span) for comment in self.module.comments)
        texts = (inner for inner in expression.walk() if inner.sense is Sense.CONSTANT)
        return not told and "\\" not in slice_of(span) and not any("\n" in slice_of(text.span) for text in texts)

    def _name_of_other(self, other: Expression, scope: Scope) -> str:
        """What a method calls the other object that it is given."""
        kind = self._class_of(other)
        words = words_of(kind.name) if kind is not None and kind is not scope else [_OTHER]
        return self.module.dialect.naming.member_name(words)

    def _gather(self, expression: Expression, found: _Gathered) -> bool:
        """Note what an expression is made of; answer whether all of that may stand in a method of the object."""
        sense, parts = expression.sense, expression.parts
        if sense in _PLAIN:
            return True
        if sense is Sense.NAME:
            return self._gather_name(expression, found)
        if sense is Sense.MEMBER:
            if self._class_of(parts[0]) is None:
                return parts[0].sense is Sense.MEMBER and self._gather(parts[0], found)
            found.uses.append(parts[0])
            found.fields.append(expression)
            return expression.name not in self.methods
        if sense is Sense.CALL:
            is_known = self.counts(expression) or self._computes(expression)
            return is_known and not any(expression.names) and all(self._gather(part, found) for part in parts[1:])
        return sense in _PASSING and all(self._gather(part, found) for part in parts)

    def counts(self, call: Expression) -> bool:
        """Whether a call counts what a thing has."""
        callee = call.parts[0].reference if call.parts[0].sense is Sense.NAME else None
        is_outside = callee is not None and callee.symbol.scope.kind is ScopeKind.OUTSIDE
        library = self.module.dialect.library
        return is_outside and callee is not None and library.handling_by_function(callee.name) is Handling.COUNTS

    def _computes(self, call: Expression) -> bool:
        """Whether a call of a builtin function does no more than to compute with numbers."""
        return self.module.dialect.library.computes(builtin_called(call))

    def _gather_name(self, name: Expression, found: _Gathered) -> bool:
        symbol = name.reference.symbol if name.reference is not None else None
        if symbol is None or symbol.forms & {Form.ROUTINE, Form.CLASS} or symbol.imported is not None:
            return False
        if symbol.is_module_level and self.constants.settles(symbol):
            return True
        is_own = symbol.scope.frame.kind is ScopeKind.ROUTINE or (symbol.is_module_level and is_state(symbol))
        if not is_own or self._class_of(name) is not None or symbol.name == self.module.dialect.writer.receiver:
            return False
        found.given.append(name)
        return True

    def _has_value(self, given: Expression, expression: Expression) -> bool:
        inner = given
        while inner.sense is Sense.MEMBER:
            inner = inner.parts[0]
        if inner.reference is None or expression.statement is None:
            return False
        symbol = inner.reference.symbol
        return symbol.is_module_level or bound_before(expression.statement, symbol)

    def _class_of(self, expression: Expression) -> Scope | None:
        """The class of which an expression gives an object, where a name and members say which object."""
        inner = expression
        while inner.sense is Sense.MEMBER:
            inner = inner.parts[0]
        if inner.sense is not Sense.NAME or inner.reference is None or expression not in self.holdings.known:
            return None
        scope = class_of_objects(self.holdings, self.holdings.of_expression(expression))
        return scope if scope in self.module.classes else None


class _Gathered:
    """What a decision is made of: its objects, their fields, and what would have to be given."""

    def __init__(self) -> None:
        self.uses: list[Expression] = []
        self.fields: list[Expression] = []
        self.given: list[Expression] = []
