"""Loops that count: from where, up or down to where, and what happens to their counter on the way."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Operator, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Kind, Statement

_ONE = frozenset({"1", "++", "--"})


@dataclass(frozen=True)
class CountedLoop:
    """`for (let i = 0; i < kites.length; i++)`: its counter, where that begins, and the test that lets it go on.

    It goes up by one, or down by one.
    """

    statement: Statement
    counter: Symbol
    first: Expression
    test: Expression
    goes_up: bool


def counted_loop(module: Module, statement: Statement) -> CountedLoop | None:
    """How a loop counts; None where it does not, or in another way."""
    if statement.kind is not Kind.LOOP or statement.tests_last or not statement.blocks:
        return None
    trees = Surroundings.of(module).by_statement.get(statement, [])
    begins = _begins([tree for tree in trees if tree.start < statement.header_end and tree.sense is not Sense.TEST])
    tests = [tree.parts[0] for tree in trees if tree.sense is Sense.TEST]
    steps = [tree.parts[0] for tree in trees if tree.sense is Sense.ALONE and tree.parts[0].sense is Sense.UPDATE]
    if begins is None or len(tests) != 1 or len(steps) != 1 or len(trees) != len(tests) + len(steps) + 1:
        return None
    (target, first), (test,), (step,) = begins, tests, steps
    counter = target.reference.symbol if target.reference is not None else None
    is_about = counter is not None and test.sense is Sense.OPERATION and is_named(test.parts[0], counter)
    if counter is None or not is_about or not is_named(step.parts[0], counter):
        return None
    if module.source.slice(step.parts[1].span) not in _ONE or step.operator not in (Operator.PLUS, Operator.MINUS):
        return None
    return CountedLoop(statement, counter, first, test, step.operator is Operator.PLUS)


def _begins(trees: Sequence[Expression]) -> tuple[Expression, Expression] | None:
    """What a loop gives its first value, and that."""
    for tree in trees:
        given = tree.parts[0] if tree.sense is Sense.ALONE and tree.parts[0].sense is Sense.NAMED else tree
        if given.sense in (Sense.SET, Sense.NAMED) and len(given.parts) == 2 and given.parts[0].sense is Sense.NAME:
            return given.parts[0], given.parts[1]
    return None
