"""Loops by number in which one element of a list is asked for again and again."""

from __future__ import annotations

from dataclasses import dataclass

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, Scope, Symbol
from aedifex.program.model.statements import Block, Kind, Statement
from aedifex.program.structure.layout import Layout
from aedifex.source.text import Span
from aedifex.survey.kinds.loop_names import is_free_for
from aedifex.survey.kinds.walks import is_place, only_looks

_FEWEST = 2


@dataclass(frozen=True)
class Pick:
    """A loop, and the places in its body at which the same element is meant: it could get a name at its beginning."""

    loop: Statement
    element: Expression
    places: tuple[Expression, ...]


def picks(module: Module, container: Symbol, item: str) -> list[Pick]:
    """The loops in which an element of a list could be called `item` from the beginning of the body on."""
    surroundings = Surroundings.of(module)
    if len(Holdings.of(module).of_symbol(container).symbols) > 1:
        return []
    by_loop: dict[tuple[Statement, Symbol], list[Expression]] = {}
    for reference in container.references:
        name = surroundings.of_reference(reference)
        part = surroundings.around(name) if name is not None else None
        if part is None or part.sense is not Sense.PART or part.parts[0] is not name:
            continue
        number = part.parts[1].reference
        loop = _loop_around(reference.statement)
        if number is not None and loop is not None and part.parts[1].sense is Sense.NAME:
            by_loop.setdefault((loop, number.symbol), []).append(part)
    found = (
        _pick(module, surroundings, container, number, loop, sorted(parts, key=lambda p: p.start), item)
        for (loop, number), parts in by_loop.items()
    )
    return [pick for pick in found if pick is not None]


def _loop_around(statement: Statement | None) -> Statement | None:
    """The innermost loop in whose body a statement stands."""
    for block in statement.block.outwards() if statement is not None else ():
        if block.routine is not None or block.owner is None:
            return None
        if block.owner.is_loop:
            return block.owner if block is block.owner.blocks[0] else None
    return None


def _pick(
    module: Module,
    surroundings: Surroundings,
    container: Symbol,
    number: Symbol,
    loop: Statement,
    parts: list[Expression],
    item: str,
) -> Pick | None:
    places = [part for part in parts if not is_place(surroundings, part)]
    body = loop.blocks[0]
    first = body.statements[0]
    references = module.references_within(body.statements[0].span)
    if len(places) < _FEWEST or not references or not _takes_lines(module, loop):
        return None
    if not is_free_for(module, references[0].scope, item, loop):
        return None
    if places[0].parts[0].reference is not references[0] or not _begins_with(first, places[0]):
        return None
    own = references[0].scope
    if any(use.scope.is_apart_from(own) for part in parts for use in _names(part)):
        return None
    if any(use.scope.find(item) is not own.find(item) for place in places for use in _names(place)):
        return None  # another thing has the name there
    found = _changes(module, surroundings, container, number, body.statements)
    is_late = any(_may_follow(place, at, statement) for at, statement in found for place in places)
    return Pick(loop, places[0], tuple(places)) if not is_late else None


def _takes_lines(module: Module, loop: Statement) -> bool:
    """Whether the body of a loop can begin with one more line."""
    first = loop.blocks[0].statements[0]
    frame = module.dialect.writer.block_frame("", "")
    between = module.source.slice(Span(loop.header_end, first.start))
    is_block = not frame.tail or frame.head.strip() in between
    return is_block and Layout.of(module).stands_alone(first)


def _names(part: Expression) -> list[Reference]:
    return [inner.reference for inner in part.parts if inner.reference is not None]


def _begins_with(statement: Statement, part: Expression) -> bool:
    """Whether a statement asks for an element before it does anything else."""
    if statement.kind in (Kind.UPDATE, Kind.BRANCH, Kind.EXPRESSION):
        return not any(call.start <= part.start for call in statement.calls if call.callee is None)
    return statement.kind is Kind.ASSIGN and not statement.calls


def _may_follow(place: Expression, at: int, change: Statement) -> bool:
    """Whether an element may be asked for in a turn in which a statement has changed something before, from `at` on."""
    asking = place.statement
    if asking is None or place.start < at:
        return asking is None
    entered = {block.owner: block for block in change.block.outwards()}
    if asking in entered and asking is not change:
        return asking.kind is not Kind.BRANCH  # a later condition, asked only where that branch is not run
    for block in asking.block.outwards():
        if block.owner in entered and entered[block.owner] is not block:
            return block.owner is None or block.owner.kind is not Kind.BRANCH
    return True


def _changes(
    module: Module,
    surroundings: Surroundings,
    container: Symbol,
    number: Symbol,
    statements: list[Statement],
) -> list[tuple[int, Statement]]:
    """Where in a body the number, or what is in the list, may become another, and the statements that do it.

    What is done in a loop inside may be done from its beginning on.
    """
    effects = Effects.of(module)
    found: list[tuple[int, Statement]] = []
    for outer in statements:
        for statement in outer.walk():
            repeated = _loop_between(statement, statements[0].block)
            for reference in statement.references:
                is_other = reference.symbol is number and reference.binds
                is_change = reference.symbol is container and not only_looks(surroundings, reference)
                if is_other or is_change:
                    found.append((repeated.start, repeated) if repeated is not None else (reference.start, statement))
            for routine in effects.may_run_in(statement) if not statement.blocks else ():
                if number in effects.transitive[routine].rebinds or changes(surroundings, container, routine.scope):
                    found.append((repeated.start, repeated) if repeated is not None else (statement.end, statement))
    return found


def _loop_between(statement: Statement, block: Block) -> Statement | None:
    """The outermost loop around a statement inside a block: what it does may come before what stands above it."""
    found: Statement | None = None
    inner: Statement | None = statement
    while inner is not None:
        if inner.is_loop:
            found = inner
        inner = inner.block.owner if inner.block is not block else None
    return found


def changes(surroundings: Surroundings, container: Symbol, scope: Scope) -> bool:
    """Whether a routine may change what is in a list."""
    inside = [r for r in container.references if r.scope.within(scope) and r.form is not Form.DECLARATION]
    return any(not only_looks(surroundings, reference) for reference in inside)
