"""Statements that stand once for each copy of a kind, one after another."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from aedifex.program.model.names import ScopeKind
from aedifex.program.model.statements import Kind, Leave, Statement
from aedifex.source.text import Span
from aedifex.survey.kinds.likeness import Hole, alike, is_named_constant

if TYPE_CHECKING:
    from aedifex.survey.kinds.twins import TwinKind


_MOST_NAMES = 4


@dataclass(frozen=True)
class Repeated:
    """Statements that stand once for each copy, one after another: those of each copy, and the names that differ."""

    runs: tuple[tuple[Statement, ...], ...]
    holes: tuple[Hole, ...] = ()


def repeated_in(kind: TwinKind) -> Iterator[Repeated]:
    """The statements that stand once for each copy, outside of where they begin and of their functions."""
    module = kind.module
    taken = {s for run in (kind.beginning.runs if kind.beginning is not None else ()) for s in run}
    set_up = {s for pairs in (kind.beginning.pairs if kind.beginning is not None else ()) for s, _ in pairs}
    bodies = {function.statement for family in kind.routines.values() for function in family}
    blocks = [module.block] + [b for s in module.walk() for b in s.blocks]
    for block in blocks:
        if any(outer.owner in bodies for outer in block.outwards()):
            continue
        at = 0
        while at < len(block.statements):
            run = _repeated_from(kind, block.statements[at:], taken | set_up)
            if run is not None:
                yield run
                at += sum(len(part) for part in run.runs)
            else:
                at += 1


def _repeated_from(kind: TwinKind, statements: Sequence[Statement], taken: set[Statement]) -> Repeated | None:
    count = len(kind.marks)
    for size in range(1, min(len(statements) // count, 12) + 1):
        runs = [tuple(statements[number * size : (number + 1) * size]) for number in range(count)]
        if any(statement in taken for run in runs for statement in run):
            return None
        if all(_is_about(kind, run, number) for number, run in enumerate(runs)):
            spans = [Span(run[0].start, run[-1].end) for run in runs]
            likeness = alike(kind.module, spans, kind.mappings)
            if likeness is None or makes_function(kind, spans[0]):
                continue
            named = [is_named_constant(kind.module, c) for hole in likeness.holes for c in hole.constants]
            if all(named) and len(likeness.holes) <= _MOST_NAMES:
                return Repeated(tuple(runs), tuple(likeness.holes))
    return None


def _is_about(kind: TwinKind, run: Sequence[Statement], number: int) -> bool:
    """Whether statements are each about one copy, and could stand in a loop."""
    return all(
        concerns_one(kind, [statement], number)
        and not _leaves(statement)
        and statement.kind not in (Kind.ROUTINE, Kind.CLASS)
        for statement in run
    )


def concerns_one(kind: TwinKind, run: Sequence[Statement], number: int) -> bool:
    """Whether statements have to do with one copy, and with no other."""
    others = {s for n in range(len(kind.marks)) if n != number for s in kind.copy_of(n)}
    used = {r.symbol for statement in run for r in kind.module.references_within(statement.span)}
    return bool(used & kind.copy_of(number)) and used.isdisjoint(others)


def makes_function(kind: TwinKind, span: Span) -> bool:
    """Whether a stretch makes a function, which could be about another object by the time it runs."""
    late = (ScopeKind.LAMBDA, ScopeKind.COMPREHENSION)
    return any(reference.scope.kind in late for reference in kind.module.references_within(span))


def _leaves(statement: Statement) -> bool:
    """Whether a statement may leave a loop around it, declares names, or runs on later."""
    inner = [s for block in statement.blocks for s in block.walk()]
    if any(s.kind in (Kind.DECLARE, Kind.IMPORT) for s in (statement, *inner)):
        return True
    steering = {Leave.BREAK, Leave.CONTINUE, Leave.YIELD, Leave.AWAIT, Leave.RETURN}
    return any(s.leaves & steering for s in (statement, *inner))
