"""settle: plain first values stand above what a program says when it starts.

What is said is then part of running the program, and not of making its owner.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Statement
from aedifex.program.structure.announcements import Announcements
from aedifex.source.errors import RefusedError


@dataclass(frozen=True)
class Settle:
    """Move the plain first values of the main code above what is said between them."""

    name: ClassVar[str] = "settle"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: nothing is said between plain first values.
        """
        module = module_of(program, self.path)
        found = Announcements.of(module)
        if not found.behind:
            raise RefusedError(f"{module.path.name} says nothing between plain first values and its main loop")
        return _Settling(module, found.first, found.behind).plan()


class _Settling(Planner):
    def __init__(self, module: Module, first: Statement | None, values: Sequence[Statement]) -> None:
        super().__init__(module)
        self.first = first
        self.values = values

    def write(self) -> None:
        assert self.first is not None
        pieces: list[Piece] = []
        for statement in self.values:
            lines = self.layout.lines(statement)
            pieces += self.rewriter.lines_taken(lines)
            self.rewriter.remove(lines)
        self.rewriter.insert(self.layout.lines(self.first).start, *pieces, "\n")


def _by_hand(program: Program, script: Path, given: Given) -> list[Settle]:
    return [Settle(script)]


MOVE = Description(
    name="settle",
    place=3,
    summary=(
        "Plain or random first values stand above what the program says when it starts.\n"
        "Refused where what is said has to do with them."
    ),
    term="Slide Statements",
    help="Move plain first values above what is said before the main loop.",
    make=_by_hand,
    example=Example(
        language="python",
        words="",
        before="""\
print("The quay is open.")
fish = 0
# how often we ask
turns = 2
while turns > 0:
    turns -= 1
    fish += 3
print(fish)
""",
        after={
            "harbour.py": """\
fish = 0
# how often we ask
turns = 2

print("The quay is open.")
while turns > 0:
    turns -= 1
    fish += 3
print(fish)
""",
        },
    ),
)
