"""Dividing a class of a script that does several jobs."""

from __future__ import annotations

from aedifex.design.drafting.jobs import jobs_of
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.move import class_of
from aedifex.moves.part import Part, PartMember
from aedifex.program.analysis.members import Members, Mentions
from aedifex.program.model.program import Program
from aedifex.source.errors import RefusedError


def parts_of(program: Program, class_name: str) -> list[Part]:
    """The moves, one after the other, that give each job of a class a class of its own.

    Raises:
        RefusedError: there is no such class, or it has no job that could stand on its own.
    """
    module = program.main
    _, scope = class_of(module, class_name)
    found: list[Part] = []
    refused: list[RefusedError] = []
    for job in jobs_of(Members(Mentions.of(program), module, scope)):
        members = tuple(PartMember(old, new) for old, new in job.members.items())
        part = Part(module.path, class_name, job.class_name, job.instance, members)
        try:
            program = perform(program, part)
        except RefusedError as error:
            refused.append(error)
        else:
            found.append(part)
    if not found:
        why = refused[0] if refused else RefusedError(f"the members of {class_name} all do one job")
        raise RefusedError(why.reason, why.place, "Name the members that are to go, and --into their class.")
    return found
