"""inherit: a class of rows that a library makes becomes the base of one that the script can give methods."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.values import OnlyValue, is_settled, only_value
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call
from aedifex.program.structure.record_classes import listed_fields
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span


@dataclass(frozen=True)
class Inherit:
    """Let the class of rows in `variable` be the base of a class of that name."""

    name: ClassVar[str] = "inherit"

    path: Path
    variable: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: the variable holds no such class, or others too.
        """
        module = module_of(program, self.path)
        for symbol, only, call in made_rows(module):
            if symbol.name == self.variable:
                return _Inheriting(module, symbol, only, call).plan()
        raise RefusedError(
            f"{module.path.name} keeps no class of rows in `{self.variable}` that a library makes",
            advice="It must be made at the top level, under the name of the variable, with its fields written out.",
        )


def made_rows(module: Module) -> Iterator[tuple[Symbol, OnlyValue, Call]]:
    """The variables that hold a class of rows and nothing else, where that is made, and by which call."""
    for symbol in module.scope.symbols.values():
        only = only_value(symbol)
        if only is None or not is_settled(symbol) or len(only.pairs) != 1:
            continue
        call = only.call
        if call is None or listed_fields(module, call) is None or only.statement.assignment is None:
            continue
        named = module.dialect.writer.text_value(module.source.slice(call.arguments[0].span))
        if named == symbol.name and only.statement.assignment.annotation is None:
            yield symbol, only, call


class _Inheriting(Planner):
    def __init__(self, module: Module, symbol: Symbol, only: OnlyValue, call: Call) -> None:
        super().__init__(module)
        self.symbol = symbol
        self.only = only
        self.call = call

    def find_objections(self) -> None:
        if not self.layout.stands_alone(self.only.statement):
            self.object(self.only.statement.start, "this shares its line with something else", "Give it its own line.")

    def write(self) -> None:
        statement, unit = self.only.statement, self.layout.indent
        text = self.module.source.slice(self.call.span)
        frame = self.writer.class_frame(self.symbol.name, "", unit, text)
        ends = self.layout.own_lines(statement)
        target = self.only.pair.target
        self.rewriter.drop([target])
        gap = self.layout.gap_before(self.layout.lines(statement).start)
        body = f"{unit}{self.writer.no_more_fields()}\n"
        self.rewriter.insert(ends.start, gap, *self.heading(frame.head, text), body, frame.tail, self.layout.gap)
        self.rewriter.remove(Span(ends.start, ends.end))

    def heading(self, head: str, text: str) -> list[Piece]:
        """The heading of the class, in which the call stands as its base."""
        before, behind = head.split(text)
        return [before, self.rewriter.taken(self.call.span), behind]


def _by_hand(_program: Program, script: Path, given: Given) -> list[Inherit]:
    return [Inherit(script, given["variable"])]


MOVE = Description(
    name="inherit",
    place=2,
    summary=(
        "A class of rows that a library makes becomes the base of a class of the same name.\n"
        "Refused where its fields are not written out, or the variable holds others too."
    ),
    term="Extract Subclass",
    help="Let a class that a library makes be the base of one.",
    parameters=(StepParameter("variable", Takes.ONE, "VARIABLE"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="Buoy",
        before="""\
from collections import namedtuple

Buoy = namedtuple("Buoy", "name depth")

north = Buoy("north", 4)
print(north)
""",
        after={
            "harbour.py": """\
from collections import namedtuple


class Buoy(namedtuple("Buoy", "name depth")):
    __slots__ = ()


north = Buoy("north", 4)
print(north)
""",
        },
    ),
)
