"""Where the copies of a kind begin: stretches of statements that are alike, or plain values."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.names import Form, Mode, Scope, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Pair, Shape, Statement
from aedifex.program.structure.first_runs import go_through, runs_once_first
from aedifex.program.structure.initial_values import only_declared
from aedifex.source.text import Span
from aedifex.survey.kinds.likeness import Likeness, alike
from aedifex.survey.kinds.plain_values import is_plain

if TYPE_CHECKING:
    from aedifex.survey.kinds.twins import TwinKind


@dataclass(frozen=True)
class Beginning:
    """Where the things of a kind begin: for each copy the statements that set it up, all alike, or its values.

    Values that are not plain are worked out one by one, in the order of `worked_out`: they keep it, and begin where the
    last of them stands. Their statements stand side by side, and with those of plain ones that come before the last.
    Where all are only declared at first, they begin in a function that runs once, before the others: `routine`.
    """

    runs: tuple[tuple[Statement, ...], ...] = ()
    likeness: Likeness | None = None
    pairs: tuple[tuple[tuple[Statement, Pair], ...], ...] = ()
    worked_out: tuple[Pair, ...] = ()
    routine: Function | None = None

    @property
    def is_close(self) -> bool:
        """Whether nothing stands between the statements that set the things up."""
        return all(one[-1].index + 1 == other[0].index for one, other in itertools.pairwise(self.runs))


def beginning_of(kind: TwinKind) -> Beginning | None:
    """Where the copies of a kind begin; None where that is not alike for all."""
    return _Beginnings(kind).find()


class _Beginnings:
    def __init__(self, kind: TwinKind) -> None:
        self.kind = kind
        self.routine: Function | None = None
        self.module = kind.module
        self.effects = Effects.of(kind.module)
        self.surroundings = Surroundings.of(kind.module)

    def find(self) -> Beginning | None:
        if all(only_declared(symbol) is not None for symbol in self.kind.variables):
            self.routine = self.first_routine()
        firsts = [[self.first_statement(symbol) for symbol in self.copy(n)] for n in range(len(self.kind.marks))]
        if any(statement is None for statements in firsts for statement in statements):
            return None
        runs = [[s for s in statements if s is not None] for statements in firsts]
        if self.routine is not None and not self.is_safe_within([s for statements in runs for s in statements]):
            return None
        return self.as_runs(runs) or self.as_values()

    def first_routine(self) -> Function | None:
        """The function in which all get their first values, if that runs once, before the others."""
        bindings = [symbol.bindings[0] if symbol.bindings else None for symbol in self.kind.variables]
        routines = {r.statement.block.routine if r and r.statement else None for r in bindings}
        routine = routines.pop() if len(routines) == 1 else None
        return routine if isinstance(routine, Function) and runs_once_first(self.module, routine) else None

    def is_safe_within(self, firsts: Sequence[Statement]) -> bool:
        """Whether nobody asks for the variables before the function sets them, and it comes to that."""
        block = self.block
        if any(self.effects.first_touch_of(symbol) is not None for symbol in self.kind.variables):
            return False
        if not go_through(block.statements[: max(s.index for s in firsts)]):
            return False
        return all(self.touch_of(symbol) == self.first_index(symbol) for symbol in self.kind.variables)

    @property
    def scope(self) -> Scope:
        """The scope in which they begin."""
        return self.routine.scope if self.routine is not None else self.module.scope

    @property
    def block(self) -> Block:
        """The block in which they begin."""
        return self.routine.body if self.routine is not None else self.module.block

    def first_index(self, symbol: Symbol) -> int | None:
        """The number of the statement that gives a variable its first value."""
        statement = self.first_statement(symbol)
        return statement.index if statement is not None else None

    def touch_of(self, symbol: Symbol) -> int | None:
        """The number of the first statement that has to do with a variable where all begin."""
        if self.routine is None:
            return self.effects.first_touch_of(symbol)
        return self.touches_within.get(symbol)

    @cached_property
    def touches_within(self) -> dict[Symbol, int]:
        """The number of the first statement of the function that has to do with each variable."""
        found: dict[Symbol, int] = {}
        for statement in self.block.statements:
            for symbol in self.effects.of_any(statement).touches:
                found.setdefault(symbol, statement.index)
        return found

    def copy(self, number: int) -> list[Symbol]:
        return [symbols[number] for symbols in self.kind.fields.values()]

    def first_statement(self, symbol: Symbol) -> Statement | None:
        """The statement that gives a variable its first value, at the top level or where all begin."""
        first = next((r for r in symbol.references if r.binds and r.scope is self.scope), None)
        statement = first.statement if first is not None else None
        if statement is None or statement.block is not self.block or statement.kind is not Kind.ASSIGN:
            return None
        return statement

    def as_runs(self, firsts: Sequence[Sequence[Statement]]) -> Beginning | None:
        """The stretches of statements in which each copy is set up, if they are alike and about nothing else."""
        statements = self.block.statements
        bounds = [(min(s.index for s in run), max(s.index for s in run)) for run in firsts]
        if any(one[1] >= other[0] for one, other in itertools.pairwise(bounds)):
            return None
        length = max(last - first for first, last in bounds) + 1
        longest = min(
            [other[0] - one[0] for one, other in itertools.pairwise(bounds)] + [len(statements) - bounds[-1][0]]
        )
        best: Beginning | None = None
        for size in range(length, min(longest, length + 12) + 1):
            runs = [tuple(statements[first : first + size]) for first, _ in bounds]
            likeness = self.likeness_of(runs)
            if likeness is None:
                break
            best = Beginning(tuple(runs), likeness, routine=self.routine)
        return best

    def likeness_of(self, runs: Sequence[Sequence[Statement]]) -> Likeness | None:
        own = set(self.kind.variables)
        for number, run in enumerate(runs):
            mine = set(self.copy(number))
            for statement in run:
                used = {r.symbol for r in self.module.references_within(statement.span)}
                if not used & mine or used & own - mine or statement.blocks or statement.leaves:
                    return None
                if self.touched_by_functions(statement, number) - mine:
                    return None
        spans = [Span(run[0].start, run[-1].end) for run in runs]
        return alike(self.module, spans, self.kind.mappings)

    def touched_by_functions(self, statement: Statement, number: int) -> set[Symbol]:
        """The copies' variables that functions named in a statement work on; its own copy's, if it calls one itself."""
        handlers = {family[number].symbol for family in self.kind.routines.values()}
        found: set[Symbol] = set()
        for reference in self.module.references_within(statement.span):
            if Form.ROUTINE not in reference.symbol.forms:
                continue
            is_handed = reference.symbol in handlers and reference.mode is Mode.READ
            for routine in self.effects.routines_behind(reference.symbol):
                touched = self.effects.transitive[routine].touches & set(self.kind.variables)
                found |= touched - set(self.copy(number)) if is_handed else touched and set(self.kind.variables)
        return found

    def as_values(self) -> Beginning | None:
        """The values with which each copy begins: plain ones wherever they stand, others side by side."""
        found: list[tuple[tuple[Statement, Pair], ...]] = []
        worked_out: list[Pair] = []
        values = {tree.parts[-1].start: tree.parts[-1] for tree in self.surroundings.trees if tree.sense is Sense.SET}
        for number in range(len(self.kind.marks)):
            pairs: list[tuple[Statement, Pair]] = []
            for symbol in self.copy(number):
                statement = self.first_statement(symbol)
                pair = self.pair_of(statement, symbol) if statement is not None else None
                if statement is None or pair is None:
                    return None
                value = self.value_at(values, pair)
                touch = self.touch_of(symbol)
                if value is None or touch is None or touch < statement.index:
                    return None
                if not is_plain(value):
                    worked_out.append(pair)
                pairs.append((statement, pair))
            found.append(tuple(pairs))
        worked_out.sort(key=lambda pair: pair.value.start)
        beginning = Beginning(pairs=tuple(found), worked_out=tuple(worked_out), routine=self.routine)
        return beginning if not worked_out or self.are_independent(beginning) else None

    def are_independent(self, beginning: Beginning) -> bool:
        """Whether values that are worked out stand side by side, and need none of the copies.

        Plain ones further down can as well be given where these are: nothing has to do with them before.
        """
        statements = {statement for pairs in beginning.pairs for statement, _ in pairs}
        last = max(s.index for pairs in beginning.pairs for s, pair in pairs if pair in beginning.worked_out)
        indexes = [statement.index for statement in statements if statement.index <= last]
        if max(indexes) - min(indexes) + 1 != len(indexes):
            return False
        own = set(self.kind.variables)
        for pair in beginning.worked_out:
            inside = self.module.references_within(pair.value.span)
            if any(r.binds and r.scope.home is self.scope for r in inside):
                return False
            used = {r.symbol for r in inside}
            routines = [routine for symbol in used for routine in self.effects.routines_behind(symbol)]
            if used & own or any(self.effects.transitive[routine].touches & own for routine in routines):
                return False
        return all(
            pair.target.symbol in own for s in statements for pair in (s.assignment.pairs if s.assignment else ())
        )

    def pair_of(self, statement: Statement, symbol: Symbol) -> Pair | None:
        """A variable with its first value; one value that is shared out among copies of a kind is each one's own."""
        assignment = statement.assignment
        if assignment is None or assignment.value is None:
            return None
        if len(assignment.targets) == 1:
            return next((pair for pair in assignment.pairs if pair.target.symbol is symbol), None)
        given = [reference for reference in statement.references if reference.binds]
        is_shared_out = len(given) == len(assignment.targets) and {r.symbol for r in given} <= set(self.kind.variables)
        if not is_shared_out or assignment.value.shape is not Shape.LITERAL:
            return None
        return next((Pair(reference, assignment.value) for reference in given if reference.symbol is symbol), None)

    @staticmethod
    def value_at(values: dict[int, Expression], pair: Pair) -> Expression | None:
        for value in values.values():
            for inner in value.walk():
                if (inner.start, inner.end) == (pair.value.start, pair.value.end):
                    return inner
        return None
