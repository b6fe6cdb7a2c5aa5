"""separate: one assignment of plain values to several names becomes a line for each."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Pair, Shape, Statement
from aedifex.source.errors import RefusedError, UsageError

_PLAIN = frozenset({Shape.LITERAL, Shape.DISPLAY})


@dataclass(frozen=True)
class Separate:
    """Give each name that the assignment on a line sets a line of its own."""

    name: ClassVar[str] = "separate"

    path: Path
    line: int

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        statement = next(_assignments_on(module, self.line), None)
        if statement is None:
            raise RefusedError(f"line {self.line} of {module.path.name} gives no several names a value each")
        return _Separating(module, statement).plan()


def _assignments_on(module: Module, line: int) -> Iterator[Statement]:
    for statement in module.walk():
        is_there = module.source.line_of(statement.start) == line
        if is_there and statement.kind is Kind.ASSIGN and statement.assignment and len(statement.assignment.pairs) > 1:
            yield statement


class _Separating(Planner):
    def __init__(self, module: Module, statement: Statement) -> None:
        super().__init__(module)
        self.statement = statement

    @property
    def pairs(self) -> tuple[Pair, ...]:
        return self.statement.assignment.pairs if self.statement.assignment is not None else ()

    def find_objections(self) -> None:
        at = self.statement.start
        for pair in self.pairs:
            if pair.value.shape not in _PLAIN or self.references_in(pair):
                self.object(
                    at,
                    f"the value of `{pair.target.name}` is worked out, perhaps from the others",
                    "Leave it, or put plain values there.",
                )
        if not self.layout.stands_alone(self.statement):
            self.object(at, "this shares its line with another statement", "Break the line.")
        if any(self.statement.start <= comment.start < self.statement.end for comment in self.module.comments):
            self.object(at, "a comment stands inside this assignment", "Move it above.")

    def references_in(self, pair: Pair) -> list[Reference]:
        return self.module.references_within(pair.value.span)

    def write(self) -> None:
        margin = self.layout.margin(self.statement)
        pieces: list[Piece] = []
        for pair in self.pairs:
            name = self.module.source.slice(pair.target.span)
            pieces += [margin, *self.writer.assignment(name, [self.rewriter.taken(pair.value.span)])]
        self.rewriter.drop(pair.target for pair in self.pairs)
        pieces = pieces[1:-1]  # the first margin and the last line ending stand there already
        self.rewriting.changes.replace(self.module.path, self.statement.span, *pieces)


def _by_hand(program: Program, script: Path, given: Given) -> list[Separate]:
    if not given["line"].isdigit():
        raise UsageError("say on which line the assignment begins")
    return [Separate(script, int(given["line"]))]


MOVE = Description(
    name="separate",
    place=5,
    summary=(
        "One assignment of plain values to several names becomes a line for each.\n"
        "Refused where a value is worked out: it might look at the others."
    ),
    term="Split Declaration",
    help="Give each name of an assignment a line of its own, so that each can have a comment, and go its own way.",
    parameters=(StepParameter("line", Takes.ONE, "LINE"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="1",
        before="ferry_x, ferry_load = 3, []\nprint(ferry_x, ferry_load)\n",
        after={"harbour.py": "ferry_x = 3\nferry_load = []\nprint(ferry_x, ferry_load)\n"},
    ),
)
