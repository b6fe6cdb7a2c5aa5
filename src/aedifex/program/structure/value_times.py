"""What may change between two statements of the top-level code: when a first value could be worked out as well."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from aedifex.program.analysis.alterations import Alterations
from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.plain_values import PlainValues
from aedifex.program.analysis.quiet_calls import QuietCalls
from aedifex.program.model.module import Module
from aedifex.program.model.names import Origin, Reference, Symbol
from aedifex.program.model.statements import Kind, Pair, Shape, Statement, Value
from aedifex.program.structure.imports import imports_noticeably
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.state import Constants, is_state

PURE = frozenset({Shape.LITERAL, Shape.COMPUTED, Shape.DISPLAY, Shape.NAME})
_STILL = frozenset({Kind.NOTHING, Kind.DECLARE})


class ValueTimes(Analysis):
    """Answers whether a value is the same at two times, and whether anybody notices when it is worked out."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.effects = Effects.of(module)
        self.alterations = Alterations.of(module)
        self.plain = PlainValues.of(module)
        self.constants = Constants.of(module)
        self.calls = QuietCalls.of(module)

    def is_pure(self, statement: Statement, value: Value) -> bool:
        """Whether working a value out has no effect, and needs nothing but what its names hold."""
        if value.shape in PURE:
            return not value.has_operations or self.plain.is_operation_quiet(statement, value)
        return self.calls.is_quiet(statement, value)

    def is_only_risky(self, statement: Statement, value: Value) -> bool:
        """Whether working a value out has no effect but that it may fail."""
        return value.shape is Shape.RISKY and self.plain.is_operation_quiet(statement, value)

    def is_still(self, statement: Statement) -> bool:
        """Whether a statement does nothing that could be told from outside."""
        if statement.kind in _STILL or statement is self.module.doc:
            return True
        if statement.kind is Kind.IMPORT:
            return not imports_noticeably(self.module, statement)
        if statement.kind is Kind.ROUTINE:
            return not statement.calls and not statement.decorators
        pairs = pairs_of(statement)
        return bool(pairs) and all(self.is_pure(statement, pair.value) for pair in pairs)

    def is_settled(self, name: Reference, between: Iterable[Statement], *, is_same_object: bool) -> bool:
        """Whether top-level statements leave to a name its object, and, unless that is all, what is in the object."""
        symbol = name.symbol
        if not symbol.is_module_level:
            return True
        statements = list(between)
        if any(symbol in self.effects.of_statement(statement).rebinds for statement in statements):
            return False
        if is_same_object or symbol in self.plain:
            return True
        return not any(symbol in self.alterations.during(statement) for statement in statements)

    def may_take_out(self, statement: Statement, count: int) -> bool:
        """Whether so many of the names that an assignment sets can be taken out of it."""
        pairs = pairs_of(statement)
        if not count or not Layout.of(self.module).stands_alone(statement):
            return False
        return count == len(pairs) or all(pair.value.shape in PURE for pair in pairs)

    def is_asked_meanwhile(self, statement: Statement, symbol: Symbol) -> bool:
        """Whether an assignment also asks for what it sets, as one does that swaps two values."""
        return any(r.symbol is symbol and r.mode.reads for r in statement.references)

    def is_state_of_others(self, name: Reference) -> bool:
        """Whether a name that is not a class's own is state, or may be, which the class is not to know."""
        if name.symbol.origin is Origin.UNKNOWN:
            return True
        return is_state(name.symbol) and not self.constants.settles(name.symbol)


def pairs_of(statement: Statement) -> Sequence[Pair]:
    """What an assignment sets, name by name."""
    if statement.kind is not Kind.ASSIGN or statement.assignment is None:
        return ()
    return statement.assignment.pairs
