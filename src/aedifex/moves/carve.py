"""carve: some statements of a function, or of the main code, become a function of their own.

What they need of the locals comes in as arguments, what is used afterwards is returned, by data flow. `adopt` then
makes the function a method; what is carved out of a method is one already.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.carving import carving_of_lines
from aedifex.moves.kit.carving_checks import Carved
from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.names import MAIN
from aedifex.program.model.program import Program
from aedifex.source.errors import UsageError


@dataclass(frozen=True)
class Carve:
    """Make a function of the statements on the lines `first` to `last` of `routine`, or of the main code.

    Out of a method they become a method of the same class.

    Variables of the main code that live on from turn to turn stay shared, and so do those named in `owned`; what
    set-up statements give its first value is handed out instead, where nothing else looks at it in the meantime.

    What is written alike elsewhere becomes the same call; where that differs in plain values, or else in arguments that
    could as well be passed in, `values` are parameters.
    """

    name: ClassVar[str] = "carve"

    path: Path
    routine: str
    first: int
    last: int
    function: str
    owned: frozenset[str] = frozenset()
    values: tuple[str, ...] = ()

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        made = Carved(self.function, self.owned, self.values)
        module = module_of(program, self.path)
        return carving_of_lines(program, module, self.routine, (self.first, self.last), made).plan()


def _by_hand(program: Program, script: Path, given: Given) -> list[Carve]:
    found = re.fullmatch(r"(\d+)(?:-(\d+))?", given["lines"])
    if found is None or not program.dialect.rules.is_name(given["function"]):
        raise UsageError("say which lines, as in 40-47, and a name for the function")
    first, last = int(found[1]), int(found[2] or found[1])
    return [Carve(script, given["of"] or MAIN, first, last, given["function"], values=tuple(given["with"]))]


MOVE = Description(
    name="carve",
    place=20,
    summary=(
        "Some statements become a function: what they need comes in, what they set goes out.\n"
        "Where they may leave a loop or the function, it answers whether to go on."
    ),
    term="Extract Method",
    help="Make a function of some lines of the main code, or of another function.",
    parameters=(
        StepParameter("lines", Takes.ONE, "FIRST-LAST"),
        StepParameter("function", Takes.ONE, "NAME"),
        StepParameter(
            "of", Takes.OPTION, "FUNCTION", "Where the lines are, as load or Ferry.load; the main code else."
        ),
        StepParameter(
            "with", Takes.OPTIONS, "PARAMETER", "For a plain value in which what is written alike elsewhere differs."
        ),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="4-5 weigh --of load",
        before="""\
def load(carts, room):
    left = room
    taken = [cart for cart in carts if cart]
    left -= len(taken)
    carts.clear()
    return left


print(load(["hay", "milk"], 5))
""",
        after={
            "harbour.py": """\
def weigh(carts, left, taken):
    left -= len(taken)
    carts.clear()
    return left


def load(carts, room):
    left = room
    taken = [cart for cart in carts if cart]
    left = weigh(carts, left, taken)
    return left


print(load(["hay", "milk"], 5))
""",
        },
    ),
)
