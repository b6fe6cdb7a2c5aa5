"""point: a function that is given the number of an element is given the element."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of, symbol_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Parameter, Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.text import Span
from aedifex.survey.kinds.pointed import Pointed, pointed

_NUMBER = "#"


@dataclass(frozen=True)
class Point:
    """Give one function an element of a list, called `item`, in place of its number."""

    name: ClassVar[str] = "point"

    path: Path
    container: str
    item: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Pointing(self, module_of(program, self.path)).plan()


class _Pointing(Planner):
    def __init__(self, move: Point, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.symbol = symbol_of(module, move.container)
        self.found = next(pointed(module, self.symbol, move.item), None)

    def find_objections(self) -> None:
        if self.found is None:
            self.object(
                self.symbol.references[0].start,
                f"no function is given a number and uses only the element of `{self.symbol.name}` that it stands for",
                "Leave the functions as they are, or choose another name for one element.",
            )

    def write(self) -> None:
        assert self.found is not None
        self.rewrite(self.found)

    def rewrite(self, found: Pointed) -> None:
        path, changes, item = self.module.path, self.rewriting.changes, self.move.item
        self.rewriter.replace(found.parameter.reference, item, Parameter(found.function.name, item))
        for element in found.elements:
            changes.replace(path, element.span, item)
            self.rewriter.drop(self.module.references_within(element.span))
        before, _, after = self.writer.element(self.symbol.name, _NUMBER).partition(_NUMBER)
        for argument in found.arguments:
            changes.replace(path, Span(argument.start, argument.start), before)
            changes.replace(path, Span(argument.end, argument.end), after)


def _by_hand(program: Program, script: Path, given: Given) -> list[Point]:
    return [Point(script, given["list"], given["item"])]


MOVE = Description(
    name="point",
    place=7,
    summary=(
        "A function that is given the number of an element is given the element.\n"
        "Refused where there may be no such element, or another one by then."
    ),
    term="Preserve Whole Object",
    help="Give a function an element of a list in place of its number.",
    parameters=(
        StepParameter("list", Takes.ONE, "LIST"),
        StepParameter("item", Takes.NEEDED, "NAME", "What one element is called."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="kites --item kite",
        before="""\
kites = [{"color": "red", "height": 4}, {"color": "blue", "height": 9}]


def rise(i, by):
    if by > 0:
        kites[i]["height"] += by


for number in range(len(kites)):
    rise(number, 3)
print(kites)
""",
        after={
            "harbour.py": """\
kites = [{"color": "red", "height": 4}, {"color": "blue", "height": 9}]


def rise(kite, by):
    if by > 0:
        kite["height"] += by


for number in range(len(kites)):
    rise(kites[number], 3)
print(kites)
""",
        },
    ),
)
