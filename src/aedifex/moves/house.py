"""house: classes go into files of their own, with exactly the imports that they need; the script imports them.

Where files share their names, as the scripts of a page do, nothing is imported: the page loads the new files before.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from graphlib import TopologicalSorter
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes, named
from aedifex.moves.kit.file_imports import FileImports, NoImports
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.placement import Placement
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import full_imports
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.moves.kit.told_places import told_places
from aedifex.program.analysis.effects import Effects
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Origin, Reference, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.state import is_state
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span


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
        imports = NoImports if self.placing.shares_names else FileImports
        self.imports = imports(module, self.placing)

    def write(self) -> None:
        for path in self.placing.paths:
            self.rewriting.changes.created[path] = tuple(self.file(path))
        for statement in self.placing.moving:
            self.rewriter.remove(self.layout.lines(statement))
        self.drop_unused_imports()
        self.import_back()
        if self.placing.shares_names:
            self.dialect.files.load_before(self.program, self.loading_order, self.rewriting.changes)

    # -- reasons against it

    def find_objections(self) -> None:
        if not self.dialect.files.takes_class_files(self.program):
            self.object(
                0,
                "this script imports no other file, and no page beside it could load one for it",
                "Let the classes stay in the script: give each `file` the script's own name.",
            )
        for symbol in self.placing.in_order(self.placing.place):
            statement = self.placing.definitions[symbol]
            if self.dialect.rules.hands_out(self.module, statement):
                self.object(
                    statement.start,
                    f"`{symbol.name}` is handed out here, and would be handed out by another file",
                    "Let its class stay in the script: give its `file` the script's own name.",
                )
            for need in sorted(self.placing.needs_first(statement), key=lambda need: need.name):
                self.object_to_need(symbol, statement, need)
            for reference in self.module.references_within(statement.span):
                if self.means_place(reference):
                    self.object(
                        reference.start,
                        f"`{symbol.name}` uses `{reference.name}`, which means something else in another file",
                        "Let its class stay in the script: give its `file` the script's own name.",
                    )
            self.object_to_unknown_stars(symbol, statement)
            if not self.placing.shares_names:
                self.object_to_unbound(symbol, statement)
            for at, reason in told_places(self.module, self.placing, symbol):
                advice = "Let the classes stay in the script: give each `file` the script's own name."
                self.object(at, reason, advice)
        self.object_to_circles()
        self.object_to_late_imports()
        self.object_to_early_work()

    def object_to_late_imports(self) -> None:
        """Nothing may use a class before it is brought back."""
        last = self.imports.last
        if last is None:
            return
        for statement in self.module.block.statements[: last.index]:
            for reference in (r for inner in statement.walk() for r in inner.references):
                if reference.symbol in self.placing.place and self.imports.stays(reference):
                    self.object(
                        reference.start,
                        f"`{reference.name}` is used here, above an import that its file needs ({{line}})",
                        "Move that import to the top.",
                        last.start,
                    )
                    return

    def object_to_early_work(self) -> None:
        """What a class does while it is read must not come before what comes first today: its file is read early."""
        main = MainCode.of(self.module)
        for statement in self.placing.moving:
            if not main.does_something(statement):
                continue
            before = self.module.block.statements[: statement.index]
            earlier = next((s for s in before if s not in self.placing.moving and self.is_noticed(main, s)), None)
            if earlier is not None:
                self.object(
                    statement.start,
                    "this does something while it is read, and its file would be read before {line}",
                    "Let its class stay in the script: give its `file` the script's own name.",
                    earlier.start,
                )

    def is_noticed(self, main: MainCode, statement: Statement) -> bool:
        """Whether a statement that stays in front of the class does something, too."""
        if statement in main.staying:
            return statement.kind is not Kind.IMPORT and main.does_something(statement)
        return main.may_be_noticed(statement)

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

    def object_to_unbound(self, symbol: Symbol, statement: Statement) -> None:
        """A name that nothing binds may be put into the script by whatever runs it."""
        for reference in self.module.references_within(statement.span):
            if reference.symbol.origin is Origin.UNKNOWN:
                self.object(
                    reference.start,
                    f"`{symbol.name}` uses `{reference.name}`, which nothing in the script binds",
                    "Let its class stay in the script: give its `file` the script's own name.",
                )
                return

    def means_place(self, reference: Reference) -> bool:
        return reference.symbol.origin is not None and self.dialect.rules.is_place_name(reference.name)

    def object_to_need(self, symbol: Symbol, statement: Statement, need: Symbol) -> None:
        if need in self.placing.place:
            return
        at = next(r.start for r in need.references if statement.start <= r.start < statement.end)
        if self.is_out_of_reach(need, self.placing.place[symbol]):
            self.object(
                at,
                f"`{symbol.name}` uses `{need.name}`, whose import would mean something else in another folder",
                "Give the class a file beside the script.",
            )
        elif need.imported is None or not self.is_plain_import(need):
            what = "state of the script" if is_state(need) else "something that stays in the script"
            self.object(
                at,
                f"`{symbol.name}` uses `{need.name}`, {what}",
                "No class file may import the script: leave it with the owner.",
            )

    def is_out_of_reach(self, need: Symbol, path: Path) -> bool:
        """Whether an import would lead elsewhere from the folder of another file."""
        is_near = path.parent == self.module.path.parent
        return need.imported is not None and not is_near and self.dialect.files.is_from_own_folder(need.imported.module)

    def is_plain_import(self, symbol: Symbol) -> bool:
        """Whether one import at the top level, and nothing else, binds the symbol."""
        writes = {r.statement for r in symbol.references if r.mode.writes and r.form is not Form.STAR}
        if any(r.form is Form.STAR for r in symbol.references):
            return not writes
        is_in_parts = len(full_imports(symbol)) == len(writes)  # `import a.b` and `import a.c` both bind `a`
        return (len(writes) == 1 or is_in_parts) and all(
            statement is not None and statement.kind is Kind.IMPORT and statement.block.owner is None
            for statement in writes
        )

    @property
    def edges(self) -> dict[Path, set[Path]]:
        """The other new files that each needs."""
        place = self.placing.place
        return {
            path: {place[n] for n in self.imports.needs_of(path) if n in place and place[n] != path}
            for path in self.placing.paths
        }

    @property
    def loading_order(self) -> list[Path]:
        """The new files, each behind those that it needs while it is read."""
        return list(TopologicalSorter(self.edges).static_order())

    def object_to_circles(self) -> None:
        """Class files may not need one another in a circle."""
        edges = self.edges
        for path in self.placing.paths:
            if path in _reachable(edges, path):
                symbol = next(s for s, p in self.placing.place.items() if p == path)
                self.object(
                    self.placing.definitions[symbol].start,
                    f"{path.name} and another file would need each other",
                    "Give both classes the same `file`.",
                )
                return

    # -- writing

    def file(self, path: Path) -> list[Piece]:
        """The pieces of one new file: imports, constants, then what else moves there in the order of the script."""
        heads = [self.writer.file_heading(self.module), self.imports.text(path)]
        pieces: list[Piece] = ["\n".join(head for head in heads if head)]
        here = [symbol for symbol in self.placing.in_order(self.placing.place) if self.placing.place[symbol] == path]
        handed_out = self.imports.handed_out(path)
        word, closing = self.writer.handing_out([symbol.name for symbol in handed_out])
        told = {self.placing.definitions[symbol] for symbol in handed_out} if word else set()
        statements = list(dict.fromkeys(self.placing.definitions[symbol] for symbol in here))
        statements.sort(key=lambda statement: not self.may_come_first(statement))
        previous: Statement | None = None
        for statement in statements:
            both_plain = previous is not None and Kind.ASSIGN is previous.kind is statement.kind
            if not both_plain and (previous is not None or any(pieces)):
                pieces.append(self.layout.gap if previous is not None or statement.kind is not Kind.ASSIGN else "\n")
            lines = self.layout.lines(statement)
            if statement in told:
                above = Span(lines.start, statement.start)
                pieces += [*([self.rewriter.taken(above)] if above.start < above.end else []), word]
                lines = Span(statement.start, lines.end)
            pieces += self.rewriter.lines_taken(lines)
            previous = statement
        return [*pieces, *(["\n", closing] if closing and handed_out else [])]

    def may_come_first(self, statement: Statement) -> bool:
        """Whether a statement sets constants, and needs nothing that is defined in the same place."""
        needed = {self.placing.definitions[s] for s in self.placing.needs(statement) if s in self.placing.definitions}
        return statement.kind is Kind.ASSIGN and all(other.kind is Kind.ASSIGN for other in needed)

    def import_back(self) -> None:
        """Let the script import what it still uses."""
        wanted = self.imports.wanted
        if not wanted:
            return
        lines = [self.imports.own_import(path, names, self.module.path) for path, names in wanted.items()]
        above = self.imports.last or self.module.doc or self.word_on_top()
        if above is not None:
            kept = above is not self.imports.last or any(s not in self.imports.dropped for s in self.imports.run)
            at = self.layout.own_lines(above).end
            self.rewriter.insert(at, "\n" if kept else "", *lines, *self.gap_after(above))
            return
        first = next(iter(self.module.block.statements), None)
        at = self.layout.lines(first).start if first is not None else len(self.module.source.data)
        self.rewriter.insert(at, *lines, "\n")

    def word_on_top(self) -> Statement | None:
        """What must stay the first statement of the script."""
        first = next(iter(self.module.block.statements), None)
        return first if self.writer.file_heading(self.module) else None

    def gap_after(self, statement: Statement) -> list[str]:
        """A blank line, where none stands behind an import, nor above what stays behind it."""
        gone = {*self.placing.moving, *self.imports.dropped}
        after = next((s for s in self.module.block.statements if s.start > statement.start and s not in gone), None)
        end = self.layout.own_lines(statement).end
        if after is None or self.module.source.parse_view[end:].startswith(b"\n"):
            return []
        above = self.module.source.line_of(self.layout.lines(after).start) - 1
        return ["\n"] if self.module.source.line(above).strip() else []

    def drop_unused_imports(self) -> None:
        for statement in self.module.block.statements:
            if statement.kind is not Kind.IMPORT or not self.layout.stands_alone(statement):
                continue
            if statement in self.imports.dropped:
                self.rewriter.drop(statement.references)
                self.rewriter.remove(self.layout.own_lines(statement))
            else:
                gone = [r for r in statement.references if r.form is Form.IMPORT and self.imports.has_left(r.symbol)]
                if self.imports.kept_names(statement) and gone:
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
    joined, stem, suffix = module.dialect.naming.joined, module.path.stem, module.dialect.files.class_suffix(module)
    for candidate in (name, joined(stem, name), joined(stem, name, "2")):
        path = module.path.with_name(candidate + suffix)
        if candidate not in taken and not path.exists() and not module.dialect.files.is_taken(candidate, path.parent):
            return path
    raise RefusedError(
        f"no file name like {name}{suffix} is left for what several classes need",
        advice="Let the classes stay in the script: give each `file` the script's own name.",
    )


def _by_hand(program: Program, script: Path, given: Given) -> list[House]:
    pairs = [named(text) for text in given["classes"]]
    suffix = program.dialect.files.class_suffix(program.main)
    files = {name: file if file != name else f"{name.lower()}{suffix}" for name, file in pairs}
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
