"""Places where a handler of requests fails if the record that a request names is not there."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.statements import Function, Kind, Statement
from aedifex.program.structure.routes import Routes
from aedifex.survey.lookups import Askers, askings, lone_kept_name

NOT_FOUND = "404"
"""The status with which a handler says that there is no such thing."""


_SIMPLE = frozenset({Kind.EXPRESSION, Kind.ASSIGN, Kind.UPDATE, Kind.LEAVE, Kind.BRANCH})
_OF_IT = frozenset({Sense.PART, Sense.MEMBER})
_QUIET = frozenset({Sense.NAME, Sense.CONSTANT, Sense.NOTHING, Sense.LIST, Sense.TUPLE, Sense.TABLE})
_IN_ORDER = frozenset(
    (Sense.ALONE, Sense.RETURN, Sense.TEST, Sense.SET, Sense.UPDATE, Sense.CALL, Sense.PART, Sense.MEMBER, Sense.TEXT)
) | {Sense.OPERATION, Sense.SUM, Sense.EQUAL, Sense.LIST, Sense.TUPLE, Sense.TABLE}


@dataclass(frozen=True)
class Missed:
    """An expression that fails where there is no such record: it asks `container` for the `wanted` one.

    Where a `loop` looks for the record, `whole` is what takes for granted, behind it, that there is one.
    """

    handler: Function
    whole: Expression
    container: Expression
    wanted: Expression
    loop: Statement | None = None


def missed_records(module: Module, data: Symbol) -> list[Missed]:
    """The places where handlers take for granted that a list or table has a record; not those that ask before."""
    if not Routes.of(module).handlers:
        return []
    found = [*_under_a_name(module, data)]
    if not module.dialect.rules.ends_silently:
        found += [*_in_table(module, data), *_in_list(module, data)]
    found.sort(key=lambda missed: missed.whole.start)
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
    ways = [*(one.key for one in askers.loops), *(one.key for one in askers.firsts)]
    way = ways[0] if ways else ""  # all of them ask for the same
    for question in askers.for_all:
        around, handler = surroundings.around(question.whole), _handler_around(module, question.whole)
        is_first = around is not None and around.sense is Sense.PART and around.parts[0] is question.whole
        if around is not None and is_first and handler is not None and module.source.slice(around.parts[1].span) == "0":
            way = way or question.key
            if question.key == way:
                yield Missed(handler, around, question.container, question.wanted)


def _under_a_name(module: Module, data: Symbol) -> Iterator[Missed]:
    """What gives the record it looks for a name, and then, before all else, uses that as if it were there."""
    askers, surroundings = Askers.of_list(module, data), Surroundings.of(module)
    for question in askers.firsts:
        around, handler = surroundings.around(question.whole), _handler_around(module, question.whole)
        is_kept = around is not None and around.sense is Sense.SET and len(around.parts) == 2
        if handler is not None and around is not None and is_kept and _fails_next(module, around.parts[0]):
            yield Missed(handler, question.whole, question.container, question.wanted)
    for lookup in askers.loops:
        above, handler = lone_kept_name(module, lookup), _handler_around(module, lookup.asked)
        begun = surroundings.by_statement[above][0].parts[0] if above is not None else None
        if handler is not None and begun is not None and _fails_next(module, begun, lookup.loop):
            yield Missed(handler, lookup.asked, lookup.container, lookup.wanted, lookup.loop)


def _fails_next(module: Module, name: Expression, asking: Statement | None = None) -> bool:
    """Whether the next thing that is done is to take a part of what has a name, or to ask a member of it."""
    statement = asking or name.statement
    behind = statement.block.statements[statement.index + 1 :] if statement is not None else ()
    reference, surroundings = name.reference, Surroundings.of(module)
    if not behind or reference is None or reference.path:
        return False
    trees = surroundings.by_statement[behind[0]] if behind[0].kind in _SIMPLE else []
    for expression in (e for tree in trees[:1] for e in _worked_out(tree)):
        if is_named(expression, reference.symbol):
            around = surroundings.around(expression)
            return around is not None and around.sense in _OF_IT and around.parts[0] is expression
        if expression.sense not in _QUIET:
            return False
    return False


def _worked_out(tree: Expression) -> Iterator[Expression]:
    """What an expression, or a statement's header, works out for sure, in order: parts before the whole."""
    parts = tree.parts if tree.sense in _IN_ORDER else []
    if tree.sense is Sense.SET:
        parts = [tree.parts[-1], *tree.parts[:-1]]
    for part in parts:
        yield from _worked_out(part)
    yield tree


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
