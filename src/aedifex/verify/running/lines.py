"""Which lines of a program ran."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

_MOST = 40


@dataclass(frozen=True)
class LinesRun:
    """The lines of one file that could run, and those that did not."""

    statements: frozenset[int]
    missing: frozenset[int]

    @classmethod
    def of(cls, found: Mapping[str, Iterable[int]]) -> LinesRun:
        """From what the stage wrote down."""
        return cls(frozenset(found["statements"]), frozenset(found["missing"]))

    @property
    def ran(self) -> frozenset[int]:
        """The lines that ran."""
        return self.statements - self.missing

    def joined(self, other: LinesRun) -> LinesRun:
        """What did not run in either of two runs."""
        return LinesRun(self.statements | other.statements, self.missing & other.missing)

    @property
    def share(self) -> float:
        """The share of the lines that ran, from 0 to 1; 1 for a file without any."""
        return len(self.ran) / len(self.statements) if self.statements else 1.0


def in_ranges(lines: Iterable[int]) -> str:
    """Lines in words: `3-5, 9`; of very many only the first."""
    ranges: list[list[int]] = []
    for line in sorted(lines):
        if ranges and line == ranges[-1][1] + 1:
            ranges[-1][1] = line
        else:
            ranges.append([line, line])
    told = [str(a) if a == b else f"{a}-{b}" for a, b in ranges[:_MOST]]
    more = sum(b - a + 1 for a, b in ranges[_MOST:])
    return ", ".join([*told, *([f"and {more} more"] if more else [])])
