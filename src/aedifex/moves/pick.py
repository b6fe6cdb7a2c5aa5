"""pick: in a loop by number, the element under that number gets a name."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of, symbol_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.survey.kinds.picks import Pick as PickedLoop
from aedifex.survey.kinds.picks import picks


@dataclass(frozen=True)
class Pick:
    """Call the element that a loop is about `item`, at the beginning of its body."""

    name: ClassVar[str] = "pick"

    path: Path
    container: str
    item: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        return _Picking(self, module).plan()


class _Picking(Planner):
    def __init__(self, move: Pick, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.symbol = symbol_of(module, move.container)
        self.picks = picks(module, self.symbol, move.item)

    def find_objections(self) -> None:
        if not self.picks:
            self.object(
                self.symbol.references[0].start,
                f"no loop asks for an element of `{self.symbol.name}` by one number, first and again",
                "Leave the loops as they are, or choose another name for one element.",
            )

    def write(self) -> None:
        for pick in self.picks:
            self.rewrite(pick)

    def rewrite(self, pick: PickedLoop) -> None:
        path, changes = self.module.path, self.rewriting.changes
        first = pick.loop.blocks[0].statements[0]
        element = self.module.source.slice(pick.element.span)
        at = self.layout.lines(first).start
        self.rewriter.insert(at, self.layout.margin(first), *self.writer.variable(self.move.item, [element]))
        for place in pick.places:
            changes.replace(path, place.span, self.move.item)
            self.rewriter.drop(self.module.references_within(place.span))


def _by_hand(program: Program, script: Path, given: Given) -> list[Pick]:
    return [Pick(script, given["list"], given["item"])]


MOVE = Description(
    name="pick",
    place=8,
    summary=(
        "In a loop by number, the element under that number gets a name.\n"
        "Refused where the number or the list may change before the element is last asked for."
    ),
    term="Extract Variable",
    help="Give the element that a loop by number is about a name.",
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

i = 0
while i < len(kites):
    kites[i]["height"] -= 5
    if kites[i]["height"] < 0:
        del kites[i]
    else:
        i += 1
print(kites)
""",
        after={
            "harbour.py": """\
kites = [{"color": "red", "height": 4}, {"color": "blue", "height": 9}]

i = 0
while i < len(kites):
    kite = kites[i]
    kite["height"] -= 5
    if kite["height"] < 0:
        del kites[i]
    else:
        i += 1
print(kites)
""",
        },
    ),
)
