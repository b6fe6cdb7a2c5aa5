"""What is done to functions as values that a method would not stand.

A method is made anew each time it is fetched from its object: two fetches are equal but not the same, and nothing can
be hung on them.
"""

from __future__ import annotations

from collections.abc import Iterator

from aedifex.program.analysis.plain_values import PlainValues
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Argument, Call, Function, ParameterKind, final_name
from aedifex.source.text import Span

_NO_FUNCTION = frozenset({Form.IMPORT, Form.CLASS, Form.STAR})


def why_not_bound(module: Module, function: Function) -> tuple[int, str] | None:
    """Why a function that is used as a value must stay a function: an offset and a plain sentence, or None."""
    uses = [use for use in function.symbol.references if use.mode is Mode.READ]
    if not uses:
        return None
    for left, right in module.identities:
        if may_be_function(module, left) and may_be_function(module, right):
            return left.start, (
                f"`{function.name}` is used as a value, and whether two values are the same one is asked here"
            )
    for use in uses:
        for parameter in _given_as(module, use):
            for held in parameter.references:
                if held.path and held.path_mode is not None and held.path_mode.writes:
                    return held.start, f"something is hung on the function `{function.name}` here"
    return None


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
