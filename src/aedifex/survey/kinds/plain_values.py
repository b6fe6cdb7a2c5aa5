"""Values that can be worked out at another time, or in another order, without anybody noticing."""

from __future__ import annotations

from aedifex.program.model.expressions import Expression, Operator, Sense

_DISPLAYS = frozenset({Sense.LIST, Sense.TUPLE, Sense.TABLE, Sense.GROUP})


def is_plain(value: Expression) -> bool:
    """Whether a value is written out, or a container of such."""
    if value.sense in (Sense.CONSTANT, Sense.NOTHING):
        return True
    if value.sense is Sense.OPERATION and len(value.parts) == 1:  # a number below zero
        return value.parts[0].sense is Sense.CONSTANT
    if value.operator is Operator.TIMES and value.parts[0].sense is Sense.LIST:  # a list, so many times
        return all(map(is_plain, value.parts)) and value.parts[1].sense is Sense.CONSTANT
    return value.sense in _DISPLAYS and all(map(is_plain, value.parts))


def cannot_fail(value: Expression) -> bool:
    """Whether working out a value does nothing and raises nothing: it is written out, or a name."""
    if value.sense is Sense.NAME:
        return True
    return is_plain(value) or (value.sense in _DISPLAYS and all(map(cannot_fail, value.parts)))
