"""Calls that do something with each thing of a list, as a loop over it would."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import leaves
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Symbol
from aedifex.program.model.statements import Block, Kind, Lambda, ParameterKind, Statement
from aedifex.program.structure.own_names import uses_own
from aedifex.survey.kinds.walks import only_looks

_SETTING = frozenset({Mode.WRITE, Mode.READ_WRITE, Mode.DELETE})
_OF_PARTS = frozenset({ParameterKind.REST, ParameterKind.PATTERN})
_NOT_OF_LOOPS = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.NOTHING})


@dataclass(frozen=True)
class CalledWalk:
    """A statement that asks a list, by its name, to hand each thing to a routine, of whose body it is the parameter."""

    statement: Statement
    container: Reference
    parameter: Reference
    body: Block


def called_walks(module: Module, container: Symbol) -> list[CalledWalk]:
    """Those of a list that could be loops over it: nothing comes into the list, or goes, while they are at it.

    A loop gives each thing that comes in meanwhile, a call does not; and what is left out in a list is passed over by
    a call alone.
    """
    if not module.dialect.rules.calls_for_each:
        return []
    found = [_called_walk(module, reference) for reference in container.references]
    return [walk for walk in found if walk is not None and _stays(module, walk, container)]


def _called_walk(module: Module, reference: Reference) -> CalledWalk | None:
    statement = reference.statement
    call = next((c for c in statement.calls if c.callee is reference), None) if statement is not None else None
    if statement is None or call is None or statement.kind is not Kind.EXPRESSION or call.span != statement.deed:
        return None
    is_asked = [step.name for step in reference.path] == [module.dialect.rules.calls_for_each]
    routine = next(_given(module, statement, call.arguments[0].start), None) if len(call.arguments) == 1 else None
    if not is_asked or routine is None or reference.start != statement.start or routine.body is None:
        return None
    [parameter] = routine.parameters
    is_plain = parameter.kind not in _OF_PARTS and parameter.default is None
    is_plain = is_plain and parameter.name != reference.name and len(parameter.reference.symbol.bindings) == 1
    return CalledWalk(statement, reference, parameter.reference, routine.body) if is_plain else None


def _given(module: Module, statement: Statement, at: int) -> Iterator[Lambda]:
    """The routine that a call is given at a place, if its body could be that of a loop."""
    for routine in module.routines:
        if not isinstance(routine, Lambda) or routine.scope.start != at or routine.statement is not statement:
            continue
        is_simple = len(routine.parameters) == 1 and routine.body is not None and not uses_own(routine)
        if is_simple and not routine.is_async and not routine.is_generator and _fits(module, routine):
            yield routine


def _fits(module: Module, routine: Lambda) -> bool:
    """Whether control stays in the body of a routine, and all that it declares lives in a block."""
    statements = routine.body.statements if routine.body is not None else []
    is_early = module.dialect.rules.is_there_early
    own = [s for s in routine.scope.symbols.values() if any(r.declares for r in s.references)]
    is_more = any(inner.kind in _NOT_OF_LOOPS for statement in statements for inner in statement.walk())
    return bool(statements) and not leaves(statements) and not is_more and not any(is_early(module, s) for s in own)


def _stays(module: Module, walk: CalledWalk, container: Symbol) -> bool:
    """Whether the list is known, has no gaps, and stays what it is while each of its things has its turn."""
    held = Holdings.of(module).of_symbol(container)
    if len(held.symbols) > 1 or held.foreign or held.classes or held.is_table or held.lost:
        return False
    if any(len(r.path) == 1 and r.path_mode in _SETTING for r in container.references):
        return False  # a place is set, or how long it is, which may leave gaps
    surroundings = Surroundings.of(module)
    running = map(Effects.of(module).may_run_at_once_in, [walk.statement, *walk.body.walk()])
    scopes = {routine.scope for routines in running for routine in routines}
    for reference in container.references:
        is_inside = walk.statement.start <= reference.start < walk.statement.end
        if reference is walk.container or not (is_inside or any(reference.scope.within(scope) for scope in scopes)):
            continue
        is_quiet = only_looks(surroundings, reference) and not _may_grow(module, reference)
        if reference.form is not Form.DECLARATION and not is_quiet:
            return False
    return True


def _may_grow(module: Module, reference: Reference) -> bool:
    """Whether a list is asked for something that may put things into it."""
    step = reference.path[0] if reference.path else None
    handling = module.dialect.library.handling_by_method(step.name or "") if step is not None else None
    return reference.path_mode is Mode.CALL and len(reference.path) == 1 and handling is not Handling.EACH
