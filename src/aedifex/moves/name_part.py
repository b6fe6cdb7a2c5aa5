"""name_part: an element that a function asks a table for again and again gets a name."""

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
from aedifex.program.structure.obstacles import is_hard_to_echo
from aedifex.source.errors import RefusedError
from aedifex.survey.repeated_parts import RepeatedPart, repeated_parts
from aedifex.survey.words import singular


@dataclass(frozen=True)
class NamePart:
    """Name the elements of the table in `variable` that functions ask for more than once by one key: `item`.

    That is the variable's name in the singular where it is empty.
    """

    name: ClassVar[str] = "name_part"

    path: Path
    variable: str
    item: str = ""

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: no function does so, or no name is free.
        """
        module = module_of(program, self.path)
        symbol = module.scope.symbols.get(self.variable)
        item = self.item or singular(self.variable)
        found = list(repeated_parts(module, symbol)) if symbol is not None and item != self.variable else []
        groups = [group for group in found if all(s.find(item) is None for s in group.function.scope.walk())]
        if not groups:
            raise RefusedError(
                f"no function asks `{self.variable}` for an element by the same name several times",
                advice="It must be a table whose elements stay, in the plural, and the element's name must be free.",
            )
        return _Naming(module, item, groups).plan()


class _Naming(Planner):
    def __init__(self, module: Module, item: str, groups: list[RepeatedPart]) -> None:
        super().__init__(module)
        self.item = item
        self.groups = groups

    def find_objections(self) -> None:
        for reference in (part.parts[0].reference for group in self.groups for part in group.parts):
            if reference is not None and (
                is_hard_to_echo(self.module, reference) or self.module.echo_at(reference.start) is not None
            ):
                self.object(reference.start, "a template shows this by its own text", "Write the text out.")

    def write(self) -> None:
        for group in self.groups:
            margin = self.layout.margin(group.first)
            at = self.layout.own_lines(group.first).start
            # new text: what the line says moves nowhere, so that it is found again
            asked = self.module.source.slice(group.parts[0].span)
            self.rewriter.insert(at, margin, *self.writer.assignment(self.item, [asked]))
            for part in group.parts:
                self.rewriting.changes.replace(self.module.path, part.span, self.item)
                self.rewriter.drop(self.module.references_within(part.span))


def _by_hand(program: Program, script: Path, given: Given) -> list[NamePart]:
    return [NamePart(script, given["variable"])]


MOVE = Description(
    name="name_part",
    place=10,
    summary=(
        "An element that a function asks a table for again and again gets a name.\n"
        "Refused where it may be another one in between, or where it is not always asked for."
    ),
    term="Extract Variable",
    help="Name what a function asks a table for again and again.",
    parameters=(StepParameter("variable", Takes.ONE, "VARIABLE"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="piers",
        before="""\
piers = {"north": {"depth": 4, "boats": ["Ida"]}, "south": {"depth": 2, "boats": []}}


def moor(boat, place):
    if piers[place]["depth"] > 3:
        piers[place]["boats"].append(boat)
    return piers[place]["boats"]


print(moor("Merle", "north"), moor("Tern", "south"))
""",
        after={
            "harbour.py": """\
piers = {"north": {"depth": 4, "boats": ["Ida"]}, "south": {"depth": 2, "boats": []}}


def moor(boat, place):
    pier = piers[place]
    if pier["depth"] > 3:
        pier["boats"].append(boat)
    return pier["boats"]


print(moor("Merle", "north"), moor("Tern", "south"))
""",
        },
    ),
)
