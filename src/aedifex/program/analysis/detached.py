"""Where methods are used otherwise than by calling them on their object."""

from __future__ import annotations

from collections.abc import Collection, Iterator

from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Function

_ASKED = frozenset({Sense.MEMBER, Sense.PART})


def detached(module: Module, methods: Collection[Function]) -> Iterator[Expression]:
    """The expressions that are, or may be, one of the methods and no callee: who gets them may call them alone.

    What takes an object apart gives its names methods, which are called without it.
    """
    names, known = {method.name for method in methods}, Holdings.of(module).known
    surroundings = Surroundings.of(module)
    for expression in (e for tree in surroundings.trees for e in tree.walk()):
        held = known.get(expression)
        is_one = held is not None and not held.now.routines.keys().isdisjoint(methods)
        is_asked = expression.sense in _ASKED and _name(expression) in names
        if (is_asked and not surroundings.is_called(expression)) or (is_one and not is_asked):
            yield expression


def _name(asked: Expression) -> str | None:
    return asked.name if asked.sense is Sense.MEMBER else asked.parts[1].name
