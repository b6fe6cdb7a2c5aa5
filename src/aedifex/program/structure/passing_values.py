"""Variables of a module that every routine sets before it asks for them: each routine could have one of its own."""

from __future__ import annotations

from collections.abc import Iterable
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.concurrency import runs_beside
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import Flow
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Scope, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Lambda, Shape, Statement, final_name
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.obstacles import variable_obstacles
from aedifex.program.structure.state import Constants, state
from aedifex.source.text import Span

User = Function | Lambda | None
"""What uses a variable: a routine, or the top-level code."""


class PassingValues(Analysis):
    """Tells which variables of a module carry nothing from one routine to another, nor from one call to the next."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self._effects = Effects.of(module)
        self._routines: dict[Scope, User] = {r.scope: r for r in module.routines if isinstance(r, (Function, Lambda))}

    @cached_property
    def found(self) -> list[Symbol]:
        """The variables, in the order of the text."""
        if self.module.hindrances or runs_beside(self.module):
            return []
        constants = Constants.of(self.module)
        return [s for s in state(self.module) if s not in constants and self._passes(s)]

    def users(self, symbol: Symbol) -> dict[User, list[Reference]]:
        """The routines that use a variable, the top-level code as None, each with its uses in the order of the text."""
        found: dict[User, list[Reference]] = {}
        for reference in symbol.references:
            found.setdefault(self._routines.get(reference.scope.frame), []).append(reference)
        return found

    def _passes(self, symbol: Symbol) -> bool:
        users = self.users(symbol)
        routines = [routine for routine in users if routine is not None]
        if any(r.is_postponed or r.body is None for r in routines) or self._may_be_seen(symbol):
            return False
        known = {*self._routines, self.module.scope}
        if any(r.mode is Mode.DELETE or r.scope.frame not in known for r in symbol.references):
            return False
        if not all(_stands_in(routine, uses) for routine, uses in users.items()):
            return False
        if not any(r.mode.reads or r.path for r in symbol.references):
            return False
        if not routines and not self._is_of_loops(symbol):
            return False
        setting = {routine for routine, uses in users.items() if any(r.mode.writes for r in uses)}
        return all(self._keeps_to_itself(user, symbol, setting - {None}) for user in users)

    def is_scratch(self, symbol: Symbol) -> bool:
        """Whether a variable is nothing but paper to work on: loops count with it, or all that use it set it and ask.

        What has a first value is meant to last.
        """
        idle = self.idle(symbol)
        asked = {user: [r for r in uses if r not in idle] for user, uses in self.users(symbol).items()}
        asked = {user: [r for r in uses if r.form is not Form.DECLARATION] for user, uses in asked.items()}
        if all(self._counts_only(user, uses) for user, uses in asked.items()):
            return True
        is_given = any(r.mode.writes for r in idle)
        return not is_given and all(any(r.mode.reads or r.path for r in uses) for uses in asked.values() if uses)

    def _counts_only(self, user: User, uses: list[Reference]) -> bool:
        body = user.body if user is not None else self.module.block
        shares = shares_of(uses, body) if body is not None else []
        return all(begins_with(statement, inner[0]) for statement, inner in shares)

    def idle(self, symbol: Symbol) -> list[Reference]:
        """Where the top-level code declares a variable, or gives it a plain first value that nobody asks for."""
        flow = Flow(self.module, None, frozenset({symbol}))
        uses = self.users(symbol).get(None, [])
        return [r for r in uses if self._declares_only(r) or self._gives_idly(r, flow)]

    def _declares_only(self, reference: Reference) -> bool:
        statement = reference.statement
        if statement is None or not self._stands_apart(statement) or len(statement.references) > 1:
            return False
        return statement.assignment is None or statement.assignment.value is None

    def _gives_idly(self, reference: Reference, flow: Flow) -> bool:
        statement = reference.statement
        given = statement.assignment if statement is not None else None
        if statement is None or given is None or given.annotation is not None or not self._stands_apart(statement):
            return False
        pair = next((pair for pair in given.pairs if pair.target is reference), None)
        is_plain = pair is not None and pair.value.shape is Shape.LITERAL
        return is_plain and reference.symbol not in flow.live_after(statement)

    def _stands_apart(self, statement: Statement) -> bool:
        return statement.block is self.module.block and Layout.of(self.module).stands_alone(statement)

    def _is_of_loops(self, symbol: Symbol) -> bool:
        """Whether loops of the top-level code alone use a variable, which could each have their own."""
        if not self.module.dialect.writer.declares:
            return False
        idle = self.idle(symbol)
        asked = [r for r in symbol.references if r not in idle]
        return bool(asked) and self._counts_only(None, asked)

    def _may_be_seen(self, symbol: Symbol) -> bool:
        """Whether others may ask for the variable, or notice when what it holds goes."""
        if variable_obstacles(self.module, symbol) or self.module.dialect.rules.is_handed_out(self.module, symbol.name):
            return True
        if symbol.name in self.module.set_elsewhere:
            return True
        return self.module.dialect.rules.lets_go_at_once and not all(map(self._makes_nothing, symbol.bindings))

    def _makes_nothing(self, reference: Reference) -> bool:
        """Whether what a name gets here is no new object that only this name holds: numbers and texts do not count."""
        makes_plain = self.module.dialect.library.makes_plain_values
        gives_numbers = self.module.dialect.library.gives_numbers
        return reference.statement is not None and all(
            call.callee is not None
            and (call.callee.symbol.origin is not None or call.callee.symbol.imported is not None)
            and (makes_plain(final_name(call.callee)) or gives_numbers(final_name(call.callee)))
            for call in reference.statement.calls
        )

    def _keeps_to_itself(self, user: User, symbol: Symbol, setting: set[User]) -> bool:
        """Whether all that a routine asks a variable for is what it set itself, in the same call."""
        body = user.body if user is not None else self.module.block
        assert body is not None
        flow = Flow(self.module, user, frozenset({symbol}))
        if symbol in _needed_first(flow, body):
            return False
        return not any(
            self._may_set(statement, setting) and _is_needed_around(flow, statement, symbol)
            for statement in body.walk()
        )

    def _may_set(self, statement: Statement, setting: set[User]) -> bool:
        """Whether another routine, or another call of the same, may set the variable while a statement is at work."""
        inside = {r for r in setting if r is not None and statement.span.holds(Span(r.scope.start, r.scope.end))}
        return bool((self._effects.run_at_once(statement) | inside) & setting)


def _stands_in(user: User, uses: Iterable[Reference]) -> bool:
    """Whether a routine uses a variable in its body only, and in no value that a parameter has else."""
    body = user.body if user is not None else None
    return body is None or all(body.start <= reference.start < body.end for reference in uses)


def _needed_first(flow: Flow, block: Block) -> frozenset[Symbol]:
    return flow.live_before(block.statements[0]) if block.statements else frozenset()


def _is_needed_around(flow: Flow, statement: Statement, symbol: Symbol) -> bool:
    """Whether what a variable holds is asked for by a statement itself, in its blocks first, or behind it."""
    inner = (_needed_first(flow, block) for block in statement.blocks if block.routine is None)
    asks = any(r.symbol is symbol and (r.mode.reads or r.path) for r in statement.references)
    return asks or symbol in flow.live_after(statement).union(*inner)


def begins_with(loop: Statement, first: Reference) -> bool:
    """Whether a loop begins by giving a variable its value: what it goes over, or its first count, and nothing else."""
    if first.statement is not loop or first.mode is not Mode.WRITE or first.path or first.declares:
        return False
    begun = loop.beginning
    if loop.kind is Kind.EACH:
        return loop.keyword is None
    return begun is not None and begun.start == first.start and _writes_once(loop, first)


def _writes_once(loop: Statement, first: Reference) -> bool:
    begun = loop.beginning
    return begun is not None and not any(
        r is not first and r.mode.writes and begun.holds(r.span) for r in loop.references
    )


def shares_of(references: Iterable[Reference], block: Block) -> list[tuple[Statement, list[Reference]]]:
    """The statements of a block that some references stand in, each with those."""
    found: dict[Statement, list[Reference]] = {}
    for reference in references:
        statement = reference.statement
        while statement is not None and statement.block is not block:
            statement = statement.block.owner
        if statement is not None:
            found.setdefault(statement, []).append(reference)
    return sorted(found.items(), key=lambda share: share[0].start)
