"""Loops that count: from where, up or down to where, and those of them that go through the places of a list."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Operator, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Kind, Statement

_ONE = frozenset({"1", "++", "--"})


@dataclass(frozen=True)
class CountedLoop:
    """`for (let i = 0; i < kites.length; i++)`: what names its counter first, where that begins, and the test.

    It goes up by one, or down by one; what its body does with the counter is another matter.
    """

    statement: Statement
    named: Reference
    first: Expression
    test: Expression
    goes_up: bool

    @property
    def counter(self) -> Symbol:
        """The variable that counts."""
        return self.named.symbol

    @property
    def uses(self) -> list[Reference]:
        """Where the body uses the counter."""
        begin, end = self.statement.header_end, self.statement.end
        return [r for r in self.counter.references if begin <= r.start < end]


def counted_loop(module: Module, statement: Statement) -> CountedLoop | None:
    """How a loop counts; None where it does not, or in another way."""
    if statement.kind is not Kind.LOOP or statement.tests_last or not statement.blocks:
        return None
    trees = [t for t in Surroundings.of(module).by_statement.get(statement, []) if t.start < statement.header_end]
    begins = _begins([tree for tree in trees if tree.sense is not Sense.TEST])
    tests = [tree.parts[0] for tree in trees if tree.sense is Sense.TEST]
    steps = [tree.parts[0] for tree in trees if tree.sense is Sense.ALONE and tree.parts[0].sense is Sense.UPDATE]
    if begins is None or len(tests) != 1 or len(steps) != 1 or len(trees) != len(tests) + len(steps) + 1:
        return None
    (target, first), (test,), (step,) = begins, tests, steps
    named = target.reference
    if named is None or test.sense is not Sense.OPERATION or not is_named(test.parts[0], named.symbol):
        return None
    is_by_one = is_named(step.parts[0], named.symbol) and module.source.slice(step.parts[1].span) in _ONE
    if not is_by_one or step.operator not in (Operator.PLUS, Operator.MINUS):
        return None
    return CountedLoop(statement, named, first, test, step.operator is Operator.PLUS)


def _begins(trees: Sequence[Expression]) -> tuple[Expression, Expression] | None:
    """What a loop gives its first value, and that."""
    for tree in trees:
        given = tree.parts[0] if tree.sense is Sense.ALONE and tree.parts[0].sense is Sense.NAMED else tree
        if given.sense in (Sense.SET, Sense.NAMED) and len(given.parts) == 2 and given.parts[0].sense is Sense.NAME:
            return given.parts[0], given.parts[1]
    return None


def loops_through(module: Module, container: Symbol) -> Iterator[tuple[CountedLoop, Expression]]:
    """The loops that count from nought up to the length of a list, by a variable that only they know.

    With each comes the list as it is named there.
    """
    for statement in module.walk():
        loop = counted_loop(module, statement)
        if loop is not None and _knows_alone(module, loop) and module.source.slice(loop.first.span) == "0":
            limit = loop.test.parts[1]
            is_length = limit.sense is Sense.MEMBER and limit.name == module.dialect.library.count_member
            is_up = loop.goes_up and loop.test.operator is Operator.LESS
            if is_up and is_length and is_named(limit.parts[0], container):
                yield loop, limit.parts[0]


def _knows_alone(module: Module, loop: CountedLoop) -> bool:
    """Whether a loop declares its counter, for itself, and its body only asks for it."""
    uses = [r for r in loop.counter.references if loop.statement.header_end <= r.start]
    is_early = loop.named.declares and module.dialect.rules.is_there_early(module, loop.counter)
    if is_early and _begins_anew(loop):
        uses = loop.uses
    elif is_early or not loop.named.declares:
        return False
    return all(use.mode is Mode.READ and not use.path for use in uses)


def _begins_anew(loop: CountedLoop) -> bool:
    """Whether a counter that lives in the whole routine serves loops alone, each of which begins it, as does this.

    Nothing may ask for it later, as a routine inside would, or go on counting with it around the loop.
    """
    counter, own = loop.counter, loop.statement.span
    if counter.scope.kind is not ScopeKind.ROUTINE or any(use.scope.frame is not counter.scope for use in loop.uses):
        return False
    begun = [r.statement for r in counter.references if r.declares and r.mode.writes]
    spans = [s.span for s in begun if s is not None and s.is_loop]
    is_around = any(span != own and span.holds(own) for span in spans)
    return not is_around and all(any(span.holds(r.span) for span in spans) for r in counter.references)
