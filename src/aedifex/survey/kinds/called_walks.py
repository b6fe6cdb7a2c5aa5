"""Calls that do something with each thing of a list, as a loop over it would."""

from __future__ import annotations

from dataclasses import dataclass

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import leaves
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Lambda, ParameterKind, Statement
from aedifex.program.structure.own_names import uses_own
from aedifex.source.text import Span
from aedifex.survey.kinds.walks import only_looks

_SETTING = frozenset({Mode.WRITE, Mode.READ_WRITE, Mode.DELETE})
_OF_PARTS = frozenset({ParameterKind.REST, ParameterKind.PATTERN})
_NOT_OF_LOOPS = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.NOTHING})


@dataclass(frozen=True)
class CalledWalk:
    """A statement that asks a list, by its name, to hand each thing to a routine, which calls it by `name`.

    `block` is the routine's, if it has one. `body` spans what a nameless routine does: that block, or one call;
    `parameter` is its own. `function` is a function that is handed over by its name instead.
    """

    statement: Statement
    container: Reference
    name: str
    body: Span | None = None
    block: Block | None = None
    parameter: Reference | None = None
    function: Reference | None = None


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
    if not is_asked or len(call.arguments) != 1 or reference.start != statement.start:
        return None
    argument = call.arguments[0].span
    named = next((r for r in statement.references if r.span == argument and not r.path), None)
    given = _function(module, named) if named is not None else _nameless(module, statement, argument.start)
    parameter = given.parameters[0] if given is not None and len(given.parameters) == 1 else None
    if given is None or parameter is None or parameter.kind in _OF_PARTS or uses_own(given):
        return None
    name = parameter.name
    if isinstance(given, Function):
        is_free = named is not None and name not in (reference.name, named.name)
        return CalledWalk(statement, reference, name, block=given.body, function=named) if is_free else None
    is_plain = parameter.default is None and len(parameter.reference.symbol.bindings) == 1
    body = given.expression if given.body is None else Span(given.body.start, given.body.end)
    if not is_plain or name == reference.name or body is None:
        return None
    return CalledWalk(statement, reference, name, body, given.body, parameter.reference)


def _function(module: Module, named: Reference) -> Function | None:
    """The function of the script that a name means for good."""
    is_lone = len(named.symbol.bindings) == 1 and named.symbol.is_module_level
    return next((f for f in module.functions if is_lone and f.symbol is named.symbol), None)


def _nameless(module: Module, statement: Statement, at: int) -> Lambda | None:
    """The routine that a call is given at a place, if its body could be that of a loop."""
    for routine in module.routines:
        if not isinstance(routine, Lambda) or routine.scope.start != at or routine.statement is not statement:
            continue
        if not routine.is_postponed and (_fits(module, routine) or _only_calls(statement, routine)):
            return routine
    return None


def _only_calls(statement: Statement, routine: Lambda) -> bool:
    """Whether a routine calls something by a name, and that is all."""
    return any(call.span == routine.expression and call.callee is not None for call in statement.calls)


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
    block = walk.block
    code = [walk.statement, *(block.walk() if block is not None else ())]
    scopes = {r.scope for routines in map(Effects.of(module).may_run_at_once_in, code) for r in routines}
    scopes |= {block.routine.scope} if block is not None and block.routine is not None else set()
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
