"""pool: data that several functions write out, each for itself, stands once at the top level."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import at_top, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting, Variable
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Statement
from aedifex.source.errors import RefusedError
from aedifex.survey.repeated_data import Writing, repeated_data


@dataclass(frozen=True)
class Pool:
    """Write out once what a variable of this name and others are given, and stay; that is called `variable` then."""

    name: ClassVar[str] = "pool"

    path: Path
    variable: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: no data of that name is written out twice, and only read.
        """
        module = module_of(program, self.path)
        alike = (w for w in repeated_data(module) if any(one.symbol.name == self.variable for one in w))
        writings = next(alike, None)
        if writings is None:
            raise RefusedError(
                f"no table or list called {self.variable!r} is written out in two places and only read",
                advice="Name a variable of a function that others have with the same values.",
            )
        return _Pooling(self, module, writings).plan()


class _Pooling(Planner):
    def __init__(self, move: Pool, module: Module, writings: Sequence[Writing]) -> None:
        super().__init__(module)
        self.move = move
        self.writings = writings
        self.shared = next((w for w in writings if w.symbol.is_module_level), None)

    def find_objections(self) -> None:
        for writing in self.writings:
            if not self.layout.stands_alone(writing.statement):
                self.object(writing.statement.start, "this shares its line with another statement", "Break the line.")
            if len(writing.statement.block.statements) == 1:
                self.object(writing.statement.start, "the function does nothing else", "Leave it as it is.")
        own = [writing.symbol for writing in self.writings]
        known = [s.symbols.get(self.move.variable) for s in (self.module.scope, self.module.outside)]
        known += [r.scope.find(self.move.variable) for symbol in own for r in symbol.references]
        if any(symbol not in own for symbol in known if symbol is not None):
            at = self.writings[0].statement.start
            self.object(at, f"`{self.move.variable}` means something else elsewhere", "Choose another variable.")
        for function in (w.symbol.scope.routine for w in self.writings if w is not self.shared):
            if function is None:
                self.object(self.writings[0].statement.start, "this is in no function", "Leave it as it is.")
        if self.shared is not None and self.shared.statement.start > self.first.start:
            self.object(self.shared.statement.start, "the data is set after it is needed", "Set it further up.")

    @property
    def first(self) -> Statement:
        """The first definition with a function that writes the data out."""
        return min((at_top(writing.statement) for writing in self.writings), key=lambda s: s.start)

    def write(self) -> None:
        if self.shared is None:
            self.write_out(self.writings[0])
        for writing in self.writings:
            if writing is not self.shared:
                self.rewriter.remove(self.layout.lines(writing.statement))
                bound = next(r for r in writing.symbol.references if r.mode.writes)
                self.rewriter.drop([] if self.shared is None and writing is self.writings[0] else [bound])
            for reference in writing.symbol.references:
                if reference not in self.rewriting.dropped:
                    self.rewriter.replace(reference, self.move.variable, Variable(self.move.variable))

    def write_out(self, writing: Writing) -> None:
        """The data above the first function that needs it, with the comments that stood above it there."""
        lines, at = self.layout.lines(writing.statement), self.layout.lines(self.first).start
        pieces: list[Piece] = self.rewriter.lines_taken(lines, dedent=self.layout.margin(writing.statement))
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces, self.layout.gap)


def _by_hand(program: Program, script: Path, given: Given) -> list[Pool]:
    return [Pool(script, given["variable"])]


MOVE = Description(
    name="pool",
    place=3,
    summary=(
        "Data that functions write out, each for itself, stands once at the top level.\n"
        "Refused where anybody changes it, or hands it to code that cannot be seen."
    ),
    term="Replace Magic Literal",
    help="Write out once the table or list that variables of several functions are given.",
    parameters=(StepParameter("variable", Takes.ONE, "VARIABLE"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="depths",
        before="""\
def depth(place):
    # in meters
    depths = {"quay": 3, "lock": 5, "ford": 1}
    return depths[place]


def show():
    depths = {"quay": 3, "lock": 5, "ford": 1}
    for place in depths:
        print(place, depths[place])


show()
print(depth("ford"))
""",
        after={
            "harbour.py": """\
# in meters
depths = {"quay": 3, "lock": 5, "ford": 1}


def depth(place):
    return depths[place]


def show():
    for place in depths:
        print(place, depths[place])


show()
print(depth("ford"))
""",
        },
    ),
)
