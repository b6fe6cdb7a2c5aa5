"""Making a program ready for a design: its code comes to the top level, where its state can be named."""

from __future__ import annotations

from aedifex.moves.proof import perform
from aedifex.moves.unfold import Unfold, unfolds
from aedifex.program.program import Program
from aedifex.source.errors import RefusedError


def prepared(program: Program) -> Program:
    """The program that designs are drafted for and carried out on; the same where nothing is in the way of that."""
    while unfolds(program.main):
        try:
            program = perform(program, Unfold(program.main.path))
        except RefusedError:
            break
    return program
