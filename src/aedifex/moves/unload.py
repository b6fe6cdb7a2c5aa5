"""unload: what a script hangs on an object of a library becomes variables beside it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.declaring import Declaring
from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.rewriting import Rewriting, Variable
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.program import Program
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.kinds.carried import Carried


@dataclass(frozen=True)
class Unload:
    """Turn what the object in `variable` carries for the script into variables."""

    name: ClassVar[str] = "unload"

    path: Path
    variable: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: it carries nothing, or what might be reached in another way.
        """
        module = module_of(program, self.path)
        for symbol, members in Carried.of(module).values.items():
            if symbol.name == self.variable:
                return _Unloading(module, symbol, members).plan()
        raise RefusedError(
            f"{module.path.name} hangs nothing on `{self.variable}` that could be a variable",
            advice="It must hold one object of a library, and that must be all that goes by these names.",
        )


class _Unloading(Declaring):
    def __init__(self, module: Module, symbol: Symbol, members: Sequence[str]) -> None:
        super().__init__(module)
        self.symbol = symbol
        self.names = {member: Carried.of(module).variable(symbol, member) for member in members}

    def write(self) -> None:
        settings: list[tuple[Reference, str]] = []
        for use in self.symbol.references:
            name = self.names.get(use.path[0].name or "") if use.path else None
            if name is not None:
                self.rewriter.replace(use, name, Variable(name), Span(use.start, use.path[0].end))
                if len(use.path) == 1 and use.path_mode is not None and use.path_mode.writes:
                    settings.append((use, name))
        self.declare(settings)


def _by_hand(program: Program, script: Path, given: Given) -> list[Unload]:
    return [Unload(script, given["variable"])]


MOVE = Description(
    name="unload",
    place=2,
    summary=(
        "What a script hangs on an object of a library becomes variables beside it.\n"
        "Refused where the library might know of it, or other names may lead to the object."
    ),
    term="Replace Field with Variable",
    help="Turn what hangs on an object of a library into variables.",
    parameters=(StepParameter("variable", Takes.ONE, "VARIABLE"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="notice",
        before="""\
import textwrap

notice = textwrap.TextWrapper(width=12)
notice.shown = 2


def show():
    notice.shown += 1
    print(notice.wrap("the ferry crosses at noon"), notice.shown)


show()
""",
        after={
            "harbour.py": """\
import textwrap

notice = textwrap.TextWrapper(width=12)
notice_shown = 2


def show():
    global notice_shown
    notice_shown += 1
    print(notice.wrap("the ferry crosses at noon"), notice_shown)


show()
""",
        },
    ),
)
