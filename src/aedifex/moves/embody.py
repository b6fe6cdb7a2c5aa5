"""embody: an object that is written out with functions of its own becomes the one object of a class."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Receiver, Rewriting
from aedifex.program.dialect.writer import Piece, RoutineSpans
from aedifex.program.dialect.written import WrittenMember
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Lambda
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.kinds.lone_objects import LoneObject, LoneObjects


@dataclass(frozen=True)
class Embody:
    """Write the class that an object, written out where a variable is declared, is by hand."""

    name: ClassVar[str] = "embody"

    path: Path
    variable: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: there is no such object, or something speaks against it.
        """
        module = module_of(program, self.path)
        found = next((one for one in LoneObjects.of(module).found if one.symbol.name == self.variable), None)
        if found is None:
            raise RefusedError(f"`{self.variable}` holds no object that is written out with functions of its own")
        return _Embodying(module, found).plan()


class _Embodying(Planner):
    def __init__(self, module: Module, lone: LoneObject) -> None:
        super().__init__(module)
        self.lone = lone

    def find_objections(self) -> None:
        for obstacle in self.lone.obstacles:
            self.object(*obstacle)

    def write(self) -> None:
        unit, name = self.layout.indent, self.lone.class_name
        frame = self.writer.class_frame(name, "", unit)
        constructor = self.writer.constructor_frame([], unit, unit)
        pieces: list[Piece] = [frame.head, constructor.head]
        for member in self.lone.held:
            pieces += self.taken(member, unit * 2)
            self.write_field(member, unit * 2)
        pieces.append(constructor.tail)
        for member, routine in self.lone.methods:
            pieces += ["\n", *self.taken(member, unit)]
            self.write_method(member, routine)
        top, at = self.layout.lines(self.lone.statement).start, self.layout.own_lines(self.lone.statement).start
        self.rewriter.insert(top, self.layout.gap_before(top))
        self.rewriter.insert(at, *pieces, frame.tail, "\n")
        self.rewriting.changes.replace(self.module.path, self.lone.value, *self.writer.creation(name, []))
        for use in self.lone.own_uses:
            self.rewriter.replace(use, self.writer.receiver, Receiver(name))

    def taken(self, member: WrittenMember, indent: str) -> list[Piece]:
        """The lines of a member, with the comments above it, indented anew."""
        source = self.module.source
        before = [other.whole.end for other in self.lone.members if other.whole.end <= member.whole.start]
        begin = self.layout.behind_blank(source.line_end(max(before, default=self.lone.value.start)))
        return self.rewriter.lines_taken(Span(begin, source.line_end(member.whole.end)), self.margin(member), indent)

    def margin(self, member: WrittenMember) -> str:
        """What the lines of a member begin with."""
        source = self.module.source
        return source.slice(Span(source.line_start(member.whole.start), member.whole.start))

    def write_field(self, member: WrittenMember, indent: str) -> None:
        """What an object holds is set by its constructor."""
        assert member.value is not None
        target = self.writer.member(self.writer.receiver, member.name)
        value = self.rewriter.taken(member.value, self.margin(member), indent)
        whole = Span(member.whole.start, member.whole.end + self.comma_behind(member))
        self.rewriting.changes.replace(self.module.path, whole, *self.writer.assignments([(target, value)]))

    def write_method(self, member: WrittenMember, routine: Lambda) -> None:
        """A method stands under its name alone."""
        assert routine.body is not None
        at, source = member.whole.start, self.module.source
        if member.routine != at:
            spans = RoutineSpans(member.named, routine.signature, Span(routine.body.start, routine.body.end))
            text = source.data[at : member.whole.end]
            for start, end, new in self.writer.as_method(text, spans.counted_from(at), self.layout.indent):
                if start < end:
                    self.rewriting.changes.replace(self.module.path, Span(at + start, at + end), new)
        self.rewriter.drop(self.lone.own_names(member, routine))
        comma = Span(member.whole.end, member.whole.end + self.comma_behind(member))
        if comma.start < comma.end:
            self.rewriting.changes.replace(self.module.path, comma, "")

    def comma_behind(self, member: WrittenMember) -> int:
        """How much stands behind a member up to the comma that ends it."""
        line = self.module.source.slice(Span(member.whole.end, self.module.source.line_end(member.whole.end)))
        return line.index(",") + 1 if line.lstrip().startswith(",") else 0


def _by_hand(program: Program, script: Path, given: Given) -> list[Embody]:
    return [Embody(script, given["variable"])]


MOVE = Description(
    name="embody",
    place=4,
    summary=(
        "An object written out with functions of its own becomes the object of a class.\n"
        "Refused where it is used as a whole, or a function is handed on without it."
    ),
    term="Extract Class",
    help="Make a class of an object that is written out with functions of its own.",
    parameters=(StepParameter("variable", Takes.ONE, "VARIABLE"),),
    make=_by_hand,
    example=Example(
        language="javascript",
        words="ferry",
        before="""\
const ferry = {
  x: 0,
  load: 3, // carts
  move(by) {
    this.x += by;
  },
  tell: function () {
    console.log(ferry.x, ferry.load);
  },
};

ferry.move(4);
ferry.tell();
""",
        after={
            "harbour.js": """\
class Ferry {
  constructor() {
    this.x = 0;
    this.load = 3; // carts
  }

  move(by) {
    this.x += by;
  }

  tell() {
    console.log(this.x, this.load);
  }
}

const ferry = new Ferry();

ferry.move(4);
ferry.tell();
"""
        },
    ),
)
