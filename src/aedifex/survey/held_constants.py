"""Which constants a name can only stand for, where the whole program tells."""

from __future__ import annotations

import itertools
from collections.abc import Iterable

from aedifex.program.analysis.cached import Analysis
from aedifex.program.model.expressions import Expression, Operator, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.survey.givings import Giving, Givings

_MOST = 16
_ROWS = frozenset({Sense.TUPLE, Sense.LIST, Sense.GROUP})


class HeldConstants(Analysis):
    """Follows constants, as they are spelled, through assignments, counting loops, arguments and plain sums.

    The set of what a name may hold is the least one to which no place at which it is given something adds anything.
    """

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self._givings = Givings.of(module)
        self._found: dict[Symbol, frozenset[str] | None] = {}
        self._working: dict[Symbol, set[str]] = {}

    def of_symbol(self, symbol: Symbol) -> frozenset[str] | None:
        """All constants that a name may stand for; None where there may be others."""
        if symbol not in self._found:
            self._found[symbol] = self._work_out(symbol)
        return self._found[symbol]

    def _work_out(self, symbol: Symbol) -> frozenset[str] | None:
        self._working = {symbol: set()}
        before: dict[Symbol, set[str]] = {}
        try:
            while before != self._working:
                before = {one: set(texts) for one, texts in self._working.items()}
                for one in before:
                    self._working[one].update(*map(self._given, self._known(one)))
        except _UnknownError:
            return None
        return frozenset(self._working[symbol])

    def _known(self, symbol: Symbol) -> list[Giving]:
        givings = self._givings.of_symbol(symbol)
        if givings is None:
            raise _UnknownError
        return givings

    def _given(self, giving: Giving) -> Iterable[str]:
        return self._walked(giving.value) if giving.is_walked else self._value(giving.value)

    def _walked(self, over: Expression) -> Iterable[str]:
        """What a loop over numbers, or over constants written out, goes through."""
        if over.sense in _ROWS:
            return set(itertools.chain.from_iterable(map(self._value, over.parts)))
        callee = over.parts[0].reference if over.sense is Sense.CALL else None
        if callee is None or not callee.is_builtin or not self.module.dialect.library.gives_numbers(callee.name):
            raise _UnknownError
        limits = [number for part in over.parts[1:] for number in self._numbers(part)]
        if len(limits) != len(over.parts) - 1 or any(over.names):
            raise _UnknownError
        counted = range(*limits)
        if len(counted) > _MOST:
            raise _UnknownError
        return map(str, counted)

    def _value(self, expression: Expression) -> Iterable[str]:
        if expression.sense is Sense.CONSTANT:
            return [self.module.source.slice(expression.span)]
        if expression.sense is Sense.CHOICE:
            return {*self._value(expression.parts[1]), *self._value(expression.parts[2])}
        if expression.sense is Sense.NAME and expression.reference is not None:
            return set(self._working.setdefault(expression.reference.symbol, set()))
        return map(str, self._computed(expression))

    def _computed(self, expression: Expression) -> set[int]:
        if expression.operator is None or len(expression.parts) != 2:
            raise _UnknownError
        ones, others = map(self._numbers, expression.parts)
        found = {_result(expression.operator, one, other) for one in ones for other in others}
        if len(found) > _MOST or any(number < 0 for number in found):
            raise _UnknownError
        return found

    def _numbers(self, expression: Expression) -> set[int]:
        texts = set(self._value(expression))
        if not all(text.isdigit() for text in texts):
            raise _UnknownError
        return {int(text) for text in texts}


class _UnknownError(Exception):
    """A name may stand for what is no constant."""


def _result(operator: Operator, one: int, other: int) -> int:
    if operator is Operator.PLUS:
        return one + other
    if operator is Operator.MINUS:
        return one - other
    if operator is Operator.REST and other:
        return one % other
    raise _UnknownError
