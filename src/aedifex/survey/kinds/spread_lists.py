"""Lists that hold the same plain value several times, and say how often: by a product, or for each of so many."""

from __future__ import annotations

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import is_settled, only_value
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Operator, Sense
from aedifex.program.model.module import Module
from aedifex.survey.kinds.plain_values import is_plain

_FEWEST, _MOST = 2, 100
_EACH_PARTS = 2


def spread(module: Module, value: Expression) -> Expression | None:
    """A list as if all its elements were written out; None where they are not known, or too many."""
    if value.sense is Sense.LIST:
        return value
    element, counted = _repeated(value)
    count = count_of(module, counted) if counted is not None else None
    if element is None or count is None or not is_plain(element) or not _FEWEST <= count <= _MOST:
        return None
    return Expression(Sense.LIST, value.start, value.end, [element] * count, statement=value.statement)


def is_spread(value: Expression) -> bool:
    """Whether a list stands for one that says how often it holds its value."""
    return len(value.parts) >= _FEWEST and value.parts[0] is value.parts[1]


def length_of(module: Module, value: Expression) -> int | None:
    """How many elements a list has when it is made; None where that is not known."""
    if value.sense is Sense.LIST:
        return None if any(part.sense is Sense.SPREAD for part in value.parts) else len(value.parts)
    element, counted = _repeated(value)
    return count_of(module, counted) if element is not None and counted is not None else None


def counted_by(module: Module, value: Expression) -> Expression:
    """What says how often a list holds its value, or what is gone through for that."""
    whole = next(tree for root in Surroundings.of(module).trees for tree in root.walk() if tree.span == value.span)
    _, counted = _repeated(whole)
    assert counted is not None
    return counted


def _repeated(value: Expression) -> tuple[Expression | None, Expression | None]:
    """The element that is there again and again, and what it is multiplied by, or what is gone through for it."""
    if value.operator is Operator.TIMES and value.parts[0].sense is Sense.LIST and len(value.parts[0].parts) == 1:
        return value.parts[0].parts[0], value.parts[1]
    is_each = value.sense is Sense.EACH and len(value.parts) == _EACH_PARTS and value.parts[1].sense is Sense.WALK
    return (value.parts[0], value.parts[1].parts[1]) if is_each else (None, None)


def count_of(module: Module, counted: Expression) -> int | None:
    """How many times something is meant by a number, or by what has, or counts, so many elements."""
    library = module.dialect.library
    if counted.sense is Sense.CALL and counted.parts[0].reference is not None and len(counted.parts) == 2:
        callee = counted.parts[0].reference
        function = callee.name if callee.is_builtin else ""
        if library.gives_numbers(function) or library.handling_by_function(function) is Handling.COUNTS:
            return count_of(module, counted.parts[1])
    text = module.source.slice(counted.span)
    if counted.sense is Sense.CONSTANT:
        return int(text) if text.isdigit() else None
    symbol = counted.reference.symbol if counted.sense is Sense.NAME and counted.reference is not None else None
    only = only_value(symbol) if symbol is not None and is_settled(symbol) else None
    written = Surroundings.of(module).by_span.get(only.value.span) if only is not None else None
    if written is None:
        return None
    return len(written.parts) if written.sense is Sense.LIST else count_of(module, written)
