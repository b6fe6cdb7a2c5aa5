"""One move, or a few that belong together, by hand: carried out and checked like a whole build."""

from __future__ import annotations

from collections.abc import Sequence

from aedifex.construction.result_check import check_result
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.move import Move
from aedifex.program.model.program import Program


def step(program: Program, moves: Sequence[Move]) -> Program:
    """The program after some moves.

    Raises:
        RefusedError: one of them cannot be done safely, or the result would not stand on its own.
    """
    after = program
    for move in moves:
        after = perform(after, move)
    check_result(program, after)
    return after
