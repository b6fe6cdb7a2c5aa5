"""Dividing the classes that a script has already, where it says itself what they are made of."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import dataclass, field, replace

from aedifex.construction.places import free_name, lines_now
from aedifex.design.document.check import check_part
from aedifex.design.document.design import Design, FieldPlan, MethodPlan, PartPlan
from aedifex.design.drafting.jobs import jobs_of
from aedifex.moves.carve import Carve
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.move import class_of
from aedifex.moves.kit.parting import Part, PartMember
from aedifex.moves.part import parts_of
from aedifex.program.analysis.members import Members, Mentions
from aedifex.program.model.names import Scope
from aedifex.program.model.program import Program
from aedifex.source.errors import Place, RefusedError

_FEWEST = 2
_MANY_FIELDS = 6
_MANY_METHODS = 10


@dataclass
class Divided:
    """A program with its own classes divided, and what a design says of that."""

    program: Program
    plans: list[PartPlan] = field(default_factory=list)


def find_parts(program: Program) -> Divided:
    """Divide each class of the script whose text has sections, or that is big, if two or more classes come of it."""
    done = Divided(program)
    for scope in program.main.classes:
        if not is_headed(done.program, scope.name) and not is_big(done.program, scope.name):
            continue
        with suppress(RefusedError):
            trial = _divided(done.program, scope)
            if len(trial.plans) >= _FEWEST:
                done = Divided(trial.program, [*done.plans, *trial.plans])
    return done


def is_big(program: Program, class_name: str) -> bool:
    """Whether a class of the script has so many members that it may do several jobs."""
    members = Members(Mentions.of(program), program.main, class_of(program.main, class_name)[1])
    return len(members.fields) >= _MANY_FIELDS and len(members.functions) >= _MANY_METHODS


def is_headed(program: Program, class_name: str) -> bool:
    """Whether a class of the script is in sections that could be classes."""
    _, scope = class_of(program.main, class_name)
    return any(job.is_headed for job in jobs_of(Members(Mentions.of(program), program.main, scope)))


def _divided(program: Program, scope: Scope) -> Divided:
    done, has_headings = Divided(program), is_headed(program, scope.name)
    carved: dict[str, MethodPlan] = {}
    for move in parts_of(program, scope.name):
        if isinstance(move, Carve):
            method = move.routine.rpartition(".")[2]
            carved[move.function] = MethodPlan(method, "", lines=_original_lines(done.program, move))
        elif isinstance(move, Part):
            done.plans.append(_plan(move, carved, done.program, is_headed=has_headings))
        done.program = perform(done.program, move)
        if isinstance(move, Part):
            done.program = _noted(done.program, move.new_class)
    return done


def _original_lines(program: Program, carve: Carve) -> tuple[int, int]:
    found = program.original_lines(carve.first, carve.last)
    if found is None:
        raise RefusedError(f"lines {carve.first}-{carve.last} are not in the script in this form", Place(carve.path))
    return found


def _plan(part: Part, carved: dict[str, MethodPlan], program: Program, *, is_headed: bool) -> PartPlan:
    fields = Members(Mentions.of(program), program.main, class_of(program.main, part.class_name)[1]).fields
    grounds = "has it under a heading of its own" if is_headed else "has methods that use it and nothing else"
    why = f"{part.class_name} {grounds}"
    plan = PartPlan(part.new_class, part.class_name, part.instance, why=why)
    for member in part.members:
        if member.old in fields:
            plan.fields.append(FieldPlan(member.old, member.new))
        elif member.old in carved:
            plan.methods.append(replace(carved[member.old], name=member.new))
        else:
            plan.methods.append(MethodPlan(member.old, member.new))
    return plan


def with_parts(program: Program, design: Design) -> Program:
    """The program with the classes of the script divided as a design says; what is divided already stays as it is.

    Raises:
        DesignError: the script has no such class, or none with such members.
        RefusedError: a class cannot be divided so.
    """
    for plan in design.parts:
        if plan.name not in program.parts:
            program = _with_part(program, design, plan)
    return program


def _with_part(program: Program, design: Design, plan: PartPlan) -> Program:
    check_part(design, plan, program.main)
    path = program.main.path
    members = [PartMember(member.variable, member.name) for member in plan.fields]
    for method in plan.methods:
        old = method.routine
        if method.lines is not None:
            first, last = lines_now(program, method.lines, "the method")
            wish = program.dialect.naming.joined(method.routine, plan.instance)
            old = free_name(program.main, wish)
            program = perform(program, Carve(path, f"{plan.whole}.{method.routine}", first, last, old))
        members.append(PartMember(old, method.name))
    program = perform(program, Part(path, plan.whole, plan.name, plan.instance, tuple(members)))
    return _noted(program, plan.name)


def _noted(program: Program, name: str) -> Program:
    return replace(program, parts=program.parts | {name})
