"""form: loose variables that describe one thing become the fields of one class, with one instance."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes, named
from aedifex.moves.kit.move import module_of, symbol_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import is_declaration
from aedifex.moves.kit.rewriting import Member, Renamed, Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.initial_values import InitialValues
from aedifex.program.structure.late_values import FirstValue, InitialValue, WaitingValue
from aedifex.program.structure.layout import Heading
from aedifex.program.structure.obstacles import variable_obstacles
from aedifex.source.errors import UsageError


@dataclass(frozen=True, slots=True)
class NewField:
    """A variable that becomes a field: its name there, and whether the constructor is given its first value."""

    variable: str
    name: str
    is_argument: bool = False


@dataclass(frozen=True)
class Form:
    """Gather variables into a class of one instance, which the variable `instance` will hold."""

    name: ClassVar[str] = "form"

    path: Path
    class_name: str
    instance: str
    fields: tuple[NewField, ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        return _Forming(self, module).plan()


class _Forming(Planner):
    def __init__(self, move: Form, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.symbols = {symbol_of(module, field.variable): field for field in move.fields}
        self.starts = InitialValues(module, self.symbols)
        self.statements = module.block.statements
        self.heading: Heading | None = None
        self.moved: set[Reference] = set()

    def write(self) -> None:
        starts = self.starts.movable
        self.moved = {start.pair.target for start in starts}
        waiting = {reference for value in self.starts.waiting for reference in value.references}
        self.heading = self.own_heading(starts)
        starts_by_statement: dict[Statement, list[InitialValue]] = {}
        for start in starts:
            starts_by_statement.setdefault(start.statement, []).append(start)
        self.write_class(starts)
        for statement, here in starts_by_statement.items():
            self.take_out(statement, here)
        for symbol, field in self.symbols.items():
            for reference in symbol.references:
                if reference in waiting:
                    self.keep_waiting(reference)
                elif reference not in self.moved:
                    self.rewrite(reference, field, starts)

    # -- reasons against it

    def find_objections(self) -> None:
        for symbol in self.symbols:
            for obstacle in variable_obstacles(self.module, symbol):
                self.object(*obstacle)
        self.object_to_names()
        if not self.objections.found and not self.starts.settable:
            first = next(iter(self.symbols))
            self.object(
                first.references[0].start,
                f"no field of {self.move.class_name} has a first value that can move to a constructor",
                f"Set `{first.name}` to a plain value at the top level first.",
            )

    def object_to_names(self) -> None:
        for name in (self.move.instance, self.move.class_name):
            used = self.module.scope.symbols.get(name) or self.module.outside.symbols.get(name)
            if used is not None and used.references and used not in self.symbols:
                self.object(
                    used.references[0].start,
                    f"the name `{name}` is in use already",
                    "Choose another name in the design.",
                )
        for symbol in self.symbols:
            for reference in symbol.references:
                hidden = reference.scope.find(self.move.instance)
                if hidden is not None and not hidden.is_module_level:
                    self.object(
                        reference.start,
                        f"`{self.move.instance}` means something else here, so `{symbol.name}` cannot be reached by it",
                        "Choose another name for the instance, or rename the local variable.",
                    )

    # -- writing

    def field_of(self, value: FirstValue) -> NewField:
        return self.symbols[value.symbol]

    def order(self, value: FirstValue) -> int:
        """Where a value is first set."""
        return value.pair.target.start if isinstance(value, InitialValue) else value.references[0].start

    def is_argument(self, value: FirstValue) -> bool:
        """Whether a first value is passed to the constructor: because it must be, or because that is wished for."""
        if isinstance(value, WaitingValue):
            return True
        return value.is_foreign or (self.field_of(value).is_argument and not value.needs_own)

    def handed_over(self, value: FirstValue) -> Piece:
        """What the constructor is given: a value, or the variable that has kept it so far."""
        if isinstance(value, WaitingValue):
            return self.waiting_name(value.symbol)
        return self.rewriter.taken(value.pair.value.span)

    def waiting_name(self, symbol: Symbol) -> str:
        """The variable that keeps a first value: its own name, if that is not the object's from now on."""
        if symbol.name != self.move.instance:
            return symbol.name
        joined = self.dialect.naming.joined
        wishes = (joined("first", symbol.name, *([str(n)] if n else [])) for n in range(len(self.symbols) + 9))
        return next(name for name in wishes if name not in self.module.names_in_use)

    def keep_waiting(self, reference: Reference) -> None:
        """Let a place before the object is made use the variable that keeps the value."""
        name = self.waiting_name(reference.symbol)
        if name != reference.name:
            self.rewriter.replace(reference, name, Renamed(name))

    def write_class(self, starts: Sequence[InitialValue]) -> None:
        unit = self.layout.indent
        fields: list[FirstValue] = [*starts, *self.starts.waiting]
        fields.sort(key=self.order)
        arguments = [value for value in fields if self.is_argument(value)]
        whole = self.writer.class_frame(self.move.class_name, self.doc, unit)
        constructor = self.writer.constructor_frame([self.field_of(value).name for value in arguments], unit, unit)
        empty = [piece for reference in self.starts.empty for piece in self.empty_lines(reference, unit)]
        pieces: list[Piece] = [whole.head, *empty]
        if fields:
            pieces += ["\n"] if empty else []
            pieces += [constructor.head, *(p for value in fields for p in self.field_lines(value, unit * 2))]
            pieces += [constructor.tail]
        pieces += [whole.tail, self.layout.gap]
        values = [self.handed_over(value) for value in arguments]
        creation = self.writer.creation(self.move.class_name, values)
        at, margin = self.place
        self.rewriter.insert(at, margin, *pieces, *self.writer.variable(self.move.instance, creation))
        if self.heading is not None:
            self.rewriter.remove(self.heading.span)

    @property
    def place(self) -> tuple[int, str]:
        """Where the class goes, and the blank lines that it needs before it."""
        statement = self.statements[self.starts.place]
        if self.starts.is_late and not self.goes_whole(statement):
            at = self.layout.lines(statement).end
            return at, self.layout.gap_before(at)
        at = self.layout.lines(statement).start
        if statement.start < at or not self.layout.stands_alone(statement):
            at = self.layout.own_lines(statement).start
        return at, self.layout.gap_before(at)

    def field_lines(self, start: FirstValue, margin: str) -> list[Piece]:
        if isinstance(start, WaitingValue):
            name = self.field_of(start).name
            return [margin, *self.writer.assignment(self.writer.member(self.writer.receiver, name), [name])]
        statement = start.statement
        pieces: list[Piece] = []
        goes_whole = self.goes_whole(statement)
        is_first = not any(
            pair.target.start < start.pair.target.start and pair.target.symbol in self.symbols
            for pair in (statement.assignment.pairs if statement.assignment else ())
        )
        if is_first and goes_whole:
            pieces += self.comment_lines(statement, margin)
        name = self.field_of(start).name
        value = name if self.is_argument(start) else self.rewriter.taken(start.pair.value.span, indent=margin)
        annotation = statement.assignment.annotation if statement.assignment is not None else None
        declared = self.rewriter.taken(annotation) if annotation is not None else None
        *setting, end = self.writer.assignment(self.writer.member(self.writer.receiver, name), [value], declared)
        trailing = self.rewriter.comment_behind(statement) if is_first and goes_whole else []
        return [*pieces, margin, *setting, *trailing, end]

    def empty_lines(self, reference: Reference, margin: str) -> list[Piece]:
        """A field that is only declared, with the comments of the statement that declares it and nothing else."""
        statement = reference.statement
        assert statement is not None
        field = [margin, self.writer.field_declared(self.symbols[reference.symbol].name)]
        if not self.goes_along(reference):
            return [*field, "\n"]
        return [*self.comment_lines(statement, margin), *field, *self.rewriter.comment_behind(statement), "\n"]

    def comment_lines(self, statement: Statement, margin: str) -> list[Piece]:
        """The comments above an assignment, but for section headings."""
        begin, end = self.layout.lines(statement).start, self.layout.own_lines(statement).start
        heading = self.layout.heading(statement)
        if heading is not None:
            begin = heading.span.end
        return [*self.rewriter.comments(begin, end, margin)]

    @property
    def doc(self) -> str:
        if self.heading is None or '"' in self.heading.text or "\\" in self.heading.text:
            return ""
        text = self.heading.text
        if not text.lower().startswith(("the ", "a ", "an ")) and len(text.split()) <= 2:
            text = f"the {text}"
        return text[:1].upper() + text[1:] + ("" if text.endswith((".", "!", "?")) else ".")

    def own_heading(self, starts: Sequence[InitialValue]) -> Heading | None:
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
        pairs = statement.assignment.pairs if statement.assignment is not None else ()
        return bool(pairs) and all(pair.target in self.moved for pair in pairs)

    def take_out(self, statement: Statement, here: Sequence[InitialValue]) -> None:
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
        self.rewriter.keep_pairs(statement, left)

    def take_declaration(self, reference: Reference) -> None:
        """Remove what only declares a name, with its comments where these go along."""
        if not self.goes_along(reference):
            self.rewriter.drop_declaration(reference)
            return
        assert reference.statement is not None
        self.rewriter.drop([reference])
        self.rewriter.remove(self.layout.lines(reference.statement))

    def goes_along(self, reference: Reference) -> bool:
        """Whether a statement declares nothing but one field, so that its comments are that field's."""
        statement = reference.statement
        is_alone = statement is not None and len(statement.references) == 1
        return is_alone and reference in self.starts.empty

    def rewrite(self, reference: Reference, field: NewField, starts: Sequence[InitialValue]) -> None:
        if is_declaration(reference):
            self.take_declaration(reference)
            return
        inside = any(
            start.pair.value.start <= reference.start < start.pair.value.end and not self.is_argument(start)
            for start in starts
        )
        base = self.writer.receiver if inside else self.move.instance
        self.rewriter.replace(reference, self.writer.member(base, field.name), Member(self.move.class_name, field.name))


def _by_hand(program: Program, script: Path, given: Given) -> list[Form]:
    pairs = [named(text) for text in given["variables"]]
    unknown = set(given["argument"]) - {variable for variable, _ in pairs}
    if unknown:
        raise UsageError(f"--argument {min(unknown)} is not among the variables")
    fields = tuple(NewField(variable, name, variable in given["argument"]) for variable, name in pairs)
    return [Form(script, given["class"], given["object"] or given["class"].lower(), fields)]


MOVE = Description(
    name="form",
    place=10,
    summary=(
        "Loose variables that describe one thing become fields of one class.\n"
        "One instance is made where they were first set; every use goes through it."
    ),
    term="Extract Class",
    help="Gather variables into a class with one object.",
    parameters=(
        StepParameter("variables", Takes.MANY, "VARIABLE[=FIELD]..."),
        StepParameter("class", Takes.NEEDED, "NAME", "The class."),
        StepParameter("object", Takes.OPTION, "NAME", "The variable that will hold the object."),
        StepParameter("argument", Takes.OPTIONS, "VARIABLE", "Pass its first value in."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="ferry_x=x ferry_load=load --class Ferry --argument ferry_x",
        before="""\
ferry_x = 3
ferry_load = []


def move_ferry(by):
    global ferry_x
    ferry_x += by


move_ferry(2)
print(ferry_x, ferry_load)
""",
        after={
            "harbour.py": """\
class Ferry:
    def __init__(self, x):
        self.x = x
        self.load = []


ferry = Ferry(3)


def move_ferry(by):
    ferry.x += by


move_ferry(2)
print(ferry.x, ferry.load)
""",
        },
    ),
)
