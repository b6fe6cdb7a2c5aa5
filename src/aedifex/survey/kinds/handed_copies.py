"""Copies of which nothing ever changes, and that are things all the same: functions are given what belongs to one."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.structure.state import is_called_constant

if TYPE_CHECKING:
    from aedifex.survey.kinds.twins import TwinKind

_FEWEST_VALUES = 2


def is_handed_together(kind: TwinKind) -> bool:
    """Whether one function of the script is given several values of each copy; none is spelled as a constant."""
    return bool(functions_handed(kind)) and not any(is_called_constant(kind.module, s) for s in kind.variables)


def functions_handed(kind: TwinKind) -> list[Symbol]:
    """The functions of the script that are given several values of each copy, in the order of the text."""
    calls = list(_calls(kind.module))
    by_copy = [{copies[number] for copies in kind.fields.values()} for number in range(len(kind.marks))]
    told = [{function for function, given in calls if len(given & own) >= _FEWEST_VALUES} for own in by_copy]
    return sorted(set.intersection(*told), key=lambda symbol: symbol.references[0].start)


def _calls(module: Module) -> Iterator[tuple[Symbol, set[Symbol]]]:
    """The calls of the script's functions: each with the variables that are given by themselves."""
    functions = {function.symbol for function in module.functions}
    for statement in module.walk():
        for call in statement.calls:
            if call.callee is not None and call.callee.symbol in functions and not call.callee.path:
                named = (module.reference_at.get(argument.start) for argument in call.arguments)
                yield call.callee.symbol, {r.symbol for r in named if r is not None and not r.path}
