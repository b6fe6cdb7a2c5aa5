"""Divides the classes of random built programs at random, and runs both."""

from __future__ import annotations

import random
import tempfile
from pathlib import Path

from aedifex.construction.prepare import prepared
from aedifex.languages.python import DIALECT
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.move import Move
from aedifex.moves.kit.parting import Part, PartMember
from aedifex.moves.lift import Lift
from aedifex.program.analysis.members import Members, Mentions
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Routine
from aedifex.program.reading import read_program
from aedifex.source.errors import RefusedError
from aedifex.source.text import SourceText
from tests.support.carving import moved_at_random, random_carve


def parted(text: str, chance: random.Random, times: int = 4) -> str:
    """`same`, `refused: …` where nothing could be divided, or `different: …`."""
    with tempfile.TemporaryDirectory() as work:
        script = Path(work) / "script.py"
        script.write_text(text)
        try:
            program = as_one_class(read_program([SourceText.read(script)], DIALECT))
        except RefusedError as error:
            return f"refused: {error.reason}"
        return moved_at_random(text, script, program, lambda now, number: _random_move(now, chance, number), times)


def _random_move(program: Program, chance: random.Random, number: int) -> Move:
    """A part of the one class, or some lines of its methods to become another."""
    if chance.random() < 0.4:
        return random_carve(program, chance, number, of_methods=True)
    return random_part(program, chance, number)


def as_one_class(program: Program) -> Program:
    """A program whose main code and state have become one class."""
    return perform(prepared(program), Lift(program.main.path, "Harbour"))


def random_part(program: Program, chance: random.Random, number: int) -> Part:
    """Members of the one class, to become a class of their own."""
    module = program.main
    scope = next(s for s in module.scope.children if s.name == "Harbour")
    members = Members(Mentions(program), module, scope)
    fields = set(
        chance.sample(members.fields, len(members.fields) and chance.randint(1, (len(members.fields) + 1) // 2))
    )
    methods = [r for r in members.functions[1:] if chance.random() < (0.8 if _used(members, r) <= fields else 0.2)]
    names = [*sorted(fields), *(routine.name for routine in methods)]
    chosen = tuple(PartMember(name, chance.choice([name, f"new_{name}"])) for name in names)
    return Part(module.path, "Harbour", f"Part{number}", f"part_{number}", chosen)


def _used(members: Members, routine: Routine) -> set[str]:
    names = [*members.fields, *members.methods]
    return {n for n in names for m in members.mentions(n) if m.reference.symbol.scope is routine.scope}
