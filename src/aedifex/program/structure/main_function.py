"""Where the whole program is one function, or stands behind a guard: what could come to the top level."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass

from aedifex.program.analysis.flow import reads, writes
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Symbol
from aedifex.program.model.statements import Call, Function, Kind, Lambda, Leave, ParameterKind, Shape, Statement
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.obstacles import hindrance_obstacles
from aedifex.program.structure.start_of_run import holds_loop
from aedifex.source.text import Span

_FEW = 6
_SHORT_END = 2


@dataclass(frozen=True)
class MainFunction:
    """A function that is the whole program, and the one statement that calls it.

    `given` holds the parameters with the text that each gets, by its span; `last` is the function's final `return`,
    whose value takes the call's place where the caller uses it, and `early` are its other ones. `closing` are the
    statements after the caller that must run before those leave.
    """

    function: Function
    caller: Statement
    call: Call
    given: tuple[tuple[str, Span], ...]
    last: Statement | None
    early: tuple[Statement, ...] = ()
    closing: tuple[Statement, ...] = ()

    @property
    def is_value_used(self) -> bool:
        """Whether the caller gives the function's value to names, or to another call."""
        return self.call.span != self.caller.deed

    @property
    def statement(self) -> Statement:
        """Its definition."""
        return self.function.statement


def main_function_of(module: Module) -> MainFunction | None:
    """The function that is the whole program: called once, it holds state across a loop or with inner functions."""
    main = MainCode.of(module)
    busy = [s for s in main.statements if s.references or s.calls or s.blocks]
    for index, caller in enumerate(busy):
        for call in caller.calls:
            function = _called(module, call)
            if function is None or not _stands_for(caller, call):
                continue
            if len(busy) > _FEW and _line_count(module, function.statement) <= main.lines:
                continue
            if function.name in module.starters and (len(busy) > 1 or not is_plain_start(function)):
                continue
            found = _as_main(module, function, caller, call, busy[index + 1 :])
            if found is not None and holds_state(function):
                return found
    return None


def _line_count(module: Module, statement: Statement) -> int:
    first, last = module.source.lines_of(statement.span)
    return last - first + 1


def guard_with_state(module: Module) -> Statement | None:
    """The guard, where the code behind it holds state: a loop, functions, or variables that functions use."""
    guard = module.guard
    layout = Layout.of(module)
    if guard is None or len(guard.blocks) != 1 or not layout.stands_alone(guard):
        return None
    inner = guard.blocks[0].statements
    holds = any(s.kind is Kind.ROUTINE or holds_loop(s) for s in inner) or any(_is_shared(s) for s in writes(inner))
    return guard if holds and all(layout.margin(s) for s in inner) else None


def _called(module: Module, call: Call) -> Function | None:
    callee = call.callee
    if callee is None or callee.path:
        return None
    function = next((f for f in module.functions if f.symbol is callee.symbol), None)
    is_alone = function is not None and len(function.symbol.references) == 2
    is_known = module.is_known_outside(callee.name) and callee.name not in module.starters
    return function if is_alone and not is_known else None


def is_plain_start(function: Function) -> bool:
    """Whether starting a program by a function is all that calling it does: it takes nothing and gives nothing back."""
    return not function.parameters and not gives_value(function)


def gives_value(function: Function) -> bool:
    """Whether a function may give a value back."""
    return any(inner.returned is not None for inner in function.body.walk() if Leave.RETURN in inner.leaves)


def _stands_for(caller: Statement, call: Call) -> bool:
    """Whether a statement is nothing but the call, or gives its value to names, or to one other call."""
    if caller.kind is Kind.EXPRESSION:
        return call.span == caller.deed or any(
            outer.span == caller.deed
            and outer.callee is not None
            and [(a.span, a.keyword, a.stars) for a in outer.arguments] == [(call.span, None, "")]
            for outer in caller.calls
        )
    value = caller.assignment.value if caller.assignment is not None else None
    return caller.kind is Kind.ASSIGN and value is not None and call.span == value.span


def _as_main(
    module: Module, function: Function, caller: Statement, call: Call, after: Sequence[Statement]
) -> MainFunction | None:
    if not _can_be_opened(Layout.of(module), function, caller):
        return None
    statements = function.body.statements
    last = statements[-1] if Leave.RETURN in statements[-1].leaves and statements[-1].kind is Kind.LEAVE else None
    returns = list(_returns(statements[:-1] if last is not None else statements))
    is_value_used = call.span != caller.deed
    if returns and after and (is_value_used or not _is_short_end(module, caller, after)):
        return None
    if returns and (is_value_used or after) and not (caller.kind is Kind.EXPRESSION and all(map(_is_bare, returns))):
        return None
    given = _given(function, call)
    if hindrance_obstacles(module, [function.name]) or given is None or not fits_at_top(module, function):
        return None
    return MainFunction(function, caller, call, given, last, tuple(returns), tuple(after) if returns else ())


def _can_be_opened(layout: Layout, function: Function, caller: Statement) -> bool:
    """Whether a function is plain, and it and its caller stand on lines of their own."""
    statement = function.statement
    if statement.decorators or function.is_postponed or statement.block.owner is not None:
        return False
    return all(map(layout.stands_alone, (statement, caller, function.body.statements[0])))


def _is_short_end(module: Module, caller: Statement, after: Sequence[Statement]) -> bool:
    """Whether what follows the caller is so short and plain that it may stand before each early return too."""
    layout = Layout.of(module)
    return len(after) <= _SHORT_END and all(
        s.kind is Kind.EXPRESSION
        and s.block is caller.block
        and layout.stands_alone(s)
        and "\n" not in module.source.slice(s.span)
        for s in after
    )


def _returns(run: Sequence[Statement]) -> Iterator[Statement]:
    """The statements of a run, inner blocks included, that return."""
    for statement in run:
        for inner in statement.walk():
            if inner.kind is Kind.LEAVE and Leave.RETURN in inner.leaves:
                yield inner


def _is_bare(statement: Statement) -> bool:
    """Whether nothing catches or closes anything between a `return` and the end of its function."""
    while statement.block.routine is None and statement.block.owner is not None:
        statement = statement.block.owner
        if statement.kind in (Kind.GUARDED, Kind.RESOURCE):
            return False
    return True


def _given(routine: Function, call: Call) -> tuple[tuple[str, Span], ...] | None:
    """What each parameter gets; None where that cannot be told."""
    found: dict[str, Span] = {}
    plain = [p for p in routine.parameters if p.kind in (ParameterKind.PLAIN, ParameterKind.POSITIONAL_ONLY)]
    if len(plain) != len(routine.parameters) or any(a.stars or a.keyword for a in call.arguments):
        return None
    if len(call.arguments) > len(plain):
        return None
    for parameter, argument in zip(plain, call.arguments, strict=False):
        found[parameter.name] = argument.span
    for parameter in plain[len(call.arguments) :]:
        if parameter.default is None or parameter.default.shape is not Shape.LITERAL:
            return None
        found[parameter.name] = parameter.default.span
    return tuple(found.items())


def fits_at_top(module: Module, routine: Function, away: Collection[str] = ()) -> bool:
    """Whether the function's own names mean nothing else at the top level, and nothing looks at them by text.

    Of names that are `away` the top level knows nothing meanwhile.
    """
    names = [name for name in routine.scope.symbols if name not in away]
    if hindrance_obstacles(module, names):
        return False
    for name in names:
        if name in module.scope.symbols or module.dialect.rules.is_private(name):
            return False
        outside = module.outside.symbols.get(name)
        if outside is not None and outside.references:
            return False
    return all(_declares_only(reference, routine) for reference in _declarations(routine))


def _declarations(routine: Function) -> Iterator[Reference]:
    uses = (use for scope in routine.scope.walk() for use in scope.uses)
    return (use for use in uses if use.form is Form.DECLARATION and not use.declares)


def _declares_only(reference: Reference, routine: Function) -> bool:
    """Whether a declaration is about names of one scope only, so that it can be written anew as a whole."""
    statement = reference.statement
    assert statement is not None
    homes = {r.symbol.scope is routine.scope for r in statement.references}
    return len(homes) == 1


def holds_state(routine: Function | Lambda) -> bool:
    """Whether locals live across a loop, or are shared with inner functions."""
    body = routine.body
    if body is None:
        return False
    loops = [s for s in body.statements if holds_loop(s)]
    before = [s for s in body.statements if loops and s.start < loops[0].start]
    across = {s for s in writes(before) if s.scope is routine.scope} & (reads(loops) | writes(loops))
    return bool(across) or any(_is_shared(symbol) for symbol in routine.scope.symbols.values())


def _is_shared(symbol: Symbol) -> bool:
    """Whether an inner function uses a variable of the function around it."""
    is_variable = any(r.form is Form.TARGET and r.mode is not Mode.DECLARE for r in symbol.references)
    return is_variable and any(r.scope.holder is not symbol.scope.holder for r in symbol.references)
