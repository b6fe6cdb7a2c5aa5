"""Whether a container, and all that is in it, is only ever read."""

from __future__ import annotations

from aedifex.program.analysis.holding.holding import Holding, reach
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol

_GIVING = frozenset({Sense.SET, Sense.UPDATE, Sense.DELETE, Sense.WALK, Sense.NAMED})
_PLACES = frozenset({Sense.PART, Sense.MEMBER, Sense.SLICE})


def is_only_read(module: Module, symbol: Symbol) -> bool:
    """Whether nobody changes what a variable holds, nor what is in that, nor could tell it from an equal one."""
    holdings, surroundings = Holdings.of(module), Surroundings.of(module)
    held = list(reach(holdings.of_symbol(symbol)))
    if any(_is_container(h) and (h.lost is not None or h.foreign is not None or h.classes) for h in held):
        return False
    within = {id(holding) for holding in held}
    uses = [(e, h.now) for e, h in holdings.known.items() if id(h.now) in within]
    return not any(_may_change(module, surroundings, use, holding) for use, holding in uses)


def _is_container(holding: Holding) -> bool:
    return bool(holding.tables or holding.rows or holding.element or holding.is_table)


def _may_change(module: Module, surroundings: Surroundings, use: Expression, holding: Holding) -> bool:
    """Whether an expression is a place that is given something, or is asked to change, or for what it is itself."""
    around = surroundings.around(use)
    if around is None:
        return False
    if around.sense in _GIVING and use in around.parts[: max(len(around.parts) - 1, 1)]:
        return use.sense in _PLACES or (around.sense is Sense.UPDATE and _is_container(holding))
    if around.sense is Sense.SAME and _is_container(holding):
        return not any(part.sense is Sense.NOTHING for part in around.parts)
    if around.sense is Sense.MEMBER and _is_container(holding):
        call = surroundings.around(around)
        is_called = call is not None and call.sense is Sense.CALL and call.parts[0] is around
        return not is_called or not module.dialect.library.only_reads_object(around.name or "")
    return False
