"""Which variables hold nothing but plain values: numbers, texts and the like, which nobody can change inside."""

from __future__ import annotations

from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.values import references_in, value_of
from aedifex.program.model.names import Form, Reference, Symbol
from aedifex.program.model.statements import Kind, Shape, Statement, Value, final_name

_COMBINED = frozenset({Shape.COMPUTED, Shape.RISKY, Shape.NAME})
_BUILT_IN = frozenset({Shape.LITERAL, Shape.DISPLAY})


class PlainValues(Analysis):
    """Tells what variables hold, by the values that they are given in plain sight."""

    @cached_property
    def symbols(self) -> set[Symbol]:
        """All symbols that are never bound to anything but plain values, by their own values or by one another's.

        It is the greatest fixed point: what depends on itself only is as plain as the rest.
        """
        plain = {s for scope in self.module.scope.walk() for s in scope.symbols.values() if s.bindings}
        while doubted := {s for s in plain if not all(self._gives_plain(r, plain) for r in s.bindings)}:
            plain -= doubted
        return plain

    def __contains__(self, symbol: object) -> bool:
        """Whether all that a symbol is ever bound to is plain."""
        return symbol in self.symbols

    def is_built_in(self, symbol: Symbol) -> bool:
        """Whether operators on what a symbol holds are the language's own: it is plain, or written out in place."""
        if symbol in self:
            return True
        values = [value_of(reference) for reference in symbol.bindings]
        return bool(values) and all(value is not None and value.shape in _BUILT_IN for value in values)

    def is_operation_quiet(self, statement: Statement, value: Value) -> bool:
        """Whether working out a value that combines names runs no code of the program."""
        return all(self.is_built_in(r.symbol) for r in references_in(statement, value))

    def _gives_plain(self, reference: Reference, plain: set[Symbol]) -> bool:
        statement = reference.statement
        if statement is None:
            return False
        if reference.form is Form.LOOP:
            return statement.kind is Kind.EACH and self._counts(statement)
        value = value_of(reference)
        if value is None:
            return False
        if value.shape in _COMBINED:
            return all(r.symbol in plain for r in references_in(statement, value))
        return value.shape is Shape.LITERAL or (value.shape is Shape.CALL and self._makes_plain(statement, value))

    def _counts(self, statement: Statement) -> bool:
        """Whether a loop goes over numbers only."""
        over = [call for call in statement.calls if call.callee is not None and not call.callee.path]
        rules = self.module.dialect.library
        return len(over) == 1 and rules.gives_numbers(over[0].callee.name if over[0].callee is not None else "")

    def _makes_plain(self, statement: Statement, value: Value) -> bool:
        """Whether a value is what a function of the library gives back that makes plain values only."""
        call = next((c for c in statement.calls if c.span == value.span and c.callee is not None), None)
        if call is None or call.callee is None:
            return False
        is_library = call.callee.symbol.origin is not None or call.callee.symbol.imported is not None
        return is_library and self.module.dialect.library.makes_plain_values(final_name(call.callee))
