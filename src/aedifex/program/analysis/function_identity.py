"""What is done to functions as values that a method would not stand.

A method is made anew each time it is fetched from its object: two fetches are equal but not the same, nothing can be
hung on them, they take their object along where they are copied, and are bound already where a class keeps them.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from aedifex.program.analysis.plain_values import PlainValues
from aedifex.program.analysis.values import value_of
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Argument, Call, Function, Kind, ParameterKind, Statement, final_name
from aedifex.source.text import Span

_NO_FUNCTION = frozenset({Form.IMPORT, Form.CLASS, Form.STAR})


def why_not_bound(module: Module, function: Function) -> tuple[int, str] | None:
    """Why a function that is used as a value must stay a function: an offset and a plain sentence, or None."""
    uses = [use for use in function.symbol.references if use.mode is Mode.READ]
    if not uses:
        return None
    for left, right in module.identities if module.dialect.rules.binds_anew else ():
        if may_be_function(module, left) and may_be_function(module, right):
            return left.start, (
                f"`{function.name}` is used as a value, and whether two values are the same one is asked here"
            )
    shown = _shown_by_holder(module, uses)
    if shown is not None:
        return shown.start, f"`{function.name}` is used as a value, and what may hold it is shown here"
    for use in uses:
        reason = _why_not_given(module, function, use)
        if reason:
            return use.start, reason
        for parameter in _given_as(module, use):
            for held in parameter.references:
                if held.path and held.path_mode is not None and held.path_mode.writes:
                    return held.start, f"something is hung on the function `{function.name}` here"
    return None


def _why_not_given(module: Module, function: Function, use: Reference) -> str:
    """Why the place that a function is given to as a value would tell a method from it; empty where it would not."""
    library, name = module.dialect.library, f"`{function.name}`"
    if any(map(library.looks_at_functions, module.imported)):
        return f"{name} is used as a value, and the script imports what copies or examines functions"
    statement = use.statement
    if use.scope.kind is ScopeKind.CLASS or (statement is not None and _sets_in_class(statement)):
        return f"{name} is made a member of a class here"
    for call in statement.calls if statement is not None else ():
        if call.callee is None or not any(a.start <= use.start < a.end for a in call.arguments):
            continue
        if call.callee.symbol.origin is not None and _makes_member(module, call.callee.name):
            return f"{name} may be made a member of a class here"
        is_whole = any((a.start, a.end) == (use.start, use.end) for a in call.arguments)
        if is_whole and call.callee.symbol.origin is not None and library.shows(call.callee.name):
            return f"{name} is shown here as what it is"
        if library.asks_identity(call.callee, module.path.parent):
            return f"{name} is given to a file here that asks whether two values are the same one"
    return ""


def _shown_by_holder(module: Module, uses: Sequence[Reference]) -> Reference | None:
    """Where something is shown as what it is that may hold a function, or may be the function."""
    holders = _holders(module, uses)
    for statement in module.walk() if holders else ():
        for call in statement.calls:
            callee = call.callee
            if callee is None or callee.symbol.origin is None or not module.dialect.library.shows(callee.name):
                continue
            for argument in call.arguments:
                first = module.reference_at.get(argument.start)
                is_called = any(argument.start <= c.start and c.end <= argument.end for c in statement.calls)
                if first is not None and first.symbol in holders and not is_called and not _has_attribute(first):
                    return first
    return None


def _has_attribute(reference: Reference) -> bool:
    """Whether something else than an element is taken out of an object."""
    return any(step.kind is AccessKind.ATTRIBUTE for step in reference.path)


def _holders(
    module: Module, uses: Sequence[Reference], keeps: Callable[[Call], bool] = lambda call: True
) -> set[Symbol]:
    """The names that get a function as a value, directly, by what they are given, or from one another."""
    found: set[Symbol] = set()
    for use in uses:
        statement = use.statement
        if statement is not None:
            found.update(r.symbol for r in statement.references if r.binds or _is_set_inside(r))
            given = (c for c in statement.calls if _is_given(c, use) and keeps(c))
            found.update(c.callee.symbol for c in given if c.callee is not None)
    found = {symbol for symbol in found if symbol.scope.kind is not ScopeKind.OUTSIDE and symbol.imported is None}
    takes_out = module.dialect.library.gives_element
    statements = [
        s
        for s in module.walk()
        if any(r.binds for r in s.references)
        and all(c.callee is not None and c.callee.path and takes_out(final_name(c.callee)) for c in s.calls)
    ]
    while True:
        grown = found.union(*(_passed_on(statement, found) for statement in statements))
        if grown == found:
            return found
        found = grown


def _passed_on(statement: Statement, holders: set[Symbol]) -> set[Symbol]:
    """What a statement binds to something that it takes out of a holder."""
    is_walk = statement.kind is Kind.EACH and not statement.calls
    is_taken = any(
        r.symbol in holders and (r.mode.reads or r.path) and not (is_walk and not r.path and _is_table(r.symbol))
        for r in statement.references
    )
    return {r.symbol for r in statement.references if r.binds} if is_taken else set()


def _is_table(symbol: Symbol) -> bool:
    """Whether a name holds a table with texts for keys, over which a loop walks."""
    values = [value_of(reference) for reference in symbol.bindings]
    return bool(values) and all(value is not None and value.entries for value in values)


def _is_set_inside(reference: Reference) -> bool:
    """Whether an element of a container is set; an attribute does not show with its object."""
    is_element = bool(reference.path) and reference.path[-1].kind is not AccessKind.ATTRIBUTE
    return is_element and reference.path_mode is not None and reference.path_mode.writes


def _is_given(call: Call, use: Reference) -> bool:
    """Whether a method is given a function, which its object may keep."""
    is_inside = any(a.start <= use.start < a.end for a in call.arguments)
    return is_inside and call.callee is not None and bool(call.callee.path)


def _sets_in_class(statement: Statement) -> bool:
    """Whether a statement sets an attribute of what may be a class."""
    targets = [r for r in statement.references if r.path and r.path_mode is not None and r.path_mode.writes]
    return any(
        Form.CLASS in r.symbol.forms or (r.symbol.imported is not None and (r.symbol.imported.name or len(r.path) > 1))
        for r in targets
    )


def _makes_member(module: Module, function: str) -> bool:
    return module.dialect.library.tells_class(function) or module.dialect.rules.is_reflection(function)


def holders(module: Module, uses: Sequence[Reference]) -> set[Symbol]:
    """The names that may hold a function where it is used as a value, those of parameters among them.

    What is only told to call it, as by `button.addEventListener`, holds nothing that it gives away again.
    """
    adds = module.dialect.library.handling_by_method
    found = _holders(module, uses, lambda call: adds(final_name(call.callee)) is Handling.ADDS)
    return found | {parameter for use in uses for parameter in _given_as(module, use)}


def may_be_function(module: Module, operand: Span) -> bool:
    """Whether an operand may be a function of the script."""
    first = module.reference_at.get(operand.start)
    if first is None:
        return True
    symbol = first.symbol
    if symbol.scope.kind is ScopeKind.OUTSIDE or (symbol.is_module_level and symbol.forms <= _NO_FUNCTION):
        return False
    return not (first.end == operand.end and symbol in PlainValues.of(module))


def _given_as(module: Module, use: Reference) -> Iterator[Symbol]:
    """The parameters of the script's own functions to which a value is handed directly."""
    for call in use.statement.calls if use.statement is not None else ():
        for position, argument in enumerate(call.arguments):
            if argument.end == use.end and argument.start <= use.start:
                yield from _parameters(module, call, position, argument)


def _parameters(module: Module, call: Call, position: int, argument: Argument) -> Iterator[Symbol]:
    callee = call.callee
    if callee is None:
        return
    for function in module.all_functions:
        is_meant = function.name == final_name(callee) if callee.path else function.symbol is callee.symbol
        if not is_meant:
            continue
        taken = 1 if function.is_method and callee.path else 0
        for number, parameter in enumerate(function.parameters):
            by_name = argument.keyword is not None and argument.keyword == parameter.name
            by_place = argument.keyword is None and number == position + taken
            if by_name or (by_place and parameter.kind in (ParameterKind.PLAIN, ParameterKind.POSITIONAL_ONLY)):
                yield parameter.reference.symbol
