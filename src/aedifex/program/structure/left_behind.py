"""What stays at the top level because something in it cannot move, so that the rest can."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator

from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Function, Kind, Routine, Statement
from aedifex.program.structure.leaving import Leaving
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.obstacles import function_obstacles, sees_itself_go, variable_obstacles
from aedifex.program.structure.state import is_state

_ABLE_TO_STAY = frozenset({Kind.ASSIGN, Kind.EXPRESSION, Kind.BRANCH, Kind.CHECK, Kind.GUARDED, Kind.RESOURCE})


class LeftBehind:
    """Finds what must stay: variables and functions that cannot move, and all that these hang on.

    A function that stays keeps the state that it touches, and the functions that touch any; a variable that stays keeps
    the top-level statements that set it; a statement that stays keeps what it uses, and what must be noticed before it.
    `needed` are names that must stay whatever else does.
    """

    def __init__(self, module: Module, needed: Collection[str] = ()) -> None:
        self.module = module
        self.needed = needed
        self.effects = Effects.of(module)
        self.main = MainCode.of(module)
        self._functions = {function.symbol: function for function in module.functions}
        self._symbols: set[Symbol] = set()
        self._kept: set[Function] = set()
        self._statements: set[Statement] = set()
        self._is_possible = True

    def find(self) -> Leaving | None:
        """What stays, and what goes along in the main code; None if that leaves nothing to move."""
        inline = [f.statement for f in self.module.functions if self._may_go_along(f)]
        while self._is_possible:
            main = MainCode(self.module, self._leaving(inline))
            known = len(self._symbols), len(self._kept), len(self._statements)
            self._keep_what_cannot_move(main)
            for statement in main.staying:
                if statement in main.closing:
                    continue  # it can ask the owner for all that it needs
                self._keep_uses(self._uses_of(statement))
            for _, earlier in main.overtaking:
                self._keep_statement(earlier)
            if known == (len(self._symbols), len(self._kept), len(self._statements)):
                return self._leaving(inline) if main.fields or main.routes.handlers else None
        return None

    def _leaving(self, inline: Iterable[Statement]) -> Leaving:
        return Leaving(frozenset(self._symbols), frozenset(self._kept), frozenset(self._statements), frozenset(inline))

    def _may_go_along(self, function: Function) -> bool:
        """Whether a decorated function can be defined in the main code, where it stands: nothing else names it.

        Where a library finds things of the script by their names, all functions keep theirs.
        """
        statement, library = function.statement, self.module.dialect.library
        if not statement.decorators or any(map(library.is_served_by_name, self.module.imported)):
            return False
        touched = self.effects.transitive[function].touches
        others = [r for r in function.symbol.references if r.form is not Form.ROUTINE]
        is_named_here = all(r.scope.kind is ScopeKind.MODULE for r in others)
        is_of_main_code = any(s in touched for s in self.main.fields) and is_named_here
        return is_of_main_code and not function_obstacles(self.module, function, keeps_decorators=True)

    # -- the closure

    def _keep_what_cannot_move(self, main: MainCode) -> None:
        for symbol in main.fields:
            if symbol.name in self.needed or variable_obstacles(self.module, symbol):
                self._keep_symbol(symbol)
        for symbol in main.locals:
            if symbol.name in self.needed or sees_itself_go(self.module, symbol):
                self._keep_symbol(symbol)
        for function in main.functions:
            if function.name in self.needed or function_obstacles(self.module, function):
                self._keep_function(function)

    def _keep_symbol(self, symbol: Symbol) -> None:
        if symbol in self._symbols:
            return
        self._symbols.add(symbol)
        for reference in symbol.references:
            if reference.mode.writes and reference.scope.kind is ScopeKind.MODULE and reference.statement is not None:
                self._keep_statement(reference.statement.outermost)

    def _keep_function(self, function: Function) -> None:
        if function in self._kept:
            return
        self._kept.add(function)
        for inner in _inside(function, self.module):
            self._keep_uses(use.symbol for scope in inner.scope.walk() for use in scope.uses)

    def _keep_statement(self, statement: Statement) -> None:
        if statement in self._statements:
            return
        is_able = statement.kind in _ABLE_TO_STAY or (statement.kind is Kind.EACH and statement not in self.main.run)
        is_told = statement in self.main.routes.registrations  # all of them, in their order, or none
        if (
            not is_able
            or is_told
            or statement is self.module.guard
            or any(i.kind is Kind.LOOP for i in statement.walk())
        ):
            self._is_possible = False
            return
        self._statements.add(statement)
        self._keep_uses(self._uses_of(statement))

    def _keep_uses(self, symbols: Iterable[Symbol]) -> None:
        for symbol in list(symbols):
            function = self._functions.get(symbol)
            if function is not None and any(map(self._would_move, self.effects.transitive[function].touches)):
                self._keep_function(function)
            elif self._would_move(symbol):
                self._keep_symbol(symbol)

    def _would_move(self, symbol: Symbol) -> bool:
        return symbol.is_module_level and is_state(symbol) and not self.main.constants.settles(symbol)

    def _uses_of(self, statement: Statement) -> Iterator[Symbol]:
        """What a statement that stays needs: a definition, when it is read; a class, whenever its methods run."""
        if statement.kind is Kind.CLASS:
            yield from (reference.symbol for reference in self.module.references_within(statement.span))
            return
        for inner in statement.walk():
            yield from (r.symbol for r in inner.references if _is_use(r))


def _is_use(reference: Reference) -> bool:
    return reference.form not in (Form.ROUTINE, Form.CLASS, Form.DECLARATION)


def _inside(function: Function, module: Module) -> Iterator[Routine]:
    yield function
    yield from (r for r in module.routines if r is not function and r.scope.within(function.scope))
