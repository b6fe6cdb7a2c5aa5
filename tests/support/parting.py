"""Divides the classes of random built programs at random, and runs both."""

from __future__ import annotations

import random
import tempfile
from pathlib import Path

from aedifex.construction.prepare import prepared
from aedifex.languages.python import DIALECT
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.lift import Lift
from aedifex.moves.part import Part, PartMember
from aedifex.program.analysis.members import Members, Mentions
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Routine
from aedifex.program.reading import read_program
from aedifex.source.errors import RefusedError
from aedifex.source.text import SourceText
from tests.support.carving import moved_at_random


def parted(text: str, chance: random.Random, times: int = 4) -> str:
    """`same`, `refused: …` where nothing could be divided, or `different: …`."""
    with tempfile.TemporaryDirectory() as work:
        script = Path(work) / "script.py"
        script.write_text(text)
        try:
            program = as_one_class(read_program([SourceText.read(script)], DIALECT))
        except RefusedError as error:
            return f"refused: {error.reason}"
        return moved_at_random(text, script, program, lambda now, number: random_part(now, chance, number), times)


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
    methods = [r for r in members.functions[1:] if _used(members, r) <= fields and chance.random() < 0.8]
    names = [*sorted(fields), *(routine.name for routine in methods)]
    chosen = tuple(PartMember(name, chance.choice([name, f"new_{name}"])) for name in names)
    return Part(module.path, "Harbour", f"Part{number}", f"part_{number}", chosen)


def _used(members: Members, routine: Routine) -> set[str]:
    names = [*members.fields, *members.methods]
    return {n for n in names for m in members.mentions(n) if m.reference.symbol.scope is routine.scope}
