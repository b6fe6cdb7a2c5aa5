"""collect: lists that functions are given become tables that hold them under one key."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.errors import RefusedError
from aedifex.survey.kinds.handed_lists import ListKind, list_kinds


@dataclass(frozen=True)
class Collect:
    """Make tables with one key of the lists that a variable, and all that it is handed to, may hold."""

    name: ClassVar[str] = "collect"

    path: Path
    holder: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: the variable holds no list of which there are several, or more is done with it than is
                understood.
        """
        module = module_of(program, self.path)
        kinds = list_kinds(module)
        kind = next((kind for kind in kinds if self.holder in kind.holders), None)
        if kind is None:
            known = ", ".join(f"`{kind.holders[0]}`" for kind in kinds)
            raise RefusedError(
                f"`{self.holder}` is no list of which there are several that functions are given",
                advice=f"Such lists are held by {known}." if known else "There is no such list in the script.",
            )
        return _Collecting(module, kind).plan()


class _Collecting(Planner):
    def __init__(self, module: Module, kind: ListKind) -> None:
        super().__init__(module)
        self.kind = kind

    def write(self) -> None:
        frame, key = self.writer.table_frame(), self.writer.plain_text(self.kind.key)
        for made in self.kind.made:
            self.rewriter.insert(made.start, frame.head, self.writer.under_key(key))
            self.rewriter.insert(made.end, frame.tail)
        for use in self.kind.used:
            assert use.reference is not None
            self.rewriting.paths[use.reference] = (self.kind.key, *(step.name for step in use.reference.path))
            self.rewriter.insert(use.end, self.writer.element("", key))


def _by_hand(program: Program, script: Path, given: Given) -> list[Collect]:
    return [Collect(script, given["list"])]


MOVE = Description(
    name="collect",
    place=4,
    summary=(
        "Lists that functions are given become tables that hold them under one key.\n"
        "Refused where there is one of them only, or a use of it is not understood."
    ),
    term="Encapsulate Collection",
    help="Make tables of the lists that functions are given, so that `records` understands them.",
    parameters=(StepParameter("list", Takes.ONE, "LIST"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="left",
        before="""\
left = []
right = []


def stack(pile, crate):
    pile.append(crate)


def height(pile):
    return len(pile)


stack(left, "hay")
stack(right, "seeds")
print(height(left), height(right))
""",
        after={
            "harbour.py": """\
left = {"crates": []}
right = {"crates": []}


def stack(pile, crate):
    pile["crates"].append(crate)


def height(pile):
    return len(pile["crates"])


stack(left, "hay")
stack(right, "seeds")
print(height(left), height(right))
""",
        },
    ),
)
