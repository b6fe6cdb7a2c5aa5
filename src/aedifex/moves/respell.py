"""respell: texts with signs that not every place allows are written in another way."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span


@dataclass(frozen=True)
class Respell:
    """Write the same texts with signs that are allowed in a class."""

    name: ClassVar[str] = "respell"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: all texts may stand anywhere.
        """
        module = module_of(program, self.path)
        if not is_for_respelling(module):
            raise RefusedError(f"the texts of {module.path.name} may stand anywhere")
        return _Respelling(module).plan()


def is_for_respelling(module: Module) -> bool:
    """Whether a text has signs that a class does not allow."""
    return any(_respelled(module))


def _respelled(module: Module) -> Iterator[tuple[Span, str]]:
    """Such texts, and how they are written in another way."""
    for span in module.strings:
        if any(span.start <= at < span.end for at, _ in module.only_outside):
            text = module.source.slice(span)
            if (new := module.dialect.writer.respelled(text)) != text:
                yield span, new


class _Respelling(Planner):
    def write(self) -> None:
        for span, text in _respelled(self.module):
            self.rewriting.changes.replace(self.module.path, span, text)


def _by_hand(program: Program, script: Path, given: Given) -> list[Respell]:
    return [Respell(script)]


MOVE = Description(
    name="respell",
    place=4,
    summary=(
        "Texts with signs in octal are spelled so that they may stand in a class, too.\n"
        "Only in languages that allow them in some places and not in others."
    ),
    term="-",
    help="Write texts in signs that are allowed in a class, too.",
    make=_by_hand,
    example=Example(
        language="javascript",
        words="",
        before="""\
console.log("\\033[1mtide\\033[0m");
""",
        after={
            "harbour.js": """\
console.log("\\x1b[1mtide\\x1b[0m");
"""
        },
    ),
)
