"""Which plain first values of a set-up nobody but the run needs, and which nobody needs at all."""

from __future__ import annotations

from collections.abc import Collection
from functools import cached_property

from aedifex.program.analysis.values import plainly_given
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Symbol
from aedifex.program.model.statements import Statement
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.obstacles import lifetime_obstacles
from aedifex.program.structure.state import is_used_in_routine


class SetUpParts:
    """The set-up of a script in parts: what the constructor does, and what the run may begin with."""

    def __init__(self, module: Module, main: MainCode) -> None:
        self.module = module
        self.main = main

    @cached_property
    def sunk(self) -> list[Statement]:
        """The last statements of the set-up, as far as they only give first values to what the run alone knows.

        Where the owner would have no field left, they stay: it would be no object then.
        """
        found: list[Statement] = []
        for statement in (s for s in reversed(self.main.set_up) if s not in self.idle):
            given = plainly_given(statement)
            if not given or not all(self._is_of_run(symbol, statement) for symbol in given):
                break
            found.insert(0, statement)
        going = {symbol for statement in found for symbol in plainly_given(statement)}
        is_told = bool(self.main.routes.registrations) or not self.main.run
        return found if set(self.main.fields) - going and not is_told else []

    @cached_property
    def sunk_symbols(self) -> Collection[Symbol]:
        """The variables that are local to the run, then."""
        return {symbol for statement in self.sunk for symbol in plainly_given(statement)}

    @cached_property
    def idle(self) -> list[Statement]:
        """The statements that set what the run sets again, and that nothing reads before."""
        own = set(self.main.locals)
        layout = Layout.of(self.module)
        found: list[Statement] = []
        for statement in self.main.set_up:
            given = plainly_given(statement)
            is_unread = all(symbol in own and not self._is_used_in_set_up(symbol) for symbol in given)
            if given and is_unread and layout.stands_alone(statement) and not layout.comment_above(statement):
                found.append(statement)
        return found

    def _is_of_run(self, symbol: Symbol, statement: Statement) -> bool:
        """Whether only one statement of the set-up and the run know a variable, and it can be a local one."""
        places = [statement, *self.main.run]
        is_known = all(any(place.start <= r.start < place.end for place in places) for r in symbol.references)
        is_free = not self.module.is_known_outside(symbol.name) and not is_used_in_routine(symbol)
        is_name = not self.module.dialect.rules.is_taken(symbol.name)
        return is_known and is_free and is_name and not lifetime_obstacles(self.module, symbol)

    def _is_used_in_set_up(self, symbol: Symbol) -> bool:
        """Whether the set-up does more with a variable than to give it values."""
        uses = [r for r in symbol.references if r.mode is not Mode.WRITE or r.path]
        return any(s.start <= r.start < s.end for r in uses for s in self.main.set_up)
