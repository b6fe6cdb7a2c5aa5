"""Names that can only stand for numbers, texts and truths, where the whole program tells."""

from __future__ import annotations

from aedifex.program.analysis.cached import Analysis
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Origin, Symbol
from aedifex.program.model.statements import final_name
from aedifex.survey.givings import Giving, Givings

_PLAIN = frozenset({Sense.CONSTANT, Sense.NOTHING, Sense.TEXT})
_AS_ITS_PARTS = frozenset({Sense.OPERATION, Sense.SUM, Sense.EITHER, Sense.TUPLE})


class PlainNames(Analysis):
    """Tells which names nothing but plain values ever comes to: those that a table can be asked for."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self._givings = Givings.of(module)
        self._library = module.dialect.library

    def __contains__(self, symbol: object) -> bool:
        """Whether a name stands for a plain value whenever it is read."""
        return isinstance(symbol, Symbol) and self._is_plain(symbol, frozenset())

    def _is_plain(self, symbol: Symbol, seen: frozenset[Symbol]) -> bool:
        if symbol in seen:
            return True
        givings = self._givings.of_symbol(symbol)
        return givings is not None and all(self._gives_plain(giving, seen | {symbol}) for giving in givings)

    def _gives_plain(self, giving: Giving, seen: frozenset[Symbol]) -> bool:
        if not giving.is_walked:
            return self._is_value(giving.value, seen)
        over = giving.value
        if over.sense in (Sense.TUPLE, Sense.LIST, Sense.GROUP):
            return all(self._is_value(part, seen) for part in over.parts)
        callee = over.parts[0].reference if over.sense is Sense.CALL else None
        counts = callee is not None and callee.is_builtin and self._library.gives_numbers(callee.name)
        return counts or self._is_value(over, seen)

    def _is_value(self, value: Expression, seen: frozenset[Symbol]) -> bool:
        if value.sense in _PLAIN or value.is_truth:
            return True
        if value.sense is Sense.NAME and value.reference is not None:
            return self._is_plain(value.reference.symbol, seen)
        if value.sense in _AS_ITS_PARTS:
            return all(self._is_value(part, seen) for part in value.parts)
        if value.sense is Sense.CHOICE:
            return all(self._is_value(part, seen) for part in value.parts[1:])
        if value.sense is Sense.PART:
            return self._is_value(value.parts[0], seen)
        return value.sense is Sense.CALL and self._makes_plain(value.parts[0], seen)

    def _makes_plain(self, callee: Expression, seen: frozenset[Symbol]) -> bool:
        reference = callee.reference
        if callee.sense is Sense.MEMBER and self._is_value(callee.parts[0], seen):
            return self._library.gives_text(callee.name or "")
        if reference is None or not self._library.makes_plain_values(final_name(reference)):
            return False
        imported = reference.symbol.imported
        is_standard = imported is not None and self._library.is_module(imported.module)
        return is_standard or reference.symbol.origin is Origin.BUILTIN
