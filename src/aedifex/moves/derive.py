"""derive: a table that says again what records have under one key is looked up in the records."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Instead, Rewriting
from aedifex.program.model.expressions import Expression
from aedifex.program.model.module import Module
from aedifex.program.model.names import Scope
from aedifex.program.model.program import Program
from aedifex.source.errors import RefusedError
from aedifex.survey.repeated_data import Excerpt, excerpts


@dataclass(frozen=True)
class Derive:
    """Ask the records of the module for what the table called `variable`, of a function, says again."""

    name: ClassVar[str] = "derive"

    path: Path
    variable: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: no table of that name is an excerpt of one of the module.
        """
        module = module_of(program, self.path)
        found = next((e for e in excerpts(module) if e.writing.symbol.name == self.variable), None)
        if found is None:
            raise RefusedError(
                f"no table called {self.variable!r} says again what records at the top level have under one key",
                advice="Name a variable of a function that does, and is only asked for what it holds.",
            )
        return _Deriving(module, found).plan()


class _Deriving(Planner):
    def __init__(self, module: Module, excerpt: Excerpt) -> None:
        super().__init__(module)
        self.excerpt = excerpt

    def find_objections(self) -> None:
        writing, table = self.excerpt.writing, self.excerpt.table.symbol
        at = writing.statement.start
        if not self.layout.stands_alone(writing.statement) or len(writing.statement.block.statements) == 1:
            self.object(at, "this shares its line or its block with nothing else", "Leave it as it is.")
        if self.excerpt.table.statement.start > at:
            self.object(at, f"`{table.name}` is set after this is needed", "Set it further up.")
        if any(self.scope_of(asking).find(table.name) is not table for asking in self.excerpt.asked):
            self.object(at, f"`{table.name}` means something else here", "Give that another name.")

    def write(self) -> None:
        writing, table = self.excerpt.writing, self.excerpt.table.symbol
        key = self.module.source.slice(self.excerpt.key.span)
        self.rewriter.remove(self.layout.lines(writing.statement))
        self.rewriter.drop(self.module.references_within(writing.statement.span))
        for asking in self.excerpt.asked:
            reference = asking.parts[0].reference
            assert reference is not None
            self.rewriter.replace(reference, table.name, Instead(table))
            self.rewriter.insert(asking.end, self.writer.element("", key))
            first, *others = (step.name for step in reference.path)
            self.rewriting.paths[reference] = (first, self.excerpt.key.name, *others)

    def scope_of(self, asking: Expression) -> Scope:
        """Where a place stands."""
        reference = asking.parts[0].reference
        assert reference is not None
        return reference.scope


def _by_hand(program: Program, script: Path, given: Given) -> list[Derive]:
    return [Derive(script, given["variable"])]


MOVE = Description(
    name="derive",
    place=4,
    summary=(
        "A table that says again what records have under one key is looked up in the records.\n"
        "Refused where it differs from them anywhere, or more is done than to ask it."
    ),
    term="Replace Derived Variable with Query",
    help="Ask a table of records for what another table says again, and take that away.",
    parameters=(StepParameter("variable", Takes.ONE, "VARIABLE"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="depths",
        before="""\
places = {
    "quay": {"depth": 3, "boats": 2},
    "lock": {"depth": 5, "boats": 0},
    "ford": {"depth": 1, "boats": 1},
}


def depth(place):
    depths = {"quay": 3, "lock": 5, "ford": 1}
    return depths[place]


print(depth("ford"), places["quay"]["boats"])
""",
        after={
            "harbour.py": """\
places = {
    "quay": {"depth": 3, "boats": 2},
    "lock": {"depth": 5, "boats": 0},
    "ford": {"depth": 1, "boats": 1},
}


def depth(place):
    return places[place]["depth"]


print(depth("ford"), places["quay"]["boats"])
""",
        },
    ),
)
