"""answer: what a function does first becomes a function that answers whether the rest is to be done."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.control_exits import steering
from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import function_of, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Parameter as Local
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.expressions import Expression
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, ParameterKind
from aedifex.program.structure.last_branch import rest_from
from aedifex.program.structure.obstacles import function_obstacles
from aedifex.source.errors import UsageError
from aedifex.source.text import Span


@dataclass(frozen=True)
class Answer:
    """Divide a function that ends in a branch: `function` does what stands before the line `rest` in it.

    It answers whether the statements from that line on are to be done; the function asks it, and does them then.
    """

    name: ClassVar[str] = "answer"

    path: Path
    routine: str
    rest: int
    function: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        return _Answering(self, module, function_of(module, self.routine)).plan()


class _Answering(Planner):
    def __init__(self, move: Answer, module: Module, function: Function) -> None:
        super().__init__(module)
        self.move = move
        self.function = function
        at_line = (s for s in function.body.walk() if module.source.line_of(s.start) == move.rest)
        found = next(at_line, None)
        self.rest = rest_from(function, found) if found is not None else []
        self.first = function.deeds

    # -- reasons against it

    def find_objections(self) -> None:
        at, name = self.function.scope.start, self.function.name
        for obstacle in function_obstacles(self.module, self.function):
            self.object(*obstacle)
        if not self.rest:
            reason = f"line {self.move.rest} does not begin the end of a branch with which `{name}` ends"
            self.object(at, reason, "Name the first line of what is to be done last.")
            return
        if any(inner is not self.function.scope for inner in self.function.scope.walk()):
            self.object(at, f"`{name}` has scopes of its own inside", "Move them out first.")
        if self.function.is_postponed:
            self.object(at, f"`{name}` does not run where it is called", "Leave it as it is.")
        if any(p.kind is not ParameterKind.PLAIN for p in self.function.parameters):
            self.object(at, f"`{name}` takes any number of values", "Give each its own name.")
        self.object_to_names()
        for statement, _ in steering(self.function.body.statements):
            if self.module.source.slice(statement.span) != self.text(self.writer.returning([])):
                self.object(statement.start, f"`{name}` gives a value back already", "Leave it as it is.")
        if not all(self.layout.stands_alone(s) for s in (*self.first, *self.rest)):
            self.object(at, "some of its statements share a line", "Break the lines.")

    def object_to_names(self) -> None:
        """What is set before must not be needed in the rest, and belong to the function."""
        own, later = self.function.scope, [r for s in self.rest for r in self.module.references_within(s.span)]
        given = {r.symbol for r in self.before if r.mode.writes}
        crossing = [r for r in later if r.symbol.scope is own and r.symbol in given]
        if crossing:
            reason = f"what is done last needs `{crossing[0].name}`, which is set before"
            self.object(crossing[0].start, reason, "Work it out where it is needed.")
        shared = [r for r in self.before if r.mode.writes and r.symbol.scope is not own]
        if shared:
            self.object(shared[0].start, f"`{shared[0].name}` is set before the rest", "Name an earlier line.")

    @property
    def before(self) -> list[Reference]:
        """All names in what the function does first."""
        start, end = self.rest[0].start, self.rest[-1].end
        inside = [r for s in self.first for r in self.module.references_within(s.span)]
        return [r for r in inside if not start <= r.start < end]

    def text(self, pieces: Sequence[Piece]) -> str:
        """Pieces that are all new text."""
        return "".join(piece for piece in pieces if isinstance(piece, str))

    # -- writing

    def write(self) -> None:
        names = [p.name for p in self.function.parameters if any(r.symbol is p.reference.symbol for r in self.before)]
        unit = self.layout.indent
        frame = self.writer.function_frame(self.move.function, ", ".join(names))
        at = self.layout.lines(self.function.statement).start
        self.rewriter.insert(at, self.layout.gap_before(at), frame.head, *self.body(unit), frame.tail, self.layout.gap)
        for reference in self.before:
            if reference.symbol.scope is self.function.scope:
                self.rewriting.destinations[reference] = Local(self.move.function, reference.name)
        lines = Span(self.layout.lines(self.first[0]).start, self.layout.own_lines(self.first[-1]).end)
        self.rewriter.insert(lines.start, *self.question(names))
        self.rewriter.remove(lines)

    @property
    def last_question(self) -> Expression | None:
        """The condition on which the rest depends, where that is all that the function asks last."""
        owner = self.rest[0].block.owner
        if owner is not self.first[-1] or len(owner.blocks) > 1 or owner.blocks[0].statements != self.rest:
            return None
        asked = Surroundings.of(self.module).conditions(owner)
        if len(asked) != 1 or not asked[0].is_truth:
            return None
        first, last = self.module.source.lines_of(Span(owner.start, asked[0].end))
        has_comment = bool(self.rewriter.comments(owner.start, self.lines_of_rest.start, ""))
        return asked[0] if first == last and not has_comment else None

    def body(self, unit: str) -> list[Piece]:
        """What is done first: each way out answers."""
        margin, path = self.layout.margin(self.first[0]), self.module.path
        rest = self.lines_of_rest
        for statement, _ in steering(self.first):
            if not rest.start <= statement.start < rest.end:
                answer = self.text(self.writer.returning([self.writer.truth(False)]))
                self.rewriting.changes.replace(path, statement.span, answer)
        start, end = self.layout.lines(self.first[0]).start, self.layout.own_lines(self.first[-1]).end
        if (question := self.last_question) is not None:
            line = self.layout.own_lines(self.first[-1]).start
            before = self.rewriter.lines_taken(Span(start, line), margin, unit) if start < line else []
            return [*before, unit, *self.writer.returning([self.rewriter.taken(question.span)]), "\n"]
        pieces = [] if start == rest.start else self.rewriter.lines_taken(Span(start, rest.start), margin, unit)
        inner = unit + self.layout.margin(self.rest[0])[len(margin) :]
        pieces += [inner, *self.writer.returning([self.writer.truth(True)]), "\n"]
        if rest.end < end:
            pieces += self.rewriter.lines_taken(Span(rest.end, end), margin, unit)
        return [*pieces, unit, *self.writer.returning([self.writer.truth(False)]), "\n"]

    @property
    def lines_of_rest(self) -> Span:
        """The lines of what is done last, with the comments above it."""
        return Span(self.layout.lines(self.rest[0]).start, self.layout.own_lines(self.rest[-1]).end)

    def question(self, names: Sequence[str]) -> list[Piece]:
        """The function asks, and does the rest if that is the answer."""
        margin = self.layout.margin(self.first[0])
        head = self.writer.condition(self.writer.call(self.move.function, names))
        frame = self.writer.block_frame(head, margin)
        inner = margin + self.layout.indent
        rest = self.rewriter.lines_taken(self.lines_of_rest, self.layout.margin(self.rest[0]), inner)
        return [frame.head, *rest, frame.tail]


def _by_hand(program: Program, script: Path, given: Given) -> list[Answer]:
    if not given["line"].isdigit() or not program.dialect.rules.is_name(given["function"]):
        raise UsageError("say on which line the rest begins, and a name for the function")
    return [Answer(script, given["of"], int(given["line"]), given["function"])]


MOVE = Description(
    name="answer",
    place=21,
    summary=(
        "What a function does first becomes one that answers whether to do the rest.\n"
        "Refused where the rest needs what is set before, or more comes behind it."
    ),
    term="Split Phase",
    help="Let a function ask another, which does what stands before a line, whether to go on from there.",
    parameters=(
        StepParameter("line", Takes.ONE, "LINE"),
        StepParameter("function", Takes.ONE, "NAME"),
        StepParameter("of", Takes.NEEDED, "FUNCTION", "The function to divide."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="12 fly --of fly_kite",
        before="""\
lost = 0
kites = [{"line": 9}, {"line": 3}]


def fly_kite(kite, wind):
    global lost
    if wind < 5:
        kite["line"] -= 1
    else:
        kite["line"] -= 4
        if kite["line"] < 0:
            lost += 1


for kite in kites:
    fly_kite(kite, 6)
print(lost)
""",
        after={
            "harbour.py": """\
lost = 0
kites = [{"line": 9}, {"line": 3}]


def fly(kite, wind):
    if wind < 5:
        kite["line"] -= 1
    else:
        kite["line"] -= 4
        if kite["line"] < 0:
            return True
    return False


def fly_kite(kite, wind):
    global lost
    if fly(kite, wind):
        lost += 1


for kite in kites:
    fly_kite(kite, 6)
print(lost)
""",
        },
    ),
)
