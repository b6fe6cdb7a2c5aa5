"""Whether a value that a routine reads may be handed to it instead."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from aedifex.program.analysis.concurrency import runs_beside
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Call, Function, Kind, Parameter, ParameterKind, Routine, Statement

_SURE = frozenset({Form.TARGET, Form.IMPORT, Form.STAR, Form.ROUTINE, Form.CLASS})
_OF_ANY = frozenset({ParameterKind.REST, ParameterKind.KEYWORD_REST})


def why_not_passed(effects: Effects, routine: Function, symbol: Symbol) -> tuple[int, str] | None:
    """Why reads of `symbol` in `routine` cannot become a parameter: an offset and a plain sentence, or None.

    A value handed over is read when the call begins. That is the same as reading it later only if nothing gives the
    name another value in between, if it is bound by then, and if no code of the routine outlives the call.
    """
    name = f"`{routine.name}`"
    reads = [r for r in symbol.references if r.scope.within(routine.scope)]
    at = reads[0].start if reads else routine.scope.start
    if routine.is_postponed:
        return at, f"{name} runs on after the call that makes it, and reads `{symbol.name}`"
    for reference in reads:
        if reference.scope.is_apart_from(routine.scope):
            return reference.start, f"`{symbol.name}` is read in {name} by code that may run later"
        if reference.mode.writes:
            return reference.start, f"{name} writes `{symbol.name}`"
    if any(symbol in effects.transitive[other].rebinds for other in run_before(effects, routine, reads)):
        return at, f"`{symbol.name}` may change while {name} runs"
    if runs_beside(effects.module) and any(symbol in effects.transitive[other].rebinds for other in effects.escaping):
        return at, f"code that runs beside {name} may give `{symbol.name}` another value"
    if routine in effects.escaping:
        return at, f"{name} is handed on as a value, so nobody could give it `{symbol.name}`"
    if not _is_bound_before_calls(effects, routine, symbol):
        return at, f"`{symbol.name}` may not have a value yet when {name} is called"
    return None


def gives_each(call: Call, parameters: Sequence[Parameter]) -> bool:
    """Whether a call gives one value for each parameter, all by themselves."""
    is_plain = not any(argument.stars for argument in call.arguments)
    return is_plain and len(call.arguments) == len(parameters) and all(p.kind not in _OF_ANY for p in parameters)


def run_before(effects: Effects, routine: Function, reads: Sequence[Reference]) -> set[Routine]:
    """The routines that may run after a call of `routine` begins and before it makes the last of some reads.

    Those that were handed on as values are among them if anything outside the program may run by then.
    """
    statements = list(routine.body.walk())
    loops = [statement for statement in statements if statement.is_loop]
    found: set[Routine] = set()
    for read in reads:
        again = [loop for loop in loops if loop.start <= read.start < loop.end]
        for statement in statements:
            found |= effects.run_until(statement, _end_before(statement, read, again))
    return effects.reached_from(found)


def _end_before(statement: Statement, read: Reference, again: Iterable[Statement]) -> int:
    """How far a statement may have run before a read that may be made again by any of some loops."""
    if any(loop.start <= statement.start and statement.end <= loop.end for loop in again):
        return statement.end
    if statement is read.statement and read.scope.home is read.scope:
        return read.start
    return statement.end if statement.start <= read.start else statement.start


def _is_bound_before_calls(effects: Effects, routine: Function, symbol: Symbol) -> bool:
    bound = first_sure_binding(effects.module, symbol)
    if bound is None:
        return False
    first = effects.first_run_of(routine)
    return (first is None or first >= bound) and not any(r.mode is Mode.DELETE for r in symbol.references)


def first_sure_binding(module: Module, symbol: Symbol) -> int | None:
    """The index after the first top-level statement that certainly binds a symbol, or declares it without a value."""
    for reference in symbol.references:
        statement = reference.statement
        if reference.scope.kind is not ScopeKind.MODULE or statement is None or statement.block.owner is not None:
            continue
        if (reference.binds and reference.form in _SURE) or (reference.declares and statement.kind is Kind.DECLARE):
            return statement.index + 1
    return None
