"""A choice of what does not move with the main code."""

from __future__ import annotations

from dataclasses import dataclass

from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Function, Statement


@dataclass(frozen=True)
class Leaving:
    """Variables, functions and statements that stay at the top level although they could be thought to move.

    `inline` are definitions that go along in the main code, where they stand.
    """

    symbols: frozenset[Symbol] = frozenset()
    functions: frozenset[Function] = frozenset()
    statements: frozenset[Statement] = frozenset()
    inline: frozenset[Statement] = frozenset()


NOTHING_LEFT = Leaving()
