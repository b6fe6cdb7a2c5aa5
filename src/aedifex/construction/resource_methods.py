"""What is done with a thing of a library becomes methods of the class around it."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import takewhile

from aedifex.construction.kind_methods import Given, block_attached, one_by_one, tried
from aedifex.design.dividing.names_for_values import ValueNames
from aedifex.design.dividing.names_from_calls import called_alone
from aedifex.design.dividing.repeats import repeats
from aedifex.design.document.check import is_call_of_field
from aedifex.design.document.design import KindPlan, MethodPlan
from aedifex.design.drafting.object_methods import method_plans
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.move import class_of
from aedifex.moves.name_call import NameCalls, calls_outside
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.dialect.library import Resource
from aedifex.program.model.module import Module
from aedifex.program.model.names import MAIN, Scope, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call, Kind, Statement
from aedifex.source.errors import RefusedError
from aedifex.survey.kinds.objects import is_object, member_names

_FEWEST_OF_SET_UP = 3
_FEWEST_REPEATED = 2
_SET_UP = "set up"


def with_resource_methods(program: Program, plan: KindPlan, resource: Resource) -> Given:
    """Give the class around a thing its methods, each only if that can be done.

    First what stands in several places, and what sets the thing up; then the functions that need nothing else; and at
    last the calls that are left, each under a name.
    """
    taken: list[MethodPlan] = []
    for choices in [*_repeated(program, plan, resource), [*_setting_up(program, plan, resource)]]:
        for method in choices:
            try:
                program = block_attached(program, plan.name, method)
            except RefusedError:
                continue
            taken.append(method)
            break
    for method in method_plans(program.main, plan.name, is_about_one=False, is_given_values=False):
        made = tried(program, plan.name, [method])
        if made is not None:
            program = made
            taken.append(method)
    for method in _named(program, plan, resource):
        try:
            program = _with_call(program, plan, method)
        except RefusedError:
            continue
        taken.append(method)
    return Given(program, taken)


def resource_methods_made(program: Program, plan: KindPlan) -> Program:
    """The program with the methods of a plan, in the same order.

    Raises:
        RefusedError: one of them cannot be made.
    """
    for method in plan.methods:
        if method.lines is not None:
            program = block_attached(program, plan.name, method)
        elif is_call_of_field(plan, method):
            program = _with_call(program, plan, method)
        else:
            program = one_by_one(program, plan.name, [method])
    return program


def _with_call(program: Program, plan: KindPlan, method: MethodPlan) -> Program:
    field, _, called = method.routine.partition(".")
    return perform(program, NameCalls(program.main.path, plan.name, field, ((called, method.name),)))


def _repeated(program: Program, plan: KindPlan, resource: Resource) -> Iterator[list[MethodPlan]]:
    """What is done with the thing in several places; where nothing differs in them, or else what it begins with."""
    module = program.main
    names, taken = ValueNames(module), _members(module, plan) | set(resource.calls.values())
    for repeat in repeats(module):
        one = repeat.occurrences[0]
        if not all(_mentions(module, plan, statement) for statement in one.run):
            continue
        values = names.of(one.run, repeat.values[0], repeat.holes) if repeat.holes else ()
        fewest = len(one.run) if repeat.holes else min(_FEWEST_REPEATED, len(one.run))
        runs = [one.run[:length] for length in range(len(one.run), fewest - 1, -1)]
        routine = one.routine.qualified_name if one.routine is not None else MAIN
        found: list[MethodPlan] = []
        for run in runs:
            lines = program.original_lines_of(run)
            begun = (resource.begins or {}).get(called_alone(run[0]), "")
            wishes = [*([begun] if begun and not values else []), *names.deeds(run, values)]
            name = next((n for n in wishes if n not in taken), None)
            if lines is not None and name is not None and len(values) == len(repeat.holes):
                why = "this stands in several places"
                found.append(MethodPlan(routine, name, lines=lines, values=values, why=why))
        taken.update(method.name for method in found[:1])
        yield found


def _setting_up(program: Program, plan: KindPlan, resource: Resource) -> Iterator[MethodPlan]:
    """What the library is told right behind where the object is made."""
    module = program.main
    _, scope = class_of(module, plan.name)
    making = next((s for s in module.walk() if any(_makes(call, scope) for call in s.calls)), None)
    if making is None:
        return
    behind = making.block.statements[making.index + 1 :]
    run = list(takewhile(lambda statement: _is_of_library(module, plan, resource, statement), behind))
    lines = program.original_lines_of(run) if len(run) >= _FEWEST_OF_SET_UP else None
    if lines is not None and any(_mentions(module, plan, statement) for statement in run):
        routine = making.block.routine
        where = routine.qualified_name if routine is not None else MAIN
        name = module.dialect.naming.member_name(_SET_UP.split())
        yield MethodPlan(where, name, lines=lines, why="the library is told so before all else")


def _makes(call: Call, scope: Scope) -> bool:
    return call.callee is not None and call.callee.name == scope.name and not call.callee.path


def _is_of_library(module: Module, plan: KindPlan, resource: Resource, statement: Statement) -> bool:
    """Whether a statement calls the thing or its library, with plain values or the library's own, and does no more."""
    if statement.kind is not Kind.EXPRESSION or not statement.calls:
        return False
    references = module.references_within(statement.span)
    own = [r for r in references if r.symbol.imported is None]
    is_of_it = all(r.symbol.imported is None or r.symbol.imported.module == resource.library for r in references)
    return is_of_it and all(_holds_object(module, plan, r.symbol) for r in own) and bool(references)


def _mentions(module: Module, plan: KindPlan, statement: Statement) -> bool:
    return any(_holds_object(module, plan, r.symbol) for r in module.references_within(statement.span))


def _holds_object(module: Module, plan: KindPlan, symbol: Symbol) -> bool:
    holdings = Holdings.of(module)
    _, scope = class_of(module, plan.name)
    return is_object(holdings, holdings.of_symbol(symbol), scope)


def _named(program: Program, plan: KindPlan, resource: Resource) -> Iterator[MethodPlan]:
    """The calls of the thing that are left, under names in the program's words."""
    module = program.main
    taken = _members(module, plan)
    for field in (field.name for field in plan.fields):
        for called in calls_outside(module, plan.name, field):
            wish = resource.calls.get(called, called)
            name = wish if wish not in taken else called
            if name not in taken:
                taken.add(name)
                yield MethodPlan(f"{field}.{called}", name, why=f"a name for {called}")


def _members(module: Module, plan: KindPlan) -> set[str]:
    _, scope = class_of(module, plan.name)
    return member_names(module, scope)
