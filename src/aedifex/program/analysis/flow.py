"""Data flow: what a run of statements reads and writes, which names are live around it, how control may leave it.

Liveness is the classic backward analysis (A. V. Aho, M. S. Lam, R. Sethi, J. D. Ullman, "Compilers: Principles,
Techniques, and Tools", 2nd edition, section 9.2.5), done on the structure of the blocks instead of a graph. It errs
on the side of more live names: a name that an inner routine captures is live everywhere, and so is a name of an outer
scope at the end.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.statements import Block, Kind, Leave, Routine, Statement

Names = frozenset[Symbol]
_NONE: Names = frozenset()
_LOOPS = frozenset({Kind.LOOP, Kind.EACH})
_KILLING = frozenset({Form.TARGET, Form.LOOP, Form.RESOURCE, Form.IMPORT, Form.ROUTINE, Form.CLASS, Form.TYPE_ALIAS})


@dataclass(frozen=True, slots=True)
class _Exits:
    """What is live where control goes when it leaves a block other than at its end."""

    end: Names = _NONE
    error: Names = _NONE
    stop: Names = _NONE
    again: Names = _NONE


def reads(run: Sequence[Statement]) -> set[Symbol]:
    """The symbols whose values a run of statements may look at, inner blocks included, other routines not."""
    return {r.symbol for r in _references(run) if r.mode.reads or r.path}


def writes(run: Sequence[Statement]) -> set[Symbol]:
    """The symbols that a run of statements may bind anew or delete."""
    return {r.symbol for r in _references(run) if r.mode.writes}


def leaves(run: Sequence[Statement]) -> set[Leave]:
    """How control may leave a run of statements other than at its end."""
    found: set[Leave] = set()
    for statement in run:
        found |= statement.leaves
        inner: set[Leave] = set()
        for block in statement.blocks:
            if block.routine is None:
                below = leaves(block.statements)
                is_body = statement.kind in _LOOPS and block.role == "body"
                inner |= below - {Leave.BREAK, Leave.CONTINUE} if is_body else below
        found |= inner
    return found


def _references(run: Sequence[Statement]) -> list[Reference]:
    return [r for statement in run for inner in statement.walk() for r in inner.references]


class Flow:
    """The live names of one routine, or of a module's top-level code where `routine` is None."""

    def __init__(self, module: Module, routine: Routine | None = None) -> None:
        self.routine = routine
        self.scope = routine.scope if routine is not None else module.scope
        body = routine.body if routine is not None else module.block
        self._before: dict[Statement, Names] = {}
        self._after: dict[Statement, Names] = {}
        self._captured = self._find_captured()
        self._lasting = self._find_lasting() | self._captured
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
        return {symbol for symbol in self.live_before(run[0]) & reads(run) if symbol.scope is self.scope}

    def outputs(self, run: Sequence[Statement]) -> set[Symbol]:
        """The names of this routine that a run of consecutive statements sets and that are looked at afterwards."""
        return {symbol for symbol in self.live_after(run[-1]) & writes(run) if symbol.scope is self.scope}

    # -- names that live on

    def _find_captured(self) -> Names:
        """Names of this scope that inner routines, lambdas or generator expressions use."""
        found: set[Symbol] = set()
        for inner in self.scope.walk()[1:]:
            if _runs_later(inner, self.scope):
                found.update(use.symbol for use in inner.uses if use.symbol.scope is self.scope)
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
        if Leave.RETURN in statement.leaves and statement.kind is Kind.LEAVE:
            after = exits.end
        elif Leave.RAISE in statement.leaves and statement.kind is Kind.LEAVE:
            after = exits.error
        elif Leave.BREAK in statement.leaves:
            after = exits.stop
        elif Leave.CONTINUE in statement.leaves:
            after = exits.again
        kind = statement.kind
        if kind in _LOOPS:
            before = self._loop(statement, exits, after)
        elif kind is Kind.GUARDED:
            before = self._guarded(statement, exits, after)
        elif kind is Kind.RESOURCE:
            # What a with statement enters may swallow an error, and then control goes on behind it.
            inner = self._block(statement.blocks[0], replace(exits, error=exits.error | after), after)
            before = (inner - self._kills(statement)) | self._gens(statement)
        elif kind in (Kind.BRANCH, Kind.CHOICE):
            ways = [self._block(block, exits, after) for block in statement.blocks]
            has_else = statement.blocks[-1].role == "else" if statement.blocks else False
            before = frozenset().union(*ways, *(() if has_else else (after,)), self._gens(statement))
        elif kind is Kind.CLASS and statement.blocks:
            inner = self._block(statement.blocks[0], exits, after - self._kills(statement))
            before = inner | self._gens(statement)
        else:
            before = (after - self._kills(statement)) | self._gens(statement)
        return before | exits.error | self._captured

    def _loop(self, statement: Statement, exits: _Exits, after: Names) -> Names:
        body, *others = statement.blocks
        gens, kills = self._gens(statement), self._kills(statement)
        behind = self._block(others[0], exits, after) if others else after
        head = gens | behind
        while True:
            inner = self._block(body, replace(exits, stop=after, again=head), head)
            grown = head | (inner - kills)
            if grown == head:
                return head
            head = grown

    def _guarded(self, statement: Statement, exits: _Exits, after: Names) -> Names:
        last = next((block for block in statement.blocks if block.role == "finally"), None)
        if last is not None:
            # The last part runs on every way out, and then goes on to wherever that way leads.
            everywhere = after | exits.end | exits.error | exits.stop | exits.again
            after = self._block(last, exits, everywhere)
            exits = _Exits(after, after, after, after)
        handlers = [self._block(block, exits, after) for block in statement.blocks if block.role == "except"]
        caught = frozenset().union(*handlers, exits.error)
        otherwise = next((block for block in statement.blocks if block.role == "else"), None)
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
            if r.mode in (Mode.WRITE, Mode.DELETE) and r.form in _KILLING and r.scope is self.scope and not r.path
        )


def _runs_later(inner: Scope, outer: Scope) -> bool:
    """Whether code in `inner` may run at another time than where it stands in `outer`."""
    scope: Scope | None = inner
    while scope is not None and scope is not outer:
        if scope.kind in (ScopeKind.ROUTINE, ScopeKind.LAMBDA) or scope.name == "genexpr":
            return True
        scope = scope.parent
    return False
