"""whole: a function that is given several fields of one object is given the object."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import class_of, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Parameter, Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.text import Span
from aedifex.survey.kinds.in_pieces import InPieces, Piece, in_pieces
from aedifex.survey.kinds.objects import ObjectCalls


@dataclass(frozen=True)
class Whole:
    """Give one function an object of a class, called `item`, in place of its fields."""

    name: ClassVar[str] = "whole"

    path: Path
    class_name: str
    item: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Handing(self, module_of(program, self.path)).plan()


class _Handing(Planner):
    def __init__(self, move: Whole, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.statement, scope = class_of(module, move.class_name)
        self.found = next(in_pieces(module, scope, move.item), None)

    def find_objections(self) -> None:
        if self.found is None:
            reason = (
                f"no function is given several fields of one object of {self.move.class_name}, and nothing else of it"
            )
            self.object(self.statement.start, reason, "Leave the functions as they are, or choose another name.")

    def write(self) -> None:
        assert self.found is not None
        first, *others = self.found.pieces
        self.rewriter.replace(first.parameter.reference, self.found.item, self.destination)
        for piece in others:
            at = self.found.function.parameters.index(piece.parameter)
            self.rewriter.drop([piece.parameter.reference])
            self.remove(self.found.function.parameters[at - 1].end, piece.parameter.end)
        for piece in self.found.pieces:
            self.ask_object(self.found, piece)
        for number, argument in enumerate(first.arguments):
            self.give_object(argument.parts[0].span, Span(argument.parts[0].end, argument.end))
            self.take_arguments(self.found, number)

    @property
    def destination(self) -> Parameter:
        assert self.found is not None
        return Parameter(self.found.function.name, self.found.item)

    def ask_object(self, found: InPieces, piece: Piece) -> None:
        """What the function is given is asked of the object where it is used."""
        for reference in piece.parameter.reference.symbol.references:
            if reference is not piece.parameter.reference:
                self.rewriter.replace(reference, self.writer.member(found.item, piece.field), self.destination)
                self.rewriting.paths[reference] = (piece.field, *(step.name for step in reference.path))

    def give_object(self, owner: Span, field: Span) -> None:
        """The object stands where its first field stood."""
        self.rewriting.changes.replace(self.module.path, field)
        reference = self.module.reference_at[owner.start]
        self.rewriting.paths[reference] = tuple(step.name for step in reference.path[:-1])

    def take_arguments(self, found: InPieces, number: int) -> None:
        """The other fields go from a call, each with the comma before it."""
        calls = ObjectCalls.of(self.module)
        spans = calls.argument_spans(calls.of_function(found.function)[number])
        for piece in found.pieces[1:]:
            at = found.function.parameters.index(piece.parameter)
            self.rewriter.drop([self.module.reference_at[piece.arguments[number].start]])
            self.remove(spans[at - 1].end, spans[at].end)

    def remove(self, start: int, end: int) -> None:
        self.rewriting.changes.replace(self.module.path, Span(start, end))


def _by_hand(program: Program, script: Path, given: Given) -> list[Whole]:
    return [Whole(script, given["class"], given["item"])]


MOVE = Description(
    name="whole",
    place=7,
    summary=(
        "A function that is given several fields of one object is given the object.\n"
        "Refused where a field may get another value before the function has asked for it."
    ),
    term="Preserve Whole Object",
    help="Give a function an object of a class in place of several of its fields.",
    parameters=(
        StepParameter("class", Takes.ONE, "CLASS"),
        StepParameter("item", Takes.NEEDED, "NAME", "What the object is called in the function."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="Kite --item kite",
        before="""\
class Kite:
    def __init__(self, color, height):
        self.color = color
        self.height = height


def show(color, height, wind):
    print(color, "flies", height + wind, "high")


red = Kite("red", 4)
blue = Kite("blue", 9)
show(red.color, red.height, 2)
show(blue.color, blue.height, 3)
""",
        after={
            "harbour.py": """\
class Kite:
    def __init__(self, color, height):
        self.color = color
        self.height = height


def show(kite, wind):
    print(kite.color, "flies", kite.height + wind, "high")


red = Kite("red", 4)
blue = Kite("blue", 9)
show(red, 2)
show(blue, 3)
""",
        },
    ),
)
