"""Data flow: what a run of statements reads and writes, which names are live around it, how control may leave it.

Liveness is the classic backward analysis (A. V. Aho, M. S. Lam, R. Sethi, J. D. Ullman, "Compilers: Principles,
Techniques, and Tools", 2nd edition, section 9.2.5), done on the structure of the blocks instead of a graph. It errs
on the side of more live names: a name that an inner routine captures is live everywhere, and so is a name of an outer
scope at the end.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from itertools import chain
from typing import NamedTuple

from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Lambda, Leave, Role, Statement

Names = frozenset[Symbol]
_NONE: Names = frozenset()
_KILLING = frozenset({Form.TARGET, Form.LOOP, Form.RESOURCE, Form.IMPORT, Form.ROUTINE, Form.CLASS, Form.TYPE_ALIAS})


@dataclass(frozen=True, slots=True)
class _Exits:
    """What is live where control goes when it leaves a block other than at its end.

    `labelled` has, for each label around, what is live behind its statement, and where that begins its next round.
    """

    end: Names = _NONE
    error: Names = _NONE
    stop: Names = _NONE
    again: Names = _NONE
    labelled: Mapping[str, tuple[Names, Names]] = field(default_factory=dict)

    def of(self, statement: Statement) -> Names | None:
        """What is live where a statement leaves to; None for one that does not."""
        leaves = statement.leaves
        if statement.kind is Kind.LEAVE and Leave.RETURN in leaves:
            return self.end
        if statement.kind is Kind.LEAVE and Leave.RAISE in leaves:
            return self.error
        stop, again = self.labelled.get(statement.leaves_label, (self.stop, self.again))
        return stop if Leave.BREAK in leaves else again if Leave.CONTINUE in leaves else None

    def around(self, statement: Statement, stop: Names, again: Names) -> _Exits:
        """The exits inside a loop: behind it, and its next round."""
        known = {**self.labelled, statement.label: (stop, again)} if statement.label else self.labelled
        return replace(self, stop=stop, again=again, labelled=known)

    @property
    def everywhere(self) -> Names:
        """What is live at any of them."""
        return frozenset().union(self.end, self.error, self.stop, self.again, *chain(*self.labelled.values()))


class Way(NamedTuple):
    """How control leaves: which way, and the label of what it leaves, if that is named."""

    leave: Leave
    label: str = ""


def reads(run: Sequence[Statement]) -> set[Symbol]:
    """The symbols whose values a run of statements may look at, inner blocks included, other routines not."""
    return {r.symbol for r in _references(run) if r.mode.reads or r.path}


def writes(run: Sequence[Statement]) -> set[Symbol]:
    """The symbols that a run of statements may bind anew or delete."""
    return {r.symbol for r in _references(run) if r.mode.writes}


def leaves(run: Sequence[Statement]) -> set[Leave]:
    """How control may leave a run of statements other than at its end."""
    return {way.leave for way in ways_out_of(run)}


def ways_out_of(run: Sequence[Statement]) -> set[Way]:
    """How control may leave a run of statements other than at its end, with the labels that are outside of it."""
    found: set[Way] = set()
    for statement in run:
        found |= {Way(leave, statement.leaves_label) for leave in statement.leaves}
        for block in statement.blocks:
            if block.routine is None:
                absorbed = statement.absorbs(block)
                found |= {w for w in ways_out_of(block.statements) if not _is_absorbed(w, statement, absorbed)}
    return found


def _is_absorbed(way: Way, statement: Statement, absorbed: Collection[Leave]) -> bool:
    if way.label:
        return way.label == statement.label
    return way.leave in absorbed


def _references(run: Sequence[Statement]) -> list[Reference]:
    return [r for statement in run for inner in statement.walk() for r in inner.references]


def is_needed_after(module: Module, symbol: Symbol, statement: Statement) -> bool:
    """Whether the value of a name may still be looked at when a statement of its routine comes to its end."""
    routine = symbol.scope.home.routine
    return symbol in Flow(module, routine if isinstance(routine, Function) else None).live_after(statement)


class Flow:
    """The live names of one routine, or of a module's top-level code where `routine` is None.

    Nobody else asks for what `own` names hold, whatever their scope.
    """

    def __init__(self, module: Module, routine: Function | Lambda | None = None, own: Names = _NONE) -> None:
        self.module = module
        self.routine = routine
        self.scope = routine.scope if routine is not None else module.scope
        body = routine.body if routine is not None else module.block
        self._before: dict[Statement, Names] = {}
        self._after: dict[Statement, Names] = {}
        self._captured = self._find_captured() - own
        self._lasting = (self._find_lasting() | self._captured) - own
        if body is not None:
            self._block(body, _Exits(end=self._lasting, error=self._lasting), self._lasting)

    def live_before(self, statement: Statement) -> Names:
        """The names whose values may still be looked at, as they are just before a statement."""
        return self._before[statement]

    def live_after(self, statement: Statement) -> Names:
        """The names whose values may still be looked at, as they are when a statement comes to its end."""
        return self._after[statement]

    def inputs(self, run: Sequence[Statement]) -> set[Symbol]:
        """The names of this routine that a run of consecutive statements needs from before it."""
        return {symbol for symbol in self.live_before(run[0]) & reads(run) if symbol.scope.frame is self.scope}

    def outputs(self, run: Sequence[Statement]) -> set[Symbol]:
        """The names of this routine that a run of consecutive statements sets and that are looked at afterwards."""
        return {symbol for symbol in self.live_after(run[-1]) & writes(run) if symbol.scope.frame is self.scope}

    # -- names that live on

    def _find_captured(self) -> Names:
        """Names of this scope that inner routines, lambdas or generator expressions use."""
        found: set[Symbol] = set()
        for inner in self.scope.walk()[1:]:
            if inner.is_apart_from(self.scope):
                found.update(use.symbol for use in inner.uses if use.symbol.scope.frame is self.scope)
        return frozenset(found)

    def _find_lasting(self) -> Names:
        """Names that may be looked at once this code has come to its end."""
        mine = [use for scope in self.scope.walk() for use in scope.uses]
        if self.routine is not None:
            return frozenset(use.symbol for use in mine if not use.symbol.scope.within(self.scope))
        return frozenset(use.symbol for use in mine if use.symbol.scope.kind is ScopeKind.OUTSIDE)

    # -- the analysis

    def _block(self, block: Block, exits: _Exits, after: Names) -> Names:
        for statement in reversed(block.statements):
            self._after[statement] = self._after.get(statement, _NONE) | after
            after = self._statement(statement, exits, after)
            self._before[statement] = self._before.get(statement, _NONE) | after
        return after

    def _statement(self, statement: Statement, exits: _Exits, after: Names) -> Names:
        leads_to = exits.of(statement)
        after = after if leads_to is None else leads_to
        if statement.label and not statement.is_loop:
            exits = replace(exits, labelled={**exits.labelled, statement.label: (after, after)})
        before = self._before_statement(statement, exits, after)
        return before | exits.error | self._captured

    def _before_statement(self, statement: Statement, exits: _Exits, after: Names) -> Names:
        kind = statement.kind
        if statement.is_loop:
            return self._loop(statement, exits, after)
        if kind is Kind.GUARDED:
            return self._guarded(statement, exits, after)
        if kind is Kind.RESOURCE:
            # What a with statement enters may swallow an error, and then control goes on behind it.
            inner = self._block(statement.blocks[0], replace(exits, error=exits.error | after), after)
            return (inner - self._kills(statement)) | self._gens(statement)
        if kind in (Kind.BRANCH, Kind.CHOICE):
            ways = self._choice(statement, exits, after)
            return frozenset().union(*ways, *(() if statement.has_otherwise else (after,)), self._gens(statement))
        if kind is Kind.CLASS and statement.blocks:
            inner = self._block(statement.blocks[0], exits, after - self._kills(statement))
            return inner | self._gens(statement)
        return (after - self._kills(statement)) | self._gens(statement)

    def _choice(self, statement: Statement, exits: _Exits, after: Names) -> list[Names]:
        """What is live before each block of a choice; from one that falls through control goes on into the next."""
        if statement.ends_at_break:
            exits = replace(exits, stop=after)
        ways: list[Names] = []
        following = after
        for block in reversed(statement.blocks):
            following = self._block(block, exits, following if block.falls_through else after)
            ways.append(following)
        return ways

    def _loop(self, statement: Statement, exits: _Exits, after: Names) -> Names:
        body, *others = statement.blocks
        gens, kills = self._gens(statement), self._kills(statement)
        begun = self._begun(statement)
        behind = self._block(others[0], exits, after) if others else after
        head = gens | behind
        while True:
            inner = self._block(body, exits.around(statement, after, head), head)
            grown = head | (inner - kills)
            if grown == head:
                return inner if statement.tests_last else head - begun
            head = grown

    @staticmethod
    def _begun(loop: Statement) -> Names:
        """The names to which what a loop does once gives a value that does not depend on them."""
        first = [r for r in loop.references if loop.beginning is not None and loop.beginning.holds(r.span)]
        asked = {r.symbol for r in first if r.mode.reads or r.path}
        return frozenset(r.symbol for r in first if r.mode is Mode.WRITE) - asked

    def _guarded(self, statement: Statement, exits: _Exits, after: Names) -> Names:
        by_role = {block.role: block for block in statement.blocks}
        last, otherwise = by_role.get(Role.FINALLY), by_role.get(Role.OTHERWISE)
        if last is not None:
            # The last part runs on every way out, and then goes on to wherever that way leads.
            after = self._block(last, exits, after | exits.everywhere)
            exits = _Exits(after, after, after, after, dict.fromkeys(exits.labelled, (after, after)))
        handlers = [self._block(block, exits, after) for block in statement.blocks if block.role is Role.HANDLER]
        caught = frozenset().union(*handlers, exits.error)
        behind = self._block(otherwise, exits, after) if otherwise is not None else after
        inner = self._block(statement.blocks[0], replace(exits, error=caught), behind)
        return inner | caught | self._gens(statement)

    # -- one statement's own reads and writes

    def _gens(self, statement: Statement) -> Names:
        return frozenset(r.symbol for r in statement.references if r.mode.reads or r.path)

    def _kills(self, statement: Statement) -> Names:
        return frozenset(
            r.symbol
            for r in statement.references
            if (
                r.mode in (Mode.WRITE, Mode.DELETE)
                and r.form in _KILLING
                and r.scope.frame is self.scope
                and not r.path
            )
            or self._begins_anew(r)
        )

    def _begins_anew(self, reference: Reference) -> bool:
        """Whether a name is declared without a value, so that it has none any more."""
        is_bare = reference.declares and reference.form is Form.DECLARATION
        return is_bare and not self.module.dialect.rules.is_there_early(self.module, reference.symbol)
