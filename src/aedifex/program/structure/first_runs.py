"""Functions that run once, and before all others that something else calls."""

from __future__ import annotations

from collections.abc import Sequence

from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Symbol
from aedifex.program.model.statements import Function, Kind, Statement

_DEEPEST = 3


def runs_once_first(module: Module, function: Function, depth: int = 0) -> bool:
    """Whether a runner calls a function first, and nothing calls it again: itself, or as the first that it does."""
    uses = [r for r in function.symbol.references if r is not function.named]
    if module.dialect.rules.runs_first(module, function):
        return not uses
    statement = uses[0].statement if len(uses) == 1 and uses[0].mode is Mode.CALL else None
    caller = statement.block.routine if statement is not None and statement.kind is Kind.EXPRESSION else None
    is_first = isinstance(caller, Function) and caller.deeds[0] is statement
    return isinstance(caller, Function) and is_first and depth < _DEEPEST and runs_once_first(module, caller, depth + 1)


def is_given_first(module: Module, symbol: Symbol) -> bool:
    """Whether a variable that is only declared gets its one value in such a function, before anybody asks for it."""
    statement = symbol.bindings[0].statement if len(symbol.bindings) == 1 else None
    if statement is None or statement.kind is not Kind.ASSIGN or any(r.mode is Mode.DELETE for r in symbol.references):
        return False
    function, effects = statement.block.routine, Effects.of(module)
    if not isinstance(function, Function) or not runs_once_first(module, function):
        return False
    above = function.body.statements[: statement.index]
    is_asked = any(symbol in effects.of_any(each).touches for each in above)
    return go_through(above) and not is_asked and effects.first_touch_of(symbol) is None


def go_through(statements: Sequence[Statement]) -> bool:
    """Whether control comes out behind statements, wherever it goes in them."""
    return not any(inner.leaves for statement in statements for inner in statement.walk())
