"""compose: a function that makes objects, and the methods that are hung on them one by one, become a class."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Renamed, Rewriting
from aedifex.program.dialect.writer import Piece, RoutineSpans
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Statement
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.kinds.hand_made import HandMade, HandMadeClasses, HungMethod
from aedifex.survey.kinds.hand_made_bases import HandMadeBase


@dataclass(frozen=True)
class Compose:
    """Write the class that a function and what hangs on it are by hand."""

    name: ClassVar[str] = "compose"

    path: Path
    function: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: it is no such function, or something speaks against it.
        """
        module = module_of(program, self.path)
        found = (made for made in HandMadeClasses.of(module).found if made.function.name == self.function)
        made = next(found, None)
        if made is None:
            raise RefusedError(f"`{self.function}` is no function that makes objects, set up by hand")
        return _Composing(module, made).plan()


class _Composing(Planner):
    def __init__(self, module: Module, made: HandMade) -> None:
        super().__init__(module)
        self.made = made

    def find_objections(self) -> None:
        for obstacle in self.made.obstacles:
            self.object(*obstacle)

    def write(self) -> None:
        for made in self.made.family:
            self.write_class(made)

    def write_class(self, made: HandMade) -> None:
        function, unit, base = made.function, self.layout.indent, made.base
        frame = self.writer.class_frame(function.name, "", unit, base.base.name if base is not None else "")
        own = self.layout.own_lines(function.statement)
        pieces: list[Piece] = [frame.head, *self.rewriter.lines_taken(own, indent=unit)]
        self.rewriter.make_constructor(function)
        self.rewriter.remove(own)
        if base is not None:
            self.write_base(base)
        for method in made.methods:
            begin = self.layout.behind_blank(method.lines.start)
            pieces += ["\n", *self.rewriter.lines_taken(Span(begin, method.lines.end), self.margin(method), unit)]
            self.write_method(method)
            if method.is_alone:
                self.rewriter.remove(method.lines)
        for table in made.tables:
            self.rewriter.remove(self.layout.lines(table))
            self.rewriter.drop(r for r in table.references if r.symbol is made.symbol)
        for statement in made.restored:
            self.forget(statement)
        self.rewriter.insert(own.end, *pieces, frame.tail)
        for use in made.uses:
            self.rewriting.destinations[use] = Renamed(function.name)

    def write_base(self, base: HandMadeBase) -> None:
        """Its class says what it inherits from, and calls that by the word for it."""
        self.forget(base.link.statement)
        for call in base.calls:
            self.rewriter.drop([call.use, call.receiver])
            text = self.writer.base_call_begun(call.member, hands_on=call.hands_on)
            self.rewriting.changes.replace(self.module.path, call.head, text)

    def forget(self, statement: Statement) -> None:
        """Take away a statement that says no more than the class does."""
        self.rewriter.remove(self.layout.lines(statement))
        self.rewriter.drop(statement.references)

    def margin(self, method: HungMethod) -> str:
        """What the lines of a method begin with, where it stands in a table."""
        at, source = method.whole.start, self.module.source
        return "" if method.is_alone else source.slice(Span(source.line_start(at), at))

    def write_method(self, method: HungMethod) -> None:
        """A method stands under its name alone."""
        routine, at = method.routine, method.whole.start
        assert routine.body is not None
        spans = RoutineSpans(method.named, routine.signature, Span(routine.body.start, routine.body.end))
        text = self.module.source.data[at : method.whole.end]
        for start, end, new in self.writer.as_method(text, spans.counted_from(at), self.layout.indent):
            if start < end:
                self.rewriting.changes.replace(self.module.path, Span(at + start, at + end), new)
        if method.is_alone:
            self.rewriter.drop(r for r in method.statement.references if r.start == at)
            return
        line = self.module.source.data[method.whole.end : method.lines.end]
        comma = method.whole.end + line.find(b",")
        if b"," in line:
            self.rewriting.changes.replace(self.module.path, Span(comma, comma + 1), "")


def _by_hand(program: Program, script: Path, given: Given) -> list[Compose]:
    return [Compose(script, given["function"])]


MOVE = Description(
    name="compose",
    place=4,
    summary=(
        "A function that makes objects becomes a class, with the methods hung on them.\n"
        "Refused where it is used otherwise, or makes objects before all is there."
    ),
    term="Replace Constructor Function with Class",
    help="Make a class of a function that makes objects, and of the methods that are hung on it.",
    parameters=(StepParameter("function", Takes.ONE, "FUNCTION"),),
    make=_by_hand,
    example=Example(
        language="javascript",
        words="Kite",
        before="""\
function Kite(rope) {
  this.rope = rope;
}

Kite.prototype.pull = function (by) {
  this.rope -= by;
};

const kite = new Kite(40);
kite.pull(3);
""",
        after={
            "harbour.js": """\
class Kite {
  constructor(rope) {
    this.rope = rope;
  }

  pull(by) {
    this.rope -= by;
  }
}

const kite = new Kite(40);
kite.pull(3);
"""
        },
    ),
)
