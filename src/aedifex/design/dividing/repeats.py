"""Which statements stand in several places word for word, and deserve to stand in one."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from aedifex.program.analysis.flow import leaves
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Function, Kind, Statement
from aedifex.program.structure.blocks import plain_blocks
from aedifex.program.structure.plain_text import PlainText

_LONGEST = 12
_FEWEST_LINES = 3
_FEWEST_TIMES = 3
_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.IMPORT, Kind.DECLARE, Kind.NOTHING, Kind.ALIAS})


@dataclass(frozen=True)
class Occurrence:
    """Statements side by side, in a routine or, where that is None, in the main code."""

    routine: Function | None
    run: Sequence[Statement]


def repeats(module: Module) -> list[list[Occurrence]]:
    """The runs that stand in several places, each with all of them: the longest first, and none that lie across.

    Three lines in two places are enough, or two in three.
    """
    found: list[list[Occurrence]] = []
    taken: set[Statement] = set()
    finder = _Finder(module)
    for length in range(_LONGEST, 0, -1):
        for occurrences in finder.of_length(length):
            free = [one for one in occurrences if taken.isdisjoint(one.run)]
            if finder.is_worth_it(free):
                taken.update(statement for one in free for statement in one.run)
                found.append(free)
    return found


class _Finder:
    def __init__(self, module: Module) -> None:
        self.module = module
        self.text = PlainText.of(module)
        self.blocks = [(routine, block) for routine, block in plain_blocks(module) if block.statements]

    def of_length(self, length: int) -> list[list[Occurrence]]:
        """All runs of so many statements, those with the same text together; they do not overlap."""
        by_text: dict[tuple[str, ...], list[Occurrence]] = defaultdict(list)
        for routine, block in self.blocks:
            for first in range(len(block.statements) - length + 1):
                run = block.statements[first : first + length]
                if any(s.kind in _DEFINING for s in run) or leaves(run) or not self.is_one_paragraph(run):
                    continue
                known = by_text[tuple(self.text.of_statement(statement) for statement in run)]
                if not any(one.run[-1].end > run[0].start and one.run[0].start < run[-1].end for one in known):
                    known.append(Occurrence(routine, run))
        return [occurrences for occurrences in by_text.values() if len(occurrences) > 1]

    def is_one_paragraph(self, run: Sequence[Statement]) -> bool:
        """Whether nothing parts the statements of a run: no blank line, and no comment above one."""
        ends = [self.module.source.lines_of(statement.span) for statement in run]
        return all(above[1] + 1 == below[0] for above, below in pairwise(ends))

    def is_worth_it(self, occurrences: Sequence[Occurrence]) -> bool:
        """Whether one method in place of all of them shortens the script enough to be worth reading."""
        if len(occurrences) < 2:
            return False
        lines = sum(self.text.of_statement(statement).count("\n") + 1 for statement in occurrences[0].run)
        return lines >= _FEWEST_LINES or (lines == _FEWEST_LINES - 1 and len(occurrences) >= _FEWEST_TIMES)
