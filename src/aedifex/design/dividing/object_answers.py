"""Which functions about one object end in a branch that is not: the object can say whether it comes to that."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from aedifex.design.dividing.state_needs import StateNeeds
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.values import may_change_object
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Reference, Scope, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Statement
from aedifex.program.structure.last_branch import rest_from
from aedifex.program.structure.layout import Layout
from aedifex.source.text import Span
from aedifex.survey.kinds.objects import class_of_objects, object_parameter

_FEWEST_USES = 2
_MOST_IN_PLACE = 6


@dataclass(frozen=True)
class ObjectAnswer:
    """A function, its parameter that is the object, and the first and last line of what comes before the rest."""

    routine: Function
    parameter: str
    lines: tuple[int, int]


def object_answers(module: Module, scope: Scope) -> Iterator[ObjectAnswer]:
    """The functions of which all is about an object of a class but for the last statements in one of their branches."""
    needs = StateNeeds.of(module)
    for function in module.functions:
        parameter = object_parameter(module, function, scope)
        if parameter is None or not function.symbol.is_module_level:
            continue
        symbol = parameter.reference.symbol
        rest = _first_other(needs, function.body, symbol)
        if rest is None or not rest_from(function, rest):
            continue
        inside = module.references_within(function.body.statements[-1].span)
        first = function.body.statements[0].start
        before = [r for r in module.references_within(function.statement.span) if first <= r.start < rest.start]
        end = rest.block.statements[-1].end
        behind = [r for r in inside if r.start > end]
        left = [r for r in inside if rest.start <= r.start < end and r.symbol is symbol and r.path]
        if len(left) >= _FEWEST_USES and _asks_by_name(rest.block, symbol):
            continue  # the question has a name, and who is told yes would have to look into the object again
        if _does_something(symbol, [*before, *behind]) and not _changes_another(module, symbol, [*before, *behind]):
            yield ObjectAnswer(function, parameter.name, _lines(module, function, rest))


def is_short_step(module: Module, routine: str) -> bool:
    """Whether a function that loops call for each of several things does little: it reads well in its place."""
    function = module.function(routine)
    if function is None:
        return False
    calls = [r.statement for r in function.symbol.references if r is not function.named and r.statement is not None]
    is_in_loop = len(calls) == 1 and calls[0].block.owner is not None and calls[0].block.owner.kind is Kind.EACH
    statements = [s for s in function.body.walk() if s.kind is not Kind.DECLARE]
    return is_in_loop and len(statements) <= _MOST_IN_PLACE


def _asks_by_name(block: Block, symbol: Symbol) -> bool:
    """Whether the condition around a block only hands an object to what answers it."""
    asked = [r for r in block.owner.references if r.symbol is symbol] if block.owner is not None else []
    return bool(asked) and all(not r.path or r.path_mode is Mode.CALL for r in asked)


def _lines(module: Module, function: Function, rest: Statement) -> tuple[int, int]:
    return module.source.line_of(function.deeds[0].start), module.source.line_of(
        Layout.of(module).lines(rest).start
    ) - 1


def _first_other(needs: StateNeeds, block: Block, symbol: Symbol) -> Statement | None:
    """The first statement of a block, or of the only branch that has one, that needs state of the program."""
    references = needs.module.references_within
    for statement in block.statements:
        if statement.kind is Kind.DECLARE or not needs.exist(references(statement.span), symbol):
            continue
        if statement.kind is not Kind.BRANCH or needs.exist(statement.references, symbol):
            return statement
        needing = [b for b in statement.blocks if needs.exist(references(Span(b.start, b.end)), symbol)]
        return _first_other(needs, needing[0], symbol) if len(needing) == 1 else statement
    return None


def _changes_another(module: Module, symbol: Symbol, references: list[Reference]) -> bool:
    """Whether another object of a class of the script, or what one has, is changed: it is about that as well."""
    holdings = Holdings.of(module)
    changed = {r.symbol for r in references if r.path and may_change_object(r, module)} - {symbol}
    return any(class_of_objects(holdings, holdings.of_symbol(other)) is not None for other in changed)


def _does_something(symbol: Symbol, references: list[Reference]) -> bool:
    """Whether something is done to an object, and not only asked of it."""
    uses = [r for r in references if r.symbol is symbol and r.path]
    changes = [r for r in uses if r.path_mode is not None and r.path_mode.writes]
    return len(uses) >= _FEWEST_USES and bool(changes or any(r.path_mode is Mode.CALL for r in uses))
