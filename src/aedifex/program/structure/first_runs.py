"""Functions that run once, and before all others that something else calls."""

from __future__ import annotations

from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode
from aedifex.program.model.statements import Function, Kind

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
