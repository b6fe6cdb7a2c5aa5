"""house: classes go into files of their own, with exactly the imports that they need; the script imports them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes, named
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.placement import Placement
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import full_import
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.effects import Effects
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.state import is_state
from aedifex.source.errors import RefusedError


@dataclass(frozen=True, slots=True)
class NewHome:
    """A class, and the file that it moves to."""

    class_name: str
    path: Path


@dataclass(frozen=True)
class House:
    """Move classes out of a script.

    What several of the files need goes to `shared`, or to `constants` if it is nothing but constants.
    """

    name: ClassVar[str] = "house"

    path: Path
    homes: tuple[NewHome, ...]
    shared: Path
    constants: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Housing(self, program, module_of(program, self.path)).plan()


class _Housing(Planner):
    def __init__(self, move: House, program: Program, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.program = program
        self.effects = Effects.of(module)
        homes = {home.class_name: home.path for home in move.homes}
        self.placing = Placement(module, homes, move.shared, move.constants)

    def write(self) -> None:
        for path in self.placing.paths:
            self.rewriting.changes.created[path] = tuple(self.file(path))
        for statement in self.placing.moving:
            self.rewriter.remove(self.layout.lines(statement))
        self.drop_unused_imports()
        self.import_back()

    # -- reasons against it

    def find_objections(self) -> None:
        for symbol in self.placing.in_order(self.placing.place):
            statement = self.placing.definitions[symbol]
            for need in self.placing.needs(statement):
                self.object_to_need(symbol, statement, need)
            for reference in self.module.references_within(statement.span):
                if self.means_place(reference):
                    self.object(
                        reference.start,
                        f"`{symbol.name}` uses `{reference.name}`, which means something else in another file",
                        "Let its class stay in the script: give its `file` the script's own name.",
                    )
            self.object_to_unknown_stars(symbol, statement)
        self.object_to_circles()

    def object_to_unknown_stars(self, symbol: Symbol, statement: Statement) -> None:
        """A name that the script does not bind may come from a star import, and mean something else elsewhere."""
        for name, _ in self.module.unknown_stars:
            for reference in self.module.references_within(statement.span):
                if reference.symbol.scope.kind is ScopeKind.OUTSIDE:
                    self.object(
                        reference.start,
                        f"`{symbol.name}` uses `{reference.name}`, which may come from `{name}`, of unknown names",
                        "Let its class stay in the script: give its `file` the script's own name.",
                    )
                    return

    def means_place(self, reference: Reference) -> bool:
        return reference.symbol.origin is not None and self.dialect.rules.is_place_name(reference.name)

    def object_to_need(self, symbol: Symbol, statement: Statement, need: Symbol) -> None:
        if need in self.placing.place:
            return
        at = next(r.start for r in need.references if statement.start <= r.start < statement.end)
        if need.imported is None or not self.is_plain_import(need):
            what = "state of the script" if is_state(need) else "something that stays in the script"
            self.object(
                at,
                f"`{symbol.name}` uses `{need.name}`, {what}",
                "No class file may import the script: leave it with the owner.",
            )

    def is_plain_import(self, symbol: Symbol) -> bool:
        """Whether one import at the top level, and nothing else, binds the symbol."""
        writes = {r.statement for r in symbol.references if r.mode.writes and r.form is not Form.STAR}
        stars = [r for r in symbol.references if r.form is Form.STAR]
        if stars:
            return not writes
        statement = next(iter(writes), None)
        return (
            len(writes) == 1
            and statement is not None
            and statement.kind is Kind.IMPORT
            and statement.block.owner is None
        )

    def object_to_circles(self) -> None:
        """Class files may not need one another in a circle."""
        edges = {
            path: {
                self.placing.place[n]
                for n in self.needs_of(path)
                if n in self.placing.place and self.placing.place[n] != path
            }
            for path in self.placing.paths
        }
        for path in self.placing.paths:
            if path in _reachable(edges, path):
                symbol = next(s for s, p in self.placing.place.items() if p == path)
                self.object(
                    self.placing.definitions[symbol].start,
                    f"{path.name} and another file would need each other",
                    "Give both classes the same `file`.",
                )
                return

    def needs_of(self, path: Path) -> set[Symbol]:
        return {
            need
            for symbol, other in self.placing.place.items()
            if other == path
            for need in self.placing.needs(self.placing.definitions[symbol])
        }

    # -- writing

    def file(self, path: Path) -> list[Piece]:
        """The pieces of one new file: imports, constants, then what else moves there in the order of the script."""
        pieces: list[Piece] = [self.writer.file_heading(self.module), *self.imports(path)]
        statements = list(
            dict.fromkeys(
                self.placing.definitions[s]
                for s in self.placing.in_order(self.placing.place)
                if self.placing.place[s] == path
            )
        )
        statements.sort(key=lambda statement: not self.may_come_first(statement))
        previous: Statement | None = None
        for statement in statements:
            both_plain = previous is not None and Kind.ASSIGN is previous.kind is statement.kind
            if not both_plain and (previous is not None or any(pieces)):
                pieces.append(self.layout.gap if previous is not None or statement.kind is not Kind.ASSIGN else "\n")
            lines = self.layout.lines(statement)
            pieces += self.rewriter.lines_taken(lines)
            previous = statement
        return pieces

    def may_come_first(self, statement: Statement) -> bool:
        """Whether a statement sets constants, and needs nothing that is defined in the same place."""
        needed = {self.placing.definitions[s] for s in self.placing.needs(statement) if s in self.placing.definitions}
        return statement.kind is Kind.ASSIGN and all(other.kind is Kind.ASSIGN for other in needed)

    def imports(self, path: Path) -> list[Piece]:
        """The import lines of a new file: those of libraries first, then the program's own."""
        lines: set[str] = set()
        named: dict[str, set[str]] = defaultdict(set)
        own: dict[Path, set[str]] = defaultdict(set)
        for need in self.needs_of(path):
            if need in self.placing.place:
                if self.placing.place[need] != path:
                    own[self.placing.place[need]].add(need.name)
            elif need.imported is not None and not self.holds_for_file(need):
                if need.imported.name == need.name:
                    named[need.imported.module].add(need.name)
                else:
                    lines.add(self.writer.import_line(full_import(need), need.name))
        lines |= {self.writer.import_names(module, sorted(names)) for module, names in named.items()}
        groups = self.writer.in_groups(sorted(lines))
        if own:
            groups.append([self.own_import(other, names) for other, names in sorted(own.items())])
        return ["\n".join("".join(group) for group in groups)] if groups else []

    def holds_for_file(self, symbol: Symbol) -> bool:
        """Whether a name comes with what each file says for itself."""
        return any(r.statement is not None and r.statement.holds_for_file for r in symbol.bindings)

    def own_import(self, path: Path, names: Iterable[str]) -> str:
        return self.writer.import_names(self.dialect.files.module_name(path, self.module.path), sorted(names))

    def stays(self, reference: Reference) -> bool:
        """Whether a reference stands in text that stays in the script."""
        return not any(s.start <= reference.start < s.end for s in self.placing.moving)

    def import_back(self) -> None:
        """Let the script import what it still uses."""
        wanted: dict[Path, set[str]] = defaultdict(set)
        for symbol, path in self.placing.place.items():
            if symbol.name in self.module.used_elsewhere or any(self.stays(r) for r in symbol.references):
                wanted[path].add(symbol.name)
        if not wanted:
            return
        lines = [self.own_import(path, names) for path, names in sorted(wanted.items())]
        imports = self.leading_imports
        if imports:
            kept = any(statement not in self.dropped_imports for statement in imports)
            at = self.layout.own_lines(imports[-1]).end
            self.rewriter.insert(at, "\n" if kept else "", *lines, *self.gap_after(imports[-1]))
            return
        first = next((s for s in self.module.block.statements if s is not self.module.doc), None)
        at = self.layout.lines(first).start if first is not None else len(self.module.source.data)
        self.rewriter.insert(at, *lines, "\n")

    def gap_after(self, statement: Statement) -> list[str]:
        """A blank line, where none stands behind an import, nor above what stays behind it."""
        gone = {*self.placing.moving, *self.dropped_imports}
        after = next((s for s in self.module.block.statements if s.start > statement.start and s not in gone), None)
        end = self.layout.own_lines(statement).end
        if after is None or self.module.source.parse_view[end:].startswith(b"\n"):
            return []
        above = self.module.source.line_of(self.layout.lines(after).start) - 1
        return ["\n"] if self.module.source.line(above).strip() else []

    @cached_property
    def leading_imports(self) -> list[Statement]:
        """The run of imports that the script opens with."""
        found: list[Statement] = []
        for statement in self.module.block.statements:
            if statement.kind is Kind.IMPORT and self.layout.stands_alone(statement):
                found.append(statement)
            elif statement is not self.module.doc and found:
                break
        return found

    @cached_property
    def dropped_imports(self) -> set[Statement]:
        """The imports all of whose names only moved text uses."""
        return {s for s in self.module.block.statements if s.kind is Kind.IMPORT and not self.kept_names(s)}

    def kept_names(self, statement: Statement) -> Sequence[Symbol | None]:
        """The names of an import that the script still uses, or never used; None for a star that must stay."""
        if any(star.statement is statement for star in self.stars.values()):
            symbols = [s for s in self.module.symbols if any(r.form is Form.STAR for r in s.references)]
            symbols = [s for s in symbols if s.imported and self.stars[s.imported.module].statement is statement]
            return [s for s in symbols if not self.has_left(s)] if symbols else [None]
        if statement.holds_for_file or any(
            name for name, star in self.module.unknown_stars if star.statement is statement
        ):
            return [None]
        symbols = [r.symbol for r in statement.references if r.form is Form.IMPORT]
        return [s for s in symbols if not self.has_left(s)]

    @cached_property
    def stars(self) -> dict[str, Reference]:
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

    def drop_unused_imports(self) -> None:
        for statement in self.module.block.statements:
            if statement.kind is not Kind.IMPORT or not self.layout.stands_alone(statement):
                continue
            if statement in self.dropped_imports:
                self.rewriter.drop(statement.references)
                self.rewriter.remove(self.layout.own_lines(statement))
            else:
                gone = [r for r in statement.references if r.form is Form.IMPORT and self.has_left(r.symbol)]
                if gone:
                    self.rewriter.shorten_import(statement, gone)


def _reachable(edges: dict[Path, set[Path]], start: Path) -> set[Path]:
    found: set[Path] = set()
    waiting = list(edges.get(start, ()))
    while waiting:
        path = waiting.pop()
        if path not in found:
            found.add(path)
            waiting += edges.get(path, ())
    return found


def new_homes(module: Module, files: Mapping[str, str]) -> House:
    """The move that takes classes into files, given by class name, relative to the script's folder.

    Raises:
        RefusedError: no free file name is left for what several of them need.
    """
    folder = module.path.parent
    homes = tuple(NewHome(name, folder / file) for name, file in files.items())
    taken = {Path(file).stem for file in files.values()}
    return House(module.path, homes, _free_file(module, "common", taken), _free_file(module, "constants", taken))


def _free_file(module: Module, name: str, taken: set[str]) -> Path:
    """A file for what several classes need, under a name that is still free."""
    joined, stem = module.dialect.naming.joined, module.path.stem
    for candidate in (name, joined(stem, name), joined(stem, name, "2")):
        path = module.path.with_name(candidate + module.path.suffix)
        if candidate not in taken and not path.exists() and not module.dialect.files.is_taken(candidate):
            return path
    raise RefusedError(
        f"no file name like {name}{module.path.suffix} is left for what several classes need",
        advice="Let the classes stay in the script: give each `file` the script's own name.",
    )


def _by_hand(program: Program, script: Path, given: Given) -> list[House]:
    pairs = [named(text) for text in given["classes"]]
    files = {name: file if file != name else f"{name.lower()}{script.suffix}" for name, file in pairs}
    return [new_homes(program.main, files)]


MOVE = Description(
    name="house",
    place=100,
    summary=(
        "A class goes into its own file, with exactly the imports that it needs.\n"
        "Constants and helpers that two files need go to a file of their own."
    ),
    term="Move Class to Own File",
    help="Move classes into files of their own, with the imports that they need.",
    parameters=(StepParameter("classes", Takes.MANY, "CLASS[=FILE]..."),),
    make=_by_hand,
    example=Example(
        language="python",
        words="Dice",
        before="""\
import random


class Dice:
    def roll(self):
        return random.randint(1, 6)


print(Dice().roll() in range(1, 7))
""",
        after={
            "dice.py": """\
import random


class Dice:
    def roll(self):
        return random.randint(1, 6)
""",
            "harbour.py": """\
from dice import Dice


print(Dice().roll() in range(1, 7))
""",
        },
    ),
)
