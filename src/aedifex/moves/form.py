"""form: loose variables that describe one thing become the fields of one class, with one instance."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.move import Objections, module_of, symbol_of
from aedifex.moves.kit.rewriter import Rewriter, is_declaration
from aedifex.moves.kit.rewriting import Member, Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.initial_values import Start, Starts
from aedifex.program.structure.layout import Heading
from aedifex.program.structure.obstacles import variable_obstacles
from aedifex.source.edits import Taken
from aedifex.source.text import Span


@dataclass(frozen=True, slots=True)
class NewField:
    """A variable that becomes a field: its name there, and whether the constructor is given its first value."""

    variable: str
    name: str
    is_argument: bool = False


@dataclass(frozen=True)
class Form:
    """Gather variables into a class of one instance.

    `doc` is the class's docstring where no section heading gives one; `instance` the variable that will hold the
    object.
    """

    name: ClassVar[str] = "form"
    summary: ClassVar[str] = (
        "Loose variables that describe one thing become fields of one class.\n"
        "One instance is made where they were first set; every use goes through it."
    )

    path: Path
    class_name: str
    instance: str
    fields: tuple[NewField, ...]
    doc: str = ""

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        return _Forming(self, module).plan()


class _Forming:
    def __init__(self, move: Form, module: Module) -> None:
        self.move = move
        self.module = module
        self.dialect = module.dialect
        self.symbols = {symbol_of(module, field.variable): field for field in move.fields}
        self.starts = Starts(module, self.symbols)
        self.statements = module.block.statements
        self.rewriting = Rewriting()
        self.rewriter = Rewriter(module, self.rewriting)
        self.layout = self.rewriter.layout
        self.heading: Heading | None = None
        self.moved: set[Reference] = set()

    def plan(self) -> Rewriting:
        self.object()
        starts = self.starts.movable
        self.moved = {start.pair.target for start in starts}
        self.heading = self.own_heading(starts)
        starts_by_statement: dict[Statement, list[Start]] = {}
        for start in starts:
            starts_by_statement.setdefault(start.statement, []).append(start)
        self.write_class(starts)
        for statement, here in starts_by_statement.items():
            self.take_out(statement, here)
        for symbol, field in self.symbols.items():
            for reference in symbol.references:
                if reference not in self.moved:
                    self.rewrite(reference, field, starts)
        self.rewriter.finish()
        return self.rewriting

    # -- reasons against it

    def object(self) -> None:
        objections = Objections(self.module)
        for symbol in self.symbols:
            for obstacle in variable_obstacles(self.module, symbol):
                objections.add(*obstacle)
        self.object_to_names(objections)
        objections.raise_any()
        if not self.starts.movable:
            first = next(iter(self.symbols))
            objections.add(
                first.references[0].start,
                f"no field of {self.move.class_name} has a first value that can move to a constructor",
                f"Set `{first.name}` to a plain value at the top level first.",
            )
        objections.raise_any()

    def object_to_names(self, objections: Objections) -> None:
        for name in (self.move.instance, self.move.class_name):
            used = self.module.scope.symbols.get(name) or self.module.outside.symbols.get(name)
            if used is not None and used.references and used not in self.symbols:
                objections.add(
                    used.references[0].start,
                    f"the name `{name}` is in use already",
                    "Choose another name in the design.",
                )
        for symbol in self.symbols:
            for reference in symbol.references:
                hidden = reference.scope.find(self.move.instance)
                if hidden is not None and not hidden.is_module_level:
                    objections.add(
                        reference.start,
                        f"`{self.move.instance}` means something else here, so `{symbol.name}` cannot be reached by it",
                        "Choose another name for the instance, or rename the local variable.",
                    )

    # -- writing

    def field_of(self, start: Start) -> NewField:
        return self.symbols[start.symbol]

    def is_argument(self, start: Start) -> bool:
        """Whether a first value is passed to the constructor: because it must be, or because that is wished for."""
        return start.is_foreign or (self.field_of(start).is_argument and not start.needs_own)

    def write_class(self, starts: Sequence[Start]) -> None:
        unit = self.layout.indent
        heading = self.heading
        arguments = [start for start in starts if self.is_argument(start)]
        pieces: list[str | Taken] = [
            self.dialect.class_head(self.move.class_name, self.doc, unit),
            self.dialect.constructor_head([self.field_of(start).name for start in arguments], unit),
        ]
        for start in starts:
            pieces += self.field_lines(start, unit * 2)
        at, margin = self.place
        creation: list[str | Taken] = [f"{self.move.instance} = {self.move.class_name}("]
        for number, start in enumerate(arguments):
            creation += [", "] if number else []
            creation.append(self.rewriter.taken(start.pair.value.span))
        self.rewriter.insert(at, margin, *pieces, "\n\n", *creation, ")\n")
        if heading is not None:
            self.rewriter.remove(heading.span)

    @property
    def place(self) -> tuple[int, str]:
        """Where the class goes, and the blank lines that it needs before it."""
        statement = self.statements[self.starts.first_touch]
        at = self.layout.lines(statement).start
        if statement.start < at or not self.layout.stands_alone(statement):
            at = self.layout.own_lines(statement).start
        return at, self.layout.gap_before(at)

    def field_lines(self, start: Start, margin: str) -> list[str | Taken]:
        statement = start.statement
        pieces: list[str | Taken] = []
        goes_whole = self.goes_whole(statement)
        is_first = not any(
            pair.target.start < start.pair.target.start and pair.target.symbol in self.symbols
            for pair in (statement.assignment.pairs if statement.assignment else ())
        )
        if is_first and goes_whole:
            pieces += self.comment_lines(statement, margin)
        receiver = self.dialect.receiver
        pieces.append(f"{margin}{receiver}.{self.field_of(start).name}")
        assert statement.assignment is not None
        if statement.assignment.annotation is not None:
            pieces += [": ", self.rewriter.taken(statement.assignment.annotation)]
        if self.is_argument(start):
            pieces.append(f" = {self.field_of(start).name}")
        else:
            pieces += [" = ", self.value(start, margin)]
        trailing = self.layout.trailing_comment(statement)
        if is_first and trailing is not None and goes_whole:
            pieces += ["  ", self.rewriter.taken(Span(trailing.start, trailing.end))]
        return [*pieces, "\n"]

    def value(self, start: Start, margin: str) -> Taken:
        return self.rewriter.taken(start.pair.value.span, indent=margin)

    def comment_lines(self, statement: Statement, margin: str) -> list[str | Taken]:
        """The comments above an assignment, but for section headings."""
        begin, end = self.layout.lines(statement).start, self.layout.own_lines(statement).start
        heading = self.layout.heading(statement)
        if heading is not None:
            begin = heading.span.end
        return [*self.rewriter.comments(begin, end, margin)]

    @property
    def doc(self) -> str:
        if self.heading is None or '"' in self.heading.text or "\\" in self.heading.text:
            return self.move.doc
        text = self.heading.text
        if not text.lower().startswith(("the ", "a ", "an ")) and len(text.split()) <= 2:
            text = f"the {text}"
        return text[:1].upper() + text[1:] + ("" if text.endswith((".", "!", "?")) else ".")

    def own_heading(self, starts: Sequence[Start]) -> Heading | None:
        """The section heading that names this class alone: all that stands below it moves away."""
        moved = {start.statement for start in starts}
        for start in starts:
            heading = self.layout.section_of(start.statement)
            if heading is None or not heading.text:
                continue
            section = self.layout.section(start.statement)
            if section[0] not in moved:
                continue
            variables = [s for s in section if s.kind is Kind.ASSIGN]
            if self.names_class(heading) or (heading.is_ruled and all(self.goes_whole(s) for s in variables)):
                return heading
        return None

    def names_class(self, heading: Heading) -> bool:
        """Whether a heading speaks of the class."""
        return self.move.class_name.lower() in heading.text.lower().replace(" ", "")

    def goes_whole(self, statement: Statement) -> bool:
        """Whether all names that an assignment sets move to the class."""
        assert statement.assignment is not None
        pairs = statement.assignment.pairs
        return bool(pairs) and all(pair.target in self.moved for pair in pairs)

    def take_out(self, statement: Statement, here: Sequence[Start]) -> None:
        """Remove the moved names from the assignment that set them."""
        assert statement.assignment is not None
        self.rewriter.drop(start.pair.target for start in here)
        gone = {start.pair.target for start in here}
        left = [pair for pair in statement.assignment.pairs if pair.target not in gone]
        if not left:
            heading = self.layout.heading(statement)
            stays = heading is not None and heading != self.heading
            lines = self.layout.own_lines(statement) if stays else self.layout.lines(statement)
            self.rewriter.remove(lines)
            return
        pieces: list[str | Taken] = []
        for number, pair in enumerate(left):
            pieces += [", "] if number else []
            pieces.append(self.rewriter.taken(pair.target.span))
        pieces.append(" = ")
        for number, pair in enumerate(left):
            pieces += [", "] if number else []
            pieces.append(self.rewriter.taken(pair.value.span))
        self.rewriting.changes.replace(self.module.path, statement.span, *pieces)

    def rewrite(self, reference: Reference, field: NewField, starts: Sequence[Start]) -> None:
        if is_declaration(reference):
            self.rewriter.drop_declaration(reference)
            return
        inside = any(
            start.pair.value.start <= reference.start < start.pair.value.end and not self.is_argument(start)
            for start in starts
        )
        base = self.dialect.receiver if inside else self.move.instance
        self.rewriter.replace(reference, f"{base}.{field.name}", Member(self.move.class_name, field.name))
