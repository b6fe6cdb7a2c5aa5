"""spare: a function that is always given the same variable uses that variable itself."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of, symbol_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Instead, Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call
from aedifex.program.structure.obstacles import is_hard_to_echo
from aedifex.source.text import Span
from aedifex.survey.given_always import GivenAlways, given_always


@dataclass(frozen=True)
class Spare:
    """Let functions that are always given a variable of the module use it, and their calls be spared the argument."""

    name: ClassVar[str] = "spare"

    path: Path
    variable: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Sparing(self, module_of(program, self.path)).plan()


class _Sparing(Planner):
    def __init__(self, move: Spare, module: Module) -> None:
        super().__init__(module)
        self.symbol = symbol_of(module, move.variable)
        self.found = next(given_always(module, self.symbol), None)

    def find_objections(self) -> None:
        at, name = self.symbol.references[0].start, self.symbol.name
        if self.found is None:
            self.object(at, f"no function is always given `{name}`", "Leave the functions as they are.")
            return
        for reference in self.found.parameter.reference.symbol.references:
            if is_hard_to_echo(self.module, reference):
                self.object(reference.start, "a template shows this by its text", "Write it out.")

    def write(self) -> None:
        assert self.found is not None
        self.take_parameter(self.found)
        for call in self.found.calls:
            self.take_argument(call, self.found.number)

    def take_parameter(self, found: GivenAlways) -> None:
        """The parameter goes, and its name gives way to the variable's."""
        parameters, parameter, at = found.function.parameters, found.parameter, found.number
        self.rewriter.drop([parameter.reference, *self.rewriter.type_names(parameter.annotation)])
        if at + 1 < len(parameters):
            self.remove(parameter.start, parameters[at + 1].start)
        else:
            self.remove(parameters[at - 1].end if at else parameter.start, parameter.end)
        for reference in parameter.reference.symbol.references:
            if reference is not parameter.reference:
                self.rewriter.replace(reference, self.symbol.name, Instead(self.symbol))

    def take_argument(self, call: Call, number: int) -> None:
        given = call.arguments
        self.rewriter.drop([self.module.reference_at[given[number].start]])
        if number + 1 < len(given):
            self.remove(given[number].start, given[number + 1].start)
        else:
            self.remove(given[number - 1].end if number else given[number].start, given[number].end)

    def remove(self, start: int, end: int) -> None:
        self.rewriting.changes.replace(self.module.path, Span(start, end))


def _by_hand(program: Program, script: Path, given: Given) -> list[Spare]:
    return [Spare(script, given["variable"])]


MOVE = Description(
    name="spare",
    place=8,
    summary=(
        "A function that is always given the same variable of the module uses that itself.\n"
        "Refused where some call gives another, or the variable gets another value."
    ),
    term="Replace Parameter with Query",
    help="Let the first function that is always given a variable use it, so that calls need not.",
    parameters=(StepParameter("variable", Takes.ONE, "VARIABLE"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="boats",
        before="""\
boats = [3, 1, 4]


def heaviest(boats, least):
    return max([load for load in boats if load > least])


print(heaviest(boats, 2))
""",
        after={
            "harbour.py": """\
boats = [3, 1, 4]


def heaviest(least):
    return max([load for load in boats if load > least])


print(heaviest(2))
""",
        },
    ),
)
