"""Whether a statement uses a variable at once: itself, or by what it calls."""

from __future__ import annotations

import re
from collections.abc import Sequence

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.values import only_value
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Mode, Reference, Symbol
from aedifex.program.model.statements import Call, Kind, Lambda, Shape, Statement, final_name

_CATCHING = frozenset({"catch", "onerror"})
_TOLD_OF_ERRORS = re.compile(rb"""['"`](?:error|unhandledrejection|unhandledRejection|uncaughtException)['"`]""")


def may_ask_for(module: Module, statement: Statement, symbol: Symbol) -> bool:
    """Whether a top-level statement may use a variable while it is carried out.

    What it only hands to something that calls it later does not count.
    """
    own = [r for inner in statement.walk() for r in inner.references]
    if any(r.symbol is symbol and not r.scope.is_apart_from(module.scope) for r in own):
        return True
    calls = [c for inner in statement.walk() for c in inner.calls if not _is_in_routine(module, inner, c)]
    if not calls and (module.dialect.rules.hands_out(module, statement) or _only_gives_routine(module, statement)):
        return False
    if len(calls) == 1 and module.dialect.library.calls_later(final_name(calls[0].callee)):
        return False
    effects = Effects.of(module)
    running = effects.may_run_during(statement)
    return any(use.symbol is symbol for routine in running for scope in routine.scope.walk() for use in scope.uses)


def fails_anyway(module: Module, symbol: Symbol) -> bool:
    """Whether asking for a variable too early is an error at the same place, whatever it is kept in.

    Each routine that asks for it wants something of it, which nothing has; its value is worked out where it stands; and
    nothing in the script catches errors, which would tell by their words what kind of name it was.
    """
    only = only_value(symbol)
    if only is None or only.value.shape not in (Shape.CALL, Shape.OTHER):
        return False
    guarded = any(s.kind is Kind.GUARDED or not _CATCHING.isdisjoint(s.attributes) for s in module.walk())
    if guarded or _TOLD_OF_ERRORS.search(module.source.data):
        return False
    within = [r for r in symbol.references if r.scope.is_apart_from(module.scope)]
    return all(r.mode is Mode.READ and r.path and _is_wanted(module, r) for r in within)


def _is_wanted(module: Module, reference: Reference) -> bool:
    """Whether something of a variable is asked for at once, not only where there is something.

    What is set in it is worked out before it is missed.
    """
    step, is_set = reference.path[0], reference.path_mode is not None and reference.path_mode.writes
    is_sure = b"?" not in module.source.data[reference.end : step.start]
    return step.kind is AccessKind.ATTRIBUTE and is_sure and not is_set


def _only_gives_routine(module: Module, statement: Statement) -> bool:
    """Whether a statement does nothing but give a member a routine, and no method of the script is called by that."""
    given = statement.assignment
    if given is None or given.value is None or len(given.targets) != 1:
        return False
    set_there = module.reference_at.get(given.targets[0].start)
    if set_there is None or not set_there.path or set_there.scope is not module.scope:
        return False
    if module.nameless_at(given.value.span) is None:
        return False
    names = {step.name for step in set_there.path}
    is_plain = all(step.kind is AccessKind.ATTRIBUTE for step in set_there.path)
    return is_plain and not any(f.is_method and f.name in names for f in module.all_functions)


def first_to_make(module: Module, places: Sequence[int]) -> Statement:
    """The first top-level statement that reaches one of some places, itself or by what it calls."""
    statements, effects = module.block.statements, Effects.of(module)
    for statement in statements:
        inside = [at for at in places if statement.start <= at < statement.end]
        running = effects.may_run_during(statement)
        if inside or any(r.scope.start <= at < r.scope.end for r in running for at in places):
            return statement
    return statements[0]


def waits_for_call(statement: Statement, reference: Reference) -> bool:
    """Whether a name stands in a default value that is worked out when the function is called."""
    return statement.routine is not None and reference.scope.within(statement.routine.scope)


def _is_in_routine(module: Module, statement: Statement, call: Call) -> bool:
    """Whether a call stands in a nameless routine of a statement."""
    inside = (r.scope for r in module.routines if isinstance(r, Lambda) and r.statement is statement)
    return any(scope.start <= call.start and call.end <= scope.end for scope in inside)
