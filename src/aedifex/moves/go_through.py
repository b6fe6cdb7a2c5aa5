"""go_through: a call that does something with each thing of a list becomes a loop over the list."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of, symbol_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference
from aedifex.program.model.program import Program
from aedifex.source.text import Span
from aedifex.survey.kinds.called_walks import CalledWalk, called_walks

_SEVERAL = 2
_LIST = "\0"


@dataclass(frozen=True)
class GoThrough:
    """Write the calls that do something with each thing of a list as loops over it."""

    name: ClassVar[str] = "go_through"

    path: Path
    container: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _GoingThrough(self, module_of(program, self.path)).plan()


class _GoingThrough(Planner):
    def __init__(self, move: GoThrough, module: Module) -> None:
        super().__init__(module)
        self.symbol = symbol_of(module, move.container)
        self.walks = called_walks(module, self.symbol)

    def find_objections(self) -> None:
        if not self.walks:
            self.object(
                self.symbol.references[0].start,
                f"no call that does something with each thing of `{self.symbol.name}` could be a loop",
                "Leave the calls as they are.",
            )

    def write(self) -> None:
        for walk in self.walks:
            self.rewrite(walk)

    def rewrite(self, walk: CalledWalk) -> None:
        """The header of a loop stands before the body, and nothing behind it but what ends the statement.

        A call that asks the thing for much is a line of its own.
        """
        changes, path, taken = self.rewriting.changes, self.module.path, self.rewriter.taken
        loop = self.writer.loop_over(walk.name, _LIST)
        before, behind = loop.split(_LIST)
        header: list[Piece] = [before, taken(Span(walk.container.start, walk.container.end)), f"{behind} "]
        self.rewriting.paths[walk.container] = ()
        if walk.function is not None:
            call = self.writer.call("", [walk.name])
            changes.replace(path, walk.statement.deed, *header, taken(walk.function.span), call)
            return
        assert walk.body is not None and walk.parameter is not None
        self.rewriter.drop([walk.parameter])
        if walk.block is None and self.asks_much(walk.body, walk.parameter):
            margin = self.layout.margin(walk.statement)
            frame = self.writer.block_frame(loop, margin)
            header[-1] = f"{frame.head.split(_LIST)[1]}{margin}{self.layout.indent}"
            below, end = f"{self.writer.ended('')}\n{frame.tail}".removesuffix("\n"), walk.statement.end
        else:
            below, end = "", walk.statement.end if walk.block is not None else walk.statement.deed.end
        changes.replace(path, Span(walk.statement.start, walk.body.start), *header)
        changes.replace(path, Span(walk.body.end, end), below)

    def asks_much(self, body: Span, thing: Reference) -> bool:
        """Whether a call asks a thing for several members: that may become what the thing itself does."""
        uses = [r for r in self.module.references_within(body) if r.symbol is thing.symbol]
        return len([r for r in uses if r.path]) >= _SEVERAL


def _by_hand(program: Program, script: Path, given: Given) -> list[GoThrough]:
    return [GoThrough(script, given["list"])]


MOVE = Description(
    name="go_through",
    place=7,
    summary=(
        "A call that does something with each thing of a list becomes a loop over the list.\n"
        "Refused where things may come into the list, or go, meanwhile."
    ),
    term="Replace Call per Element with Loop",
    help="Write calls that do something with each thing of a list as loops over it.",
    parameters=(StepParameter("list", Takes.ONE, "LIST"),),
    make=_by_hand,
    example=Example(
        language="javascript",
        words="kites",
        before="""\
const kites = [{ color: "red", up: true }, { color: "blue", up: false }];

kites.forEach((kite) => {
  if (kite.up) console.log(kite.color);
});
""",
        after={
            "harbour.js": """\
const kites = [{ color: "red", up: true }, { color: "blue", up: false }];

for (const kite of kites) {
  if (kite.up) console.log(kite.color);
}
""",
        },
    ),
)
