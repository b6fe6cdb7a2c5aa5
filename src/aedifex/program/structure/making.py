"""What a routine that makes an application does itself, and what it hands to the owner of the handlers."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from functools import cached_property

from aedifex.program.analysis.values import only_value
from aedifex.program.model.enclosed import Enclosed
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.statements import BRINGING, Statement
from aedifex.program.structure.main_code import MainCode


class Making:
    """Sorts what such a routine, whose body stands at the top level, is given and makes; nothing where there is none.

    Its statements are those that have to do with the application, with what it is given, or with what these make.
    """

    def __init__(self, module: Module, main: MainCode, around: Enclosed | None) -> None:
        self.module = module
        self.main = main
        self.around = around

    @property
    def _values(self) -> Mapping[str, str]:
        """The parameter for each name that stands for what the routine is given."""
        return self.around.parameter_of if self.around is not None else {}

    @cached_property
    def supplied(self) -> Mapping[str, Symbol]:
        """The variable that has what the routine is given, for each of its parameters."""
        values = self._values
        found: dict[str, Symbol] = {}
        for statement in self.module.block.statements:
            for pair in statement.assignment.pairs if statement.assignment is not None else ():
                taken = [r.name for r in self.module.references_within(pair.value.span) if r.name in values]
                found |= {values[name]: pair.target.symbol for name in taken}
        return found

    @cached_property
    def receiving(self) -> list[Statement]:
        """The statements that give these variables what the routine is given."""
        values = self._values
        return [s for s in self.module.block.statements if any(r.name in values for r in s.references)]

    @cached_property
    def statements(self) -> list[Statement]:
        """What the routine does before the application is told of its handlers, in order."""
        if self.around is None:
            return []
        able = [s for s in self.main.staying if s not in self.main.closing and s.kind not in BRINGING]
        able = [s for s in able if s not in self.receiving]
        found: list[Statement] = []
        known: set[Symbol] = set()
        while more := [s for s in able if s not in found and (self._is_about_it(s) or not known.isdisjoint(_used(s)))]:
            found += more
            known |= {r.symbol for s in more for inner in s.walk() for r in inner.references if r.binds}
        return [s for s in able if s in found]

    def _is_about_it(self, statement: Statement) -> bool:
        is_doc = statement.is_text and statement is not self.module.doc
        is_given = not _used(statement).isdisjoint(self.supplied.values())
        return is_doc or is_given or self.main.routes.is_about_application(statement)

    @cached_property
    def known(self) -> Collection[Symbol]:
        """What only the routine knows: what it is given, and all that its own statements make."""
        made = {r.symbol for s in self.statements for inner in s.walk() for r in inner.references if r.binds}
        return {*self.supplied.values(), *made} if self.around is not None else ()

    @cached_property
    def known_outside(self) -> Collection[Reference]:
        """Where the routine itself names what it is given, or an application."""
        own = [*self.statements, *self.main.closing]
        named = {*self.supplied.values(), *self.main.routes.applications}
        inside = [r for r in self.module.references if r.symbol in named]
        return {r for r in inside if any(s.start <= r.start < s.end for s in own)} if self.around is not None else ()

    @cached_property
    def handed_on(self) -> dict[Symbol, str]:
        """The variables that the owner is handed, each with the parameter's name: handlers, or its set-up, use them."""
        named = {symbol: name for name, symbol in self.supplied.items()}
        named |= {symbol: symbol.name for symbol in self.main.routes.applications}
        return {symbol: name for symbol, name in named.items() if self.outside(symbol)} if self.around else {}

    def outside(self, symbol: Symbol) -> list[Reference]:
        """Where something else than the routine names a variable; what tells an application is given that."""
        own = [*self.statements, *self.main.closing, *self.receiving]
        own += self.main.run if symbol in self.main.routes.served else []
        return [r for r in symbol.references if not any(s.start <= r.start < s.end for s in own)]

    @property
    def kept_outside(self) -> Collection[str]:
        """The parameters that only the routine itself uses."""
        return [name for name, symbol in self.supplied.items() if symbol not in self.handed_on]

    @property
    def unknown(self) -> list[Reference]:
        """Where something else names what only the routine knows, and the owner is not handed."""
        moved = {*self.main.fields}
        lost = [s for s in self.known if s not in self.handed_on and s not in moved]
        staying = [f.statement for f in self.module.functions if f not in self.main.functions]
        kept = [r for statement in staying for r in self.module.references_within(statement.span)]
        return sorted(
            {*(r for s in lost for r in self.outside(s)), *(r for r in kept if r.symbol in self.handed_on)},
            key=lambda reference: reference.start,
        )

    @property
    def torn(self) -> list[Symbol]:
        """The variables that both need, and that do not keep what the routine is given."""
        both = [s for s in self.handed_on if any(r.symbol is s for r in self.known_outside)]
        return [symbol for symbol in both if only_value(symbol) is None]


def _used(statement: Statement) -> set[Symbol]:
    return {r.symbol for inner in statement.walk() for r in inner.references}
