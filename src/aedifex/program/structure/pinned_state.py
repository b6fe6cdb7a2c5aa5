"""Variables that the definitions of a script need where they are: they stay at the top level."""

from __future__ import annotations

from collections.abc import Iterable

from aedifex.program.analysis.values import only_value, references_in
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, Symbol
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.early_uses import waits_for_call
from aedifex.program.structure.own_names import routines_apart
from aedifex.program.structure.state import Constants, is_state


class PinnedState:
    """The variables that a class of the script, a routine with a receiver of its own, or a function's signature uses.

    Such a variable stays if it gets its one value at the top level and keeps it, and if what that value needs stays as
    well; so do the functions that a class calls, if all the state that they use stays.
    """

    def __init__(self, module: Module, constants: Constants) -> None:
        self.module = module
        self.constants = constants
        self._functions = {function.symbol: function for function in module.functions}
        self.symbols = self._find()

    def _find(self) -> set[Symbol]:
        found: set[Symbol] = set()
        for symbol in self._needed_by_definitions():
            closure = self._closure(symbol)
            if all(self._may_stay(need) for need in closure):
                found |= {need for need in closure if need not in self._functions}
        return found

    def _needed_by_definitions(self) -> set[Symbol]:
        needed: set[Symbol] = set()
        for statement in self.module.block.statements:
            if statement.kind is Kind.CLASS:
                needed |= self._needs(self._within(statement))
        for span in routines_apart(self.module):
            needed |= self._needs(self.module.references_within(span))
        for function in self._functions.values():
            named = (r for r in function.statement.references if r.form is not Form.ROUTINE)
            needed |= self._needs(r for r in named if not waits_for_call(function.statement, r))
        return needed

    def _within(self, statement: Statement) -> Iterable[Reference]:
        return self.module.references_within(statement.span)

    def _needs(self, references: Iterable[Reference]) -> set[Symbol]:
        """The variables and functions among what is referred to."""
        return {r.symbol for r in references if self._moves(r.symbol)}

    def _moves(self, symbol: Symbol) -> bool:
        if not symbol.is_module_level:
            return False
        return symbol in self._functions or (is_state(symbol) and not self.constants.settles(symbol))

    def _closure(self, symbol: Symbol) -> set[Symbol]:
        found: set[Symbol] = set()
        waiting = [symbol]
        while waiting:
            current = waiting.pop()
            if current not in found:
                found.add(current)
                waiting += self._needs(self._used_by(current))
        return found

    def _used_by(self, symbol: Symbol) -> Iterable[Reference]:
        function = self._functions.get(symbol)
        if function is not None:
            return self._within(function.statement)
        found = only_value(symbol)
        if found is None:
            return ()
        others = [p.target for p in found.pairs if p.target.symbol is not symbol]
        return [*references_in(found.statement, found.value), *others]

    def _may_stay(self, symbol: Symbol) -> bool:
        if symbol in self._functions:
            return True
        found = only_value(symbol)
        if found is None or any(r.form is Form.DECLARATION for r in symbol.references):
            return False
        statement = found.statement
        return statement.kind is Kind.ASSIGN and statement.block.owner is None and bool(statement.assignment)
