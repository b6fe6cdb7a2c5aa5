"""Handlers without a name that others can reach: lambdas, and functions defined inside the one that registers them."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from aedifex.program.analysis.concurrency import runs_beside
from aedifex.program.analysis.definite_assignment import bound_before
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Home, Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.statements import Argument, Call, Function, Lambda, Shape, Statement, final_name
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.obstacles import hindrance_obstacles, is_hard_to_echo
from aedifex.source.text import Span
from aedifex.survey.words import words_of

_QUOTED_WORDS = re.compile(r"""["']<?([A-Za-z][\w -]*)>?["']""")
_SIGNS = {"+": "plus", "-": "minus", "*": "times", "/": "divide", "=": "equals", "<": "back", ">": "next", "?": "help"}
_QUOTED_SIGN = re.compile(rf"""["']([{re.escape("".join(_SIGNS))}])["']""")
_EVENT_NAMES = frozenset("e ev evt event _ _event".split())


@dataclass(frozen=True)
class Handler:
    """A routine that is registered: given to `call`, in the text `span`.

    `captured` are the variables of the function around it that it reads; `uses` are the calls of one with a name.
    """

    routine: Function | Lambda
    statement: Statement
    call: Call
    span: Span
    captured: tuple[Symbol, ...] = ()
    uses: tuple[Reference, ...] = ()

    @property
    def body(self) -> Span:
        """The expression of a nameless one."""
        assert isinstance(self.routine, Lambda) and self.routine.expression is not None
        return Span(self.routine.expression.start, self.span.end)


def handlers(module: Module) -> Iterator[Handler]:
    """The handlers of the main code and of the script's plain functions that deserve a name, as the text has them."""
    for routine in module.routines:
        around = routine.scope.parent
        if around is None or routine.is_postponed or not _is_plain(module, around):
            continue
        if isinstance(routine, Lambda):
            found = _as_lambda(module, routine)
        else:
            found = _as_inner(module, routine, around) if isinstance(routine, Function) else None
        if found is not None:
            yield found


def _is_plain(module: Module, around: Scope) -> bool:
    """Whether code of a scope is the main code, or that of a function at the top level."""
    if around is module.scope:
        return True
    function = around.routine
    return isinstance(function, Function) and function.symbol.is_module_level


def _as_lambda(module: Module, routine: Lambda) -> Handler | None:
    scope, statement = routine.scope, routine.statement
    if statement is None or routine.expression is None:
        return None
    span = Span(scope.start, scope.end)
    given = _given_to(statement, span)
    captured = _captured(module, routine, statement)
    if given is None or captured is None or any(p.default is not None for p in routine.parameters):
        return None
    if not _is_simple(module, span) or _is_called_at_once(module, given, span):
        return None
    handler = Handler(routine, statement, given, span, captured)
    is_call = any(call.span == handler.body for call in statement.calls)
    is_name = re.fullmatch(r"[\w.]+", module.source.slice(handler.body)) is not None
    return None if is_name or (is_call and not _is_told(module, handler)) else handler


def _is_called_at_once(module: Module, call: Call, span: Span) -> bool:
    """Whether a call only uses a nameless routine while it runs itself, as sorting does: it is no handler."""
    argument = next(a for a in call.arguments if is_given(a, span))
    function = final_name(call.callee)
    is_mapping = module.dialect.library.handling_by_function(function) in (Handling.MAPPED, Handling.SIFTED)
    return module.dialect.library.calls_back(argument.keyword) or (is_mapping and call.arguments[0] is argument)


def _is_told(module: Module, handler: Handler) -> bool:
    """Whether a text beside a handler says what it answers to, and nothing but an event is handed to it."""
    given = [parameter.name for parameter in handler.routine.parameters]
    told = "".join(words_beside(module, handler.call, handler.span))
    return len(told) > 1 and not handler.captured and all(name in _EVENT_NAMES for name in given)


def words_beside(module: Module, call: Call, span: Span) -> list[str]:
    """What the text beside a handler says that is registered: words, or what a sign on a button is called."""
    for argument in (a for a in call.arguments if not is_given(a, span)):
        text = module.source.slice(argument.span)
        quoted = _QUOTED_WORDS.search(text)
        if quoted is not None and words_of(quoted[1]):
            return words_of(quoted[1])
        sign = _QUOTED_SIGN.search(text)
        if sign is not None:
            return [_SIGNS[sign[1]]]
    return []


def _as_inner(module: Module, function: Function, around: Scope) -> Handler | None:
    """A function defined in another one, given to a call once, and otherwise only called there."""
    inner, symbol = function.statement, function.symbol
    if symbol.scope is not around or around is module.scope or inner.decorators:
        return None
    uses = [r for r in symbol.references if r is not function.named]
    values = [r for r in uses if r.mode is Mode.READ and not r.path and r.scope is around]
    calls = [r for r in uses if r.mode is Mode.CALL and not r.path and r.scope is around]
    if len(values) != 1 or len(values) + len(calls) != len(uses):
        return None
    statement, value = values[0].statement, values[0]
    given = _given_to(statement, value.span) if statement is not None else None
    captured = _captured(module, function, inner)
    if statement is None or given is None or captured is None or not _can_go(module, function):
        return None
    return Handler(function, statement, given, value.span, captured, tuple(calls))


def _can_go(module: Module, function: Function) -> bool:
    inner = function.statement
    is_apart = Layout.of(module).stands_alone(inner) and len(inner.block.statements) > 1
    if any(reference.mode.reads for reference in inner.references):
        return False  # an annotation may name what only the function around knows
    is_easy = all(p.default is None or p.default.shape is Shape.LITERAL for p in function.parameters)
    return is_apart and is_easy and not any(s.declares is Home.AROUND for s in function.body.walk())


def _captured(module: Module, routine: Function | Lambda, statement: Statement) -> tuple[Symbol, ...] | None:
    """The variables of the function around a routine that it reads; None where passing them could be noticed.

    They must surely have a value where the routine is made, and only the function itself may give them another: it
    waits while the routine runs, unless there are threads.
    """
    around = routine.scope.parent
    assert around is not None
    if around.kind is ScopeKind.MODULE:
        return ()
    found: dict[Symbol, None] = {}
    for scope in routine.scope.walk():
        for use in scope.uses:
            if use.symbol.scope is around:
                found[use.symbol] = None
    is_beside = runs_beside(module)
    for symbol in found:
        written = [r for r in symbol.references if r.mode.writes]
        is_late = is_beside and len(written) > 1
        if is_late or any(r.scope is not around for r in written) or not bound_before(statement, symbol):
            return None
    if any(True for _ in hindrance_obstacles(module, [*(symbol.name for symbol in found), routine.name])):
        return None
    return tuple(sorted(found, key=lambda symbol: symbol.references[0].start))


def _given_to(statement: Statement, span: Span) -> Call | None:
    return next((c for c in statement.calls for a in c.arguments if is_given(a, span)), None)


def is_given(argument: Argument, span: Span) -> bool:
    """Whether an argument is the text of a handler, by its place or by a keyword."""
    return argument.end == span.end and argument.start <= span.start


def _is_simple(module: Module, span: Span) -> bool:
    """Whether the text of a lambda can be carried elsewhere: on one line, without comments, binding nothing."""
    if "\n" in module.source.slice(span) or any(span.start <= c.start < span.end for c in module.comments):
        return False
    return not any(r.form is Form.WALRUS or is_hard_to_echo(module, r) for r in module.references_within(span))
