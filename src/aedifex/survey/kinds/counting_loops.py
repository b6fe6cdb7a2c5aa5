"""Loops with a counter of their own that goes through the places of a list, one by one."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Operator, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Reference, Symbol
from aedifex.program.model.statements import Kind, Statement


@dataclass(frozen=True)
class CountingLoop:
    """`for (let i = 0; i < kites.length; i++)`: the loop, its counter, and the list as it is named there."""

    statement: Statement
    counter: Reference
    container: Expression

    @property
    def uses(self) -> list[Reference]:
        """Where the body uses the counter."""
        begin = self.statement.header_end
        return [r for r in self.counter.symbol.references if r.start >= begin]


def counting_loops(module: Module, container: Symbol) -> Iterator[CountingLoop]:
    """The loops that count from nought up to the length of a list, by a variable that only they know."""
    surroundings = Surroundings.of(module)
    for statement in module.walk():
        if statement.kind is Kind.LOOP and not statement.tests_last and statement.keyword is not None:
            found = _read(module, surroundings.by_statement.get(statement, []), statement, container)
            if found is not None:
                yield found


def _read(module: Module, trees: list[Expression], statement: Statement, container: Symbol) -> CountingLoop | None:
    by_sense = {tree.sense: tree for tree in trees if tree.start < statement.header_end}
    if len(trees) != len(by_sense) or by_sense.keys() != {Sense.SET, Sense.TEST, Sense.ALONE}:
        return None
    (target, first), (test,), (step,) = (by_sense[s].parts for s in (Sense.SET, Sense.TEST, Sense.ALONE))
    counter, source = target.reference, module.source
    if counter is None or not counter.declares or module.dialect.rules.is_there_early(module, counter.symbol):
        return None
    counts = step.sense is Sense.UPDATE and step.operator is Operator.PLUS and is_named(step.parts[0], counter.symbol)
    by_one = counts and source.slice(step.parts[1].span) in ("1", "++")
    if source.slice(first.span) != "0" or not by_one or test.operator is not Operator.LESS:
        return None
    number, limit = test.parts
    count = module.dialect.library.count_member
    is_length = limit.sense is Sense.MEMBER and limit.name == count and is_named(limit.parts[0], container)
    if not is_named(number, counter.symbol) or not is_length:
        return None
    loop = CountingLoop(statement, counter, limit.parts[0])
    is_left_alone = all(use.mode is Mode.READ and not use.path for use in loop.uses)
    return loop if is_left_alone else None
