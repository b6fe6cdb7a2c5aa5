"""Functions that are always given the same variable of the module."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Symbol
from aedifex.program.model.statements import Call, Function, Kind, Parameter, call_of
from aedifex.survey.kinds.resources import Passing


@dataclass(frozen=True)
class GivenAlways:
    """A function, its parameter that always holds one variable, and the calls that give it that."""

    function: Function
    parameter: Parameter
    calls: tuple[Call, ...]

    @property
    def number(self) -> int:
        """Which of the parameters that is."""
        return self.function.parameters.index(self.parameter)


def given_always(module: Module, symbol: Symbol) -> Iterator[GivenAlways]:
    """The functions that could as well use a variable of the module in place of a parameter.

    The variable has one value, and each call gives it, or what is known to be it; nothing in the function has its name.
    """
    if module.hindrances or not _is_set_once(symbol):
        return
    holders = Passing.of(module).holders(symbol)
    for function in module.functions:
        if module.is_known_outside(function.name) or not function.symbol.is_module_level:
            continue
        for parameter in function.parameters:
            own = parameter.reference.symbol
            inside = [scope.symbols[symbol.name] for scope in function.scope.walk() if symbol.name in scope.symbols]
            if own in holders and all(other in (own, symbol) for other in inside):
                uses = [r for r in function.symbol.references if not r.mode.writes]
                calls = tuple(call for use in uses if (call := call_of(use)) is not None)
                yield GivenAlways(function, parameter, calls)


def _is_set_once(symbol: Symbol) -> bool:
    """Whether a variable of the module is given one value, by a statement that certainly runs."""
    statement = symbol.bindings[0].statement if len(symbol.bindings) == 1 else None
    is_top = statement is not None and statement.block.owner is None and statement.kind is Kind.ASSIGN
    return is_top and symbol.is_module_level and not any(r.mode is Mode.DELETE for r in symbol.references)
