"""What a script hangs on an object of a library that one variable holds: `ball.dx = 2`, unknown to that library."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.reflection import reaches_members
from aedifex.program.analysis.values import is_settled, only_value
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Call, Kind
from aedifex.program.structure.obstacles import hindrance_obstacles, is_hard_to_echo
from aedifex.program.structure.room import has_room_for_declaration

_SETTING = frozenset({Kind.ASSIGN, Kind.UPDATE})


class Carried(Analysis):
    """The values that library objects carry for a file, where each of them might as well be a variable."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        made = ((symbol, library_maker(module, symbol)) for symbol in module.scope.symbols.values())
        self._makers = {symbol: maker for symbol, maker in made if maker is not None}

    @cached_property
    def values(self) -> Mapping[Symbol, tuple[str, ...]]:
        """What each variable's object carries, in the order of the text, by the names of the members."""
        if not self._makers or any(reaches_members(self.module, s) for s in self.module.walk()):
            return {}
        members: dict[str, list[Reference]] = {}
        for symbol in self._makers:
            for reference in symbol.references:
                if reference.path and reference.path[0].kind is AccessKind.ATTRIBUTE and reference.path[0].name:
                    members.setdefault(reference.path[0].name, []).append(reference)
        mentioned = Counter(name for statement in self.module.walk() for name in statement.attributes)
        found: dict[Symbol, list[str]] = {}
        heirs = {
            use.symbol for name, uses in members.items() for use in uses if _sets(use) and self._knows(use.symbol, name)
        }
        for name, uses in members.items():
            holders = list(dict.fromkeys(use.symbol for use in uses))
            if (
                len(uses) == mentioned[name]
                and heirs.isdisjoint(holders)
                and all(self._carries(symbol, name) for symbol in holders)
            ):
                for symbol in holders:
                    found.setdefault(symbol, []).append(name)
        return {symbol: tuple(names) for symbol, names in found.items()}

    def variable(self, symbol: Symbol, member: str) -> str:
        """The variable that a value would be."""
        return self.module.dialect.naming.joined(symbol.name, member)

    def _knows(self, symbol: Symbol, member: str) -> bool:
        """Whether the library may know of a member."""
        return self.module.dialect.library.may_have_member(self._makers[symbol], member, self.module.path.parent)

    def _carries(self, symbol: Symbol, member: str) -> bool:
        """Whether an object is given a member of the script's own where it is made, that can as well be a variable."""
        name = self.variable(symbol, member)
        if name in self.module.names_in_use or hindrance_obstacles(self.module, [symbol.name, name]):
            return False
        uses = [use for use in symbol.references if use.path and use.path[0].name == member]
        first = uses[0].statement
        is_set_first = _sets(uses[0]) and first is not None and first.block.owner is None and first.kind is Kind.ASSIGN
        return is_set_first and all(self._can_be_variable(use) for use in uses)

    def _can_be_variable(self, use: Reference) -> bool:
        if is_hard_to_echo(self.module, use) or self.module.echo_at(use.start) is not None:
            return False
        if len(use.path) > 1 or use.path_mode in (None, Mode.READ, Mode.CALL):
            return use.path_mode is not Mode.DELETE
        is_plain = use.statement is not None and use.statement.kind in _SETTING
        return _sets(use) and is_plain and has_room_for_declaration(self.module, use.scope)


def _sets(use: Reference) -> bool:
    return len(use.path) == 1 and use.path_mode in (Mode.WRITE, Mode.READ_WRITE)


def library_maker(module: Module, symbol: Symbol) -> Reference | None:
    """What of a library makes the object that a variable always holds, if it does."""
    found = only_value(symbol)
    if found is None or not is_settled(symbol) or module.is_known_outside(symbol.name):
        return None
    made: list[Call] = [call for call in found.statement.calls if call.start == found.value.start]
    maker = made[0].callee if len(made) == 1 and made[0].end == found.value.end else None
    is_of_library = maker is not None and maker.symbol.imported is not None and maker.symbol.target is None
    return maker if is_of_library and maker is not None and maker.symbol.scope.kind is not ScopeKind.ROUTINE else None
