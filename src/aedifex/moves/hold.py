"""hold: things of a library in a list become tables that hold them under one key."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.member_access import root_of
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.errors import RefusedError
from aedifex.survey.kinds.held import HeldKind, held_kinds
from aedifex.survey.words import singular, words_of


@dataclass(frozen=True)
class Hold:
    """Make tables with one key of the things of a library that a list has."""

    name: ClassVar[str] = "hold"

    path: Path
    holder: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: the list has no such things, or more is done with it than is understood.
        """
        module = module_of(program, self.path)
        kinds = held_kinds(module)
        kind = next((kind for kind in kinds if kind.holder.name == self.holder), None)
        if kind is None:
            known = ", ".join(f"`{kind.holder.name}`" for kind in kinds)
            raise RefusedError(
                f"`{self.holder}` is no list of things of a library that are only gone over, told and taken out",
                advice=f"There is {known}." if known else "There is no such list in the script.",
            )
        return _Holding(module, kind).plan()


class _Holding(Planner):
    def __init__(self, module: Module, kind: HeldKind) -> None:
        super().__init__(module)
        self.kind = kind
        self.key = self.writer.plain_text(kind.key)

    @cached_property
    def item(self) -> str:
        """What an element is called in loops whose name for it also stands for what is made."""
        naming, words = self.dialect.naming, words_of(self.kind.holder.name)
        noun = naming.member_name([*words[:-1], singular(words[-1])])
        wishes = (noun, naming.joined("one", noun), naming.joined("the", noun), naming.joined(noun, "held"))
        known = self.module.names_in_use
        return next((w for w in wishes if w not in known and self.dialect.rules.is_name(w)), "")

    def find_objections(self) -> None:
        if self.kind.shared and not self.item:
            at = self.kind.shared[0]
            self.object(at.start, f"`{at.name}` stands for other things, too", "Give the elements a name of their own.")

    def write(self) -> None:
        frame = self.writer.table_frame()
        for made in self.kind.made:
            self.rewriter.insert(made.start, frame.head, self.writer.under_key(self.key))
            self.rewriter.insert(made.end, frame.tail)
        under = self.writer.element("", self.key)
        used = set(self.kind.used)
        for reference in self.kind.shared:
            text = self.writer.element(self.item, self.key) if reference in used else self.item
            self.rewriting.changes.replace(self.module.path, reference.span, text)
        self.rewriter.drop(self.kind.shared)
        for reference in used.difference(self.kind.shared):
            self.rewriting.paths[reference] = (self.kind.key, *(step.name for step in reference.path))
            self.rewriter.insert(reference.end, under)
        for part in self.kind.asked:
            base, depth = root_of(part)
            if base is not None:
                steps = [step.name for step in base.path]
                self.rewriting.paths[base] = (*steps[:depth], self.kind.key, *steps[depth:])
            self.rewriter.insert(part.end, under)


def _by_hand(program: Program, script: Path, given: Given) -> list[Hold]:
    return [Hold(script, given["list"])]


MOVE = Description(
    name="hold",
    place=4,
    summary=(
        "Things of a library in a list become tables that hold them under one key.\n"
        "Refused where more is done with the list than to go over it, add to it and take out."
    ),
    term="Replace Primitive with Object",
    help="Make tables of the things of a library that a list has, so that `records` understands them.",
    parameters=(StepParameter("list", Takes.ONE, "LIST"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="piles",
        before="""\
from collections import Counter

piles = []
for word in ["hay", "seeds"]:
    piles.append(Counter(word))
for pile in piles:
    pile.update("s")
    print(pile.most_common(1))
""",
        after={
            "harbour.py": """\
from collections import Counter

piles = []
for word in ["hay", "seeds"]:
    piles.append({"counter": Counter(word)})
for pile in piles:
    pile["counter"].update("s")
    print(pile["counter"].most_common(1))
""",
        },
    ),
)
