"""tidy: where text has gone between top-level statements, no more blank lines stay than people leave."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.program import Program
from aedifex.source.text import Span


@dataclass(frozen=True)
class Tidy:
    """Leave at most two blank lines in a row between the top-level statements of a file."""

    name: ClassVar[str] = "tidy"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        source, rewriting = module.source, Rewriting()
        for before, after in pairwise(module.block.statements):
            blank = 0
            for line in range(source.lines_of(before.span)[1] + 1, source.line_of(after.start)):
                blank = 0 if source.line(line).strip() else blank + 1
                if blank > module.dialect.writer.gap:
                    start = source.line_starts[line - 1]
                    rewriting.changes.replace(self.path, Span(start, source.line_end(start)))
        return rewriting


def has_wide_gaps(program: Program, path: Path) -> bool:
    """Whether a file has gaps that `Tidy` would make smaller."""
    return bool(Tidy(path).plan(program).changes.edits)


MOVE = Description(
    name="tidy",
    place=140,
    summary=(
        "Where text has gone, no more than two blank lines stay in a row.\n"
        "Only what stands between top-level statements is looked at."
    ),
    term="",
)
