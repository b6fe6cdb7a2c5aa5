"""A verb for what some statements do to one field of an object."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Operator, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Statement
from aedifex.survey.words import is_plural, words_of

_STILL = frozenset({Sense.CONSTANT, Sense.NOTHING})
_ZERO = frozenset({"0", "0.0"})


def verb_of_change(module: Module, run: Sequence[Statement], symbol: Symbol, field: str) -> str:
    """What happens to a field of what a name holds: it gets more or less, is cleared, or changes in some other way."""
    changes = list(_changes(module, run, symbol))
    steps = {change.operator for change in changes if change.sense is Sense.UPDATE}
    others = [change for change in changes if change.sense is Sense.SET]
    are_limits = all(change.parts[-1].sense in _STILL for change in others)
    is_many = is_plural(words_of(field)[-1])
    if steps == {Operator.PLUS} and are_limits:
        return "add" if is_many else "raise"
    if steps == {Operator.MINUS} and are_limits:
        return "lose" if is_many else "lower"
    if not steps and others and all(_is_nothing(module, change.parts[-1]) for change in others):
        return "clear"
    return "change"


def _changes(module: Module, run: Sequence[Statement], symbol: Symbol) -> Iterator[Expression]:
    """The assignments to members of what a name holds."""
    surroundings = Surroundings.of(module)
    for statement in (inner for outer in run for inner in outer.walk()):
        for tree in surroundings.by_statement[statement]:
            if tree.sense in (Sense.SET, Sense.UPDATE) and any(_is_member(part, symbol) for part in tree.parts[:-1]):
                yield tree


def _is_member(expression: Expression, symbol: Symbol) -> bool:
    """Whether an expression is a member of what a name holds."""
    base = expression.parts[0].reference if expression.sense is Sense.MEMBER else None
    return base is not None and base.symbol is symbol


def _is_nothing(module: Module, value: Expression) -> bool:
    """Whether a value is zero, empty or none at all."""
    if value.sense is Sense.CONSTANT:
        return value.name == "" or module.source.slice(value.span) in _ZERO
    return value.sense is Sense.NOTHING or (value.sense in (Sense.LIST, Sense.TABLE) and not value.parts)
