"""What leaves a script together with its classes, and where it goes."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from functools import cached_property
from pathlib import Path

from aedifex.program.analysis.effects import actor_of
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Statement
from aedifex.program.structure.state import Constants
from aedifex.source.errors import RefusedError


class Placement:
    """The new file of each class, and of the constants and helpers that go along.

    `homes` names the file of each class; what several of the files need goes to `shared`, or to `constants` if it is
    nothing but constants. Where files share their names, only what a single class needs goes along.
    """

    def __init__(self, module: Module, homes: Mapping[str, Path], shared: Path, constants: Path) -> None:
        self.shares_names = module.dialect.files.shares_names(module)
        self.module = module
        self.homes = homes
        self.shared_file = shared
        self.constants_file = constants
        self.constants = Constants.of(module)

    @cached_property
    def definitions(self) -> dict[Symbol, Statement]:
        """The top-level statements that could move: classes, functions and constants, by what they define."""
        found: dict[Symbol, Statement] = {}
        for symbol in self.module.symbols:
            writes = [r for r in symbol.references if r.mode.writes]
            if len(writes) == 1 and writes[0].statement is not None and writes[0].statement.block.owner is None:
                is_defined = writes[0].form in (Form.ROUTINE, Form.CLASS)
                if is_defined or (self._is_declared(writes[0]) and self.constants.settles(symbol)):
                    found[symbol] = writes[0].statement
        return found

    def _is_declared(self, setting: Reference) -> bool:
        """Whether what sets a variable makes it one of its file: what nothing declares is one of all files."""
        return setting.declares or not self.module.dialect.writer.declares

    def needs(self, statement: Statement) -> set[Symbol]:
        """The module-level symbols that a definition uses, its own aside."""
        return self._symbols_of(self.module.references_within(statement.span), statement)

    def needs_first(self, statement: Statement) -> set[Symbol]:
        """Those of them that must be there before it: all, or where files share names, what it asks for while it is
        read.
        """
        used = self.module.references_within(statement.span)
        if self.shares_names:
            used = [reference for reference in used if actor_of(reference.scope) is None]
        return self._symbols_of(used, statement)

    def _symbols_of(self, used: Iterable[Reference], statement: Statement) -> set[Symbol]:
        own = {r.symbol for r in statement.references if r.mode.writes and r.scope.kind is ScopeKind.MODULE}
        return {r.symbol for r in used if r.symbol.is_module_level and r.symbol not in own}

    @cached_property
    def place(self) -> dict[Symbol, Path]:
        """The new file of each symbol that moves."""
        place: dict[Symbol, Path] = {}
        for class_name, path in self.homes.items():
            symbol = self.module.scope.symbols.get(class_name)
            if symbol is None or symbol not in self.definitions:
                raise RefusedError(f"{self.module.path.name} has no class {class_name!r} at its top level")
            place[symbol] = path
        classes = set(place)
        wanted = self._wanted_by(place)
        while True:
            grown = dict(place)
            for symbol in reversed(self.in_order(wanted)):  # what uses others first, so that it no longer counts
                users = wanted[symbol]
                if symbol not in classes and place.get(symbol) != self.shared_file:
                    alone = len(users) == 1 and not self._is_used_by_script(symbol, grown)
                    if not self.shares_names:
                        grown[symbol] = next(iter(users)) if alone else self.shared_file
                    elif alone and not self.needs_first(self.definitions[symbol]):
                        grown[symbol] = next(iter(users))
            grown = self._settle(grown) if not self.shares_names else grown
            if grown == place:
                return self._with_constants_named(place)
            place = grown
            wanted = self._wanted_by(place)

    def _with_constants_named(self, place: dict[Symbol, Path]) -> dict[Symbol, Path]:
        shared = [symbol for symbol, path in place.items() if path == self.shared_file]
        if any(not self.constants.settles(symbol) for symbol in shared):
            return place
        return {s: self.constants_file if path == self.shared_file else path for s, path in place.items()}

    def _wanted_by(self, place: dict[Symbol, Path]) -> dict[Symbol, set[Path]]:
        wanted: dict[Symbol, set[Path]] = defaultdict(set)
        for symbol, path in place.items():
            for need in self.needs(self.definitions[symbol]):
                if need in self.definitions:
                    wanted[need].add(path)
        return wanted

    def _settle(self, place: dict[Symbol, Path]) -> dict[Symbol, Path]:
        """Names set by one assignment stay together: in one file, or else in the shared one."""
        settled = dict(place)
        for symbol, path in place.items():
            for other, statement in self.definitions.items():
                if statement is self.definitions[symbol] and settled.get(other) != path:
                    settled[other] = settled[symbol] = self.shared_file
        return settled

    def _is_used_by_script(self, symbol: Symbol, place: dict[Symbol, Path]) -> bool:
        gone = [self.definitions[other].span for other in place] + [self.definitions[symbol].span]
        return any(not any(s.start <= r.start < s.end for s in gone) for r in symbol.references)

    @cached_property
    def paths(self) -> list[Path]:
        """The new files, in the order in which their first parts stood."""
        return list(dict.fromkeys(self.place[symbol] for symbol in self.in_order(self.place)))

    @cached_property
    def moving(self) -> list[Statement]:
        """The statements that leave the script."""
        return list(dict.fromkeys(self.definitions[symbol] for symbol in self.in_order(self.place)))

    def in_order(self, symbols: Iterable[Symbol]) -> list[Symbol]:
        """Symbols as their definitions stand in the script."""
        return sorted(symbols, key=lambda symbol: self.definitions[symbol].start)
