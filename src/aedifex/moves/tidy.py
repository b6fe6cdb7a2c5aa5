"""tidy: between statements of files and classes are as many blank lines as people leave, after text came and went."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.layout import Layout
from aedifex.source.text import Span


@dataclass(frozen=True)
class Tidy:
    """Leave at most two blank lines in a row between top-level statements, and no fewer above the first definition.

    Between imports, and between members of a class, one is the most.
    """

    name: ClassVar[str] = "tidy"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        source, rewriting = module.source, Rewriting()
        for line in _loose_lines_at_top(module):
            start = source.line_starts[line - 1]
            rewriting.changes.replace(self.path, Span(start, source.line_end(start)))
        for before, after in pairwise(module.block.statements):
            missing = _missing(module, before, after)
            if missing:
                at = source.line_starts[source.line_of(after.start) - 1]
                rewriting.changes.replace(self.path, Span(at, at), "\n" * missing)
            are_imports = before.kind is Kind.IMPORT and after.kind is Kind.IMPORT
            self._shorten_gaps(rewriting, module, (before, after), 1 if are_imports else module.dialect.writer.gap)
        for members in (s.blocks[0].statements for s in module.block.statements if s.kind is Kind.CLASS and s.blocks):
            for pair in pairwise(members):
                self._shorten_gaps(rewriting, module, pair, 1)
        return rewriting

    def _shorten_gaps(
        self, rewriting: Rewriting, module: Module, around: tuple[Statement, Statement], most: int
    ) -> None:
        """Leave no more blank lines in a row between two statements than that."""
        source, (before, after) = module.source, around
        blank = 0
        for line in range(source.lines_of(before.span)[1] + 1, source.line_of(after.start)):
            blank = 0 if source.line(line).strip() else blank + 1
            if blank > most:
                start = source.line_starts[line - 1]
                rewriting.changes.replace(self.path, Span(start, source.line_end(start)))


def _loose_lines_at_top(module: Module) -> range:
    """The blank lines but one between what heads a file and its imports, where those come first; all above a class."""
    first = next(iter(module.block.statements), None)
    if first is None or first.kind not in (Kind.IMPORT, Kind.CLASS):
        return range(0)
    line = begin = module.source.line_of(first.start)
    while begin > 1 and not module.source.line(begin - 1).strip():
        begin -= 1
    if begin == 1:
        return range(begin, line)
    return range(begin + 1, line) if first.kind is Kind.IMPORT else range(0)


def _missing(module: Module, before: Statement, after: Statement) -> int:
    """How many blank lines are missing between the imports and the first definition below them."""
    if before.kind is not Kind.IMPORT or after.kind not in (Kind.ROUTINE, Kind.CLASS):
        return 0
    lines = range(module.source.lines_of(before.span)[1] + 1, module.source.line_of(after.start))
    is_empty = not any(module.source.line(line).strip() for line in lines)
    return max(Layout.of(module).gap.count("\n") - len(lines), 0) if is_empty else 0


def is_untidy(program: Program, path: Path) -> bool:
    """Whether a file has gaps that `Tidy` would change."""
    return bool(Tidy(path).plan(program).changes.edits)


MOVE = Description(
    name="tidy",
    place=140,
    summary=(
        "Where text has come and gone, blank lines stand as people leave them.\n"
        "Only what stands between top-level statements and members of classes is looked at."
    ),
    term="",
)
