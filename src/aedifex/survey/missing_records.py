"""Places where a handler of requests fails if the record that a request names is not there."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.statements import Function, Kind
from aedifex.program.structure.routes import Routes
from aedifex.survey.lookups import Askers, askings

NOT_FOUND = "404"
"""The status with which a handler says that there is no such thing."""


@dataclass(frozen=True)
class Missed:
    """An expression that fails where there is no such record: it asks `container` for the `wanted` one."""

    handler: Function
    whole: Expression
    container: Expression
    wanted: Expression


def missed_records(module: Module, data: Symbol) -> list[Missed]:
    """The places where handlers take for granted that a list or table has a record; not those that ask before."""
    if not Routes.of(module).handlers:
        return []
    found = [*_in_table(module, data), *_in_list(module, data)]
    sure = {missed.container.reference for missed in found}
    return [missed for missed in found if not _is_cared_for(module, missed, data, sure)]


def _in_table(module: Module, data: Symbol) -> Iterator[Missed]:
    for asking in askings(module, data):
        handler = _handler_around(module, asking)
        if asking.sense is Sense.PART and handler is not None and asking.parts[1].sense is not Sense.CONSTANT:
            yield Missed(handler, asking, asking.parts[0], asking.parts[1])


def _in_list(module: Module, data: Symbol) -> Iterator[Missed]:
    """The first of all that have a value, or the next one, where there may be none."""
    askers, surroundings = Askers.of_list(module, data), Surroundings.of(module)
    ways = {one.key for one in askers.loops} | {one.key for one in askers.firsts}
    for question in askers.for_all:
        around, handler = surroundings.around(question.whole), _handler_around(module, question.whole)
        is_first = around is not None and around.sense is Sense.PART and around.parts[0] is question.whole
        if around is not None and is_first and handler is not None and module.source.slice(around.parts[1].span) == "0":
            if not ways or question.key in ways:
                yield Missed(handler, around, question.container, question.wanted)


def _handler_around(module: Module, expression: Expression) -> Function | None:
    """The handler of requests that an expression stands in, itself."""
    blocks = expression.statement.block.outwards() if expression.statement is not None else ()
    routine = next((block.routine for block in blocks if block.routine is not None), None)
    return next((handler for handler in Routes.of(module).handlers if handler is routine), None)


def _is_cared_for(module: Module, missed: Missed, data: Symbol, sure: Collection[Reference | None]) -> bool:
    """Whether its handler asks the data for anything else, or does something where an error occurs."""
    statement = missed.whole.statement
    blocks = statement.block.outwards() if statement is not None else ()
    is_guarded = any(block.owner is not None and block.owner.kind is Kind.GUARDED for block in blocks)
    inside = missed.handler.statement.span
    others = [r for r in data.references if inside.start <= r.start < inside.end and r not in sure]
    return is_guarded or bool(others)
