"""fold: a line that has grown too long in the course of the moves is broken as people break it."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.structure.layout import Layout
from aedifex.source.text import Span

_WIDTH = 100
"""In characters: a line may be as long, or as long as the longest that the script has itself."""


@dataclass(frozen=True)
class Fold:
    """Break the lines of a file that are longer than any of the script as it was, and not in it."""

    name: ClassVar[str] = "fold"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module, rewriting = module_of(program, self.path), Rewriting()
        lines, width = _too_long(program, module)
        if lines:
            text, unit = module.source.data.decode(), Layout.of(module).indent
            for start, end, new in module.dialect.writer.line_breaks(text, lines, width, unit):
                rewriting.changes.replace(self.path, Span(start, end), new)
        return rewriting


def _too_long(program: Program, module: Module) -> tuple[list[int], int]:
    """The lines that we have made too long, and how long lines may be."""
    texts = [origin.source.data.decode() for origin in program.origin.modules.values()]
    own = [line for text in texts for line in text.splitlines()]
    width = max(_WIDTH, max(map(len, own), default=0))
    known = {line.strip() for line in own}
    rows = module.source.data.decode().splitlines()
    return [n for n, row in enumerate(rows, 1) if len(row) > width and row.strip() not in known], width


def has_long_lines(program: Program, path: Path) -> bool:
    """Whether a file has lines that `Fold` would look at."""
    return bool(_too_long(program, program.modules[path])[0])


MOVE = Description(
    name="fold",
    place=145,
    summary=(
        "Lines that have grown longer than 100 columns, and than any that the script had, are broken.\n"
        "At commas, or before operators; lines that were so long before stay as they are."
    ),
    term="",
)
