"""The imports of new files, and what becomes of those of the script that they come from."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from functools import cached_property
from itertools import takewhile
from pathlib import Path

from aedifex.moves.kit.placement import Placement
from aedifex.moves.kit.rewriter import full_imports
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, Symbol
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.imports import imports_noticeably
from aedifex.program.structure.layout import Layout


class FileImports:
    """What the new files import, what the script need not import any more, and where it imports the files back.

    Imports that somebody may notice run in the order of the script, and none sooner than today.
    """

    def __init__(self, module: Module, placing: Placement) -> None:
        self.module = module
        self.placing = placing
        self.layout = Layout.of(module)
        self.writer = module.dialect.writer

    # -- of new files

    def needs_of(self, path: Path) -> set[Symbol]:
        """The module-level symbols that a new file uses, but for those that it defines."""
        return {
            need
            for symbol, other in self.placing.place.items()
            if other == path
            for need in self.placing.needs_first(self.placing.definitions[symbol])
        }

    def text(self, path: Path) -> str:
        """The import lines of a new file: those of libraries first, then the program's own."""
        groups = self.writer.in_groups(list(self._lines(path)))
        if own := self._own(path):
            groups.append([self.own_import(other, names, path) for other, names in own.items()])
        return "\n".join("".join(group) for group in groups)

    def own_import(self, path: Path, names: Iterable[str], importer: Path) -> str:
        """The line by which one of the program's files imports names of another."""
        name = self.module.dialect.files.module_name(path, importer, self.module)
        return self.writer.import_names(name, sorted(names))

    def handed_out(self, path: Path) -> list[Symbol]:
        """What the script, or another new file, imports of a new file, in the order of the definitions."""
        asking = [self.wanted, *(self._own(other) for other in self.placing.paths)]
        names = set().union(*(own.get(path, set()) for own in asking))
        return [s for s in self.placing.in_order(self.placing.place) if s.name in names]

    def _lines(self, path: Path) -> dict[str, list[Symbol]]:
        """The lines that import from other files than the new ones, each with the symbols that it brings."""
        lines: dict[str, list[Symbol]] = defaultdict(list)
        named: dict[str, list[Symbol]] = defaultdict(list)
        for need in self.needs_of(path):
            if need in self.placing.place or need.imported is None or self._holds_for_file(need):
                continue
            if need.imported.name == need.name:
                named[need.imported.module].append(need)
            else:
                for found in full_imports(need):
                    lines[self.writer.import_line(found, need.name)].append(need)
        for module, symbols in named.items():
            lines[self.writer.import_names(module, sorted(symbol.name for symbol in symbols))] = symbols
        return lines

    def _own(self, path: Path) -> dict[Path, set[str]]:
        """The names that a new file needs of other new ones, by file."""
        own: dict[Path, set[str]] = defaultdict(set)
        for need in self.needs_of(path):
            other = self.placing.place.get(need, path)
            if other != path:
                own[other].add(need.name)
        return dict(sorted(own.items()))

    def _holds_for_file(self, symbol: Symbol) -> bool:
        """Whether a name comes with what each file says for itself."""
        return any(r.statement is not None and r.statement.holds_for_file for r in symbol.bindings)

    # -- of the script

    def stays(self, reference: Reference) -> bool:
        """Whether a reference stands in text that stays in the script."""
        return not any(s.start <= reference.start < s.end for s in self.placing.moving)

    @cached_property
    def wanted(self) -> dict[Path, set[str]]:
        """The names that the script still uses, by the new file that they are in."""
        wanted: dict[Path, set[str]] = defaultdict(set)
        for symbol, path in self.placing.place.items():
            if self.module.is_known_outside(symbol.name) or any(self.stays(r) for r in symbol.references):
                wanted[path].add(symbol.name)
        return dict(sorted(wanted.items()))

    @cached_property
    def last(self) -> Statement | None:
        """The import below which the new files are imported: none of them may import what it needs any sooner.

        That is the last of the run of imports that the script opens with, or the last one further down that imports
        noticeably what a new file needs.
        """
        imports = [s for s in self.module.block.statements if self._is_import(s)]
        if not imports:
            return None
        opening = takewhile(self._is_import, self.module.block.statements[imports[0].index :])
        sources = {s for path in self.placing.paths for need in self.needs_of(path) for s in self._sources(need)}
        needed = [s for s in imports if s in sources and imports_noticeably(self.module, s)]
        return max((*opening, *needed), key=lambda statement: statement.start)

    @cached_property
    def run(self) -> list[Statement]:
        """The run of imports that ends with the last one."""
        if self.last is None:
            return []
        above = reversed(self.module.block.statements[: self.last.index + 1])
        return list(takewhile(self._is_import, above))[::-1]

    def _is_import(self, statement: Statement) -> bool:
        return statement.kind is Kind.IMPORT and self.layout.stands_alone(statement)

    def _sources(self, symbol: Symbol) -> list[Statement]:
        """The imports of the script that bring a symbol."""
        return [r.statement for r in symbol.bindings if r.statement is not None and r.statement.kind is Kind.IMPORT]

    @cached_property
    def dropped(self) -> set[Statement]:
        """The imports all of whose names only moved text uses, where it makes no difference that the files run them."""
        found = {s for s in self.module.block.statements if s.kind is Kind.IMPORT and not self.kept_names(s)}
        noticed = {s for s in found if imports_noticeably(self.module, s)}
        return found if noticed <= set(self.run) and self._is_order_kept(noticed) else found - noticed

    def _is_order_kept(self, dropped: set[Statement]) -> bool:
        """Whether imports that may be noticed run in the same order where the new files run some of them."""
        noticed = [s for s in self.run if imports_noticeably(self.module, s)]
        brought = [s for path in self.wanted for s in self._run_by(path) if s in dropped]
        kept = [s for s in noticed if s not in dropped]
        return list(dict.fromkeys([*kept, *brought])) == noticed

    def _run_by(self, path: Path) -> Iterator[Statement]:
        """The imports of the script that a new file runs, in the order of its own."""
        lines = self._lines(path)
        for group in self.writer.in_groups(list(lines)):
            for line in group:
                yield from (statement for symbol in lines[line] for statement in self._sources(symbol))
        for other in self._own(path):
            yield from self._run_by(other)

    def kept_names(self, statement: Statement) -> Sequence[Symbol | None]:
        """The names of an import that the script still uses, or never used; None for a star that must stay."""
        if any(star.statement is statement for star in self._stars.values()):
            symbols = [s for s in self.module.symbols if any(r.form is Form.STAR for r in s.references)]
            symbols = [s for s in symbols if s.imported and self._stars[s.imported.module].statement is statement]
            return [s for s in symbols if not self.has_left(s)] if symbols else [None]
        if statement.holds_for_file or any(star.statement is statement for _, star in self.module.stars):
            return [None]
        symbols = [r.symbol for r in statement.references if r.form is Form.IMPORT]
        return [s for s in symbols if not self.has_left(s)]

    @cached_property
    def _stars(self) -> dict[str, Reference]:
        return {
            symbol.imported.module: reference
            for symbol in self.module.symbols
            if symbol.imported is not None
            for reference in symbol.references
            if reference.form is Form.STAR
        }

    def has_left(self, symbol: Symbol) -> bool:
        """Whether an imported name was used and only moved text uses it."""
        uses = [r for r in symbol.references if not r.mode.writes]
        return bool(uses) and not any(self.stays(reference) for reference in uses)


class NoImports(FileImports):
    """Files that share their names: none imports anything, and none hands anything out."""

    def text(self, path: Path) -> str:
        """Nothing."""
        return ""

    def handed_out(self, path: Path) -> list[Symbol]:
        """Nothing."""
        return []

    @cached_property
    def wanted(self) -> dict[Path, set[str]]:
        """Nothing: the names are known."""
        return {}

    @cached_property
    def last(self) -> Statement | None:
        """None: nothing is imported."""
        return None
