"""Calls whose time nobody can tell: they make something new out of plain values, and do nothing else."""

from __future__ import annotations

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.plain_values import PlainValues
from aedifex.program.analysis.values import references_in
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Origin, Reference, Symbol
from aedifex.program.model.statements import Call, Function, Kind, Shape, Statement, Value

_QUIET = frozenset({Shape.LITERAL, Shape.COMPUTED, Shape.DISPLAY, Shape.NAME})


class QuietCalls(Analysis):
    """Tells values that are one call of a builtin which only makes something, or of a quiet constructor."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.plain = PlainValues.of(module)
        self._classes = {r.symbol: s for s in module.block.statements for r in s.references if r.form is Form.CLASS}
        self._known: dict[Symbol, bool] = {}

    def is_quiet(self, statement: Statement, value: Value) -> bool:
        """Whether a value is such a call, given nothing but plain values."""
        calls = [call for call in statement.calls if value.start <= call.start < value.end]
        if len(calls) != 1 or calls[0].span != value.span or calls[0].callee is None or calls[0].callee.path:
            return False
        callee = calls[0].callee
        given = [r for r in references_in(statement, value) if r is not callee]
        return self._makes_only(callee, calls[0]) and all(r.symbol in self.plain for r in given)

    def _makes_only(self, callee: Reference, call: Call) -> bool:
        if callee.symbol.origin is Origin.BUILTIN:
            return self.module.dialect.library.only_makes(callee.name, len(call.arguments))
        return callee.symbol in self._classes and self._is_quiet_class(callee.symbol)

    def _is_quiet_class(self, symbol: Symbol) -> bool:
        if symbol not in self._known:
            self._known[symbol] = self._constructs_quietly(symbol)
        return self._known[symbol]

    def _constructs_quietly(self, symbol: Symbol) -> bool:
        """Whether a class stands by itself, and its constructor only gives its fields plain or new values."""
        statement = self._classes[symbol]
        if len(symbol.bindings) != 1 or len(statement.references) != 1 or statement.decorators or statement.calls:
            return False
        rules = self.module.dialect.rules
        methods = [f for f in self.module.all_functions if f.is_method and f.statement.block.owner is statement]
        if any(rules.customises_access(f.name) or rules.is_finalizer(f.name) for f in methods):
            return False
        return all(self._only_sets(f) for f in methods if rules.is_constructor(f.name))

    def _only_sets(self, constructor: Function) -> bool:
        receiver = constructor.receiver
        for statement in constructor.body.statements:
            if statement.kind is Kind.NOTHING or statement.is_text:
                continue
            pairs = statement.assignment.pairs if statement.assignment is not None else ()
            values = [statement.assignment.value] if statement.assignment is not None else []
            if statement.kind is not Kind.ASSIGN or statement.calls or pairs:
                return False
            if any(v is None or v.shape not in _QUIET or v.has_operations for v in values):
                return False
            if any(r.mode.writes or (r.path and r.symbol is not receiver) for r in statement.references):
                return False
        return not constructor.statement.decorators
