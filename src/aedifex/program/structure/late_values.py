"""First values that are handed to a constructor which is called at the last of them."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from aedifex.program.analysis.definite_assignment import definitely_assigns
from aedifex.program.analysis.effects import Effects, actor_of
from aedifex.program.analysis.values import may_change_object, references_in
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Pair, Shape, Statement
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.value_times import PURE, ValueTimes, pairs_of

_WRITTEN_OUT = PURE | {Shape.RISKY}


@dataclass(frozen=True, slots=True)
class InitialValue:
    """The top-level assignment that gives a variable its first value, which moves to where the object is made.

    `is_foreign` tells that the value can only be computed outside the class: it uses state of others, or has effects.
    `needs_own` tells that it uses other variables of the same class.
    """

    symbol: Symbol
    statement: Statement
    pair: Pair
    is_foreign: bool
    needs_own: bool


@dataclass(frozen=True, slots=True)
class WaitingValue:
    """A first value that is computed where it stands: its variable keeps it until the object is made.

    `references` are the places up to there, which go on using the variable.
    """

    symbol: Symbol
    statement: Statement
    references: tuple[Reference, ...]


FirstValue = InitialValue | WaitingValue


class LateValues:
    """The first values of some variables, with the object made at the last of them.

    Until then nobody may use the object: all that touches the variables is top-level code in plain sight.
    """

    def __init__(self, module: Module, symbols: Collection[Symbol]) -> None:
        self.module = module
        self.symbols = symbols
        self.statements = module.block.statements
        self.effects = Effects.of(module)
        self.times = ValueTimes.of(module)
        self.layout = Layout.of(module)
        self.place = max((s.index for s in self._first.values()), default=0)
        self.movable: list[InitialValue] = []
        self.waiting: list[WaitingValue] = []
        if self._first and self._is_possible():
            self._settle()

    @cached_property
    def _first(self) -> dict[Symbol, Statement]:
        """The statement after which each variable certainly has a value, if it is the first to touch it."""
        found: dict[Symbol, Statement] = {}
        for symbol in self.symbols:
            index = self.effects.first_touch_of(symbol)
            if index is not None and definitely_assigns(self.statements[index], symbol):
                found[symbol] = self.statements[index]
        return found

    def _is_possible(self) -> bool:
        for symbol in self.symbols:
            index = self.effects.first_touch_of(symbol)
            if symbol not in self._first and index is not None and index <= self.place:
                return False
        last = self.statements[self.place]
        if last is self.module.guard or not self.layout.stands_alone(last) or not self._is_unseen_by_routines():
            return False
        return all(
            reference.scope.kind is ScopeKind.MODULE
            and reference.mode is not Mode.DELETE
            and reference.form in (Form.PLAIN, Form.TARGET, Form.LOOP, Form.RESOURCE)
            for references in self._early.values()
            for reference in references
        )

    def _is_unseen_by_routines(self) -> bool:
        """Whether no routine that touches the variables may run before the object is made."""
        direct = self.effects.direct.items()
        touching = (r for r, effect in direct if r is not None and not effect.touches.isdisjoint(self.symbols))
        first_runs = map(self.effects.first_run_of, touching)
        return all(index is None or index > self.place for index in first_runs)

    @cached_property
    def _early(self) -> dict[Symbol, list[Reference]]:
        """The places in top-level code at which each variable is used before the object is there."""
        return {
            symbol: [r for r in symbol.references if self._is_early(r) and actor_of(r.scope) is None]
            for symbol in self._first
        }

    def _is_early(self, reference: Reference) -> bool:
        return reference.statement is not None and reference.statement.outermost.index <= self.place

    # -- what moves, and what waits

    def _settle(self) -> None:
        stuck: set[Symbol] = set()
        while True:
            moving = self._moving(stuck)
            bad = set(self._torn(moving))
            if not bad:
                break
            stuck |= bad
        waiting = [symbol for symbol in self._first if symbol not in moving]
        if any(self._would_be_constant(symbol) for symbol in waiting):
            return
        self.movable = sorted(moving.values(), key=lambda value: value.pair.target.start)
        self.waiting = [WaitingValue(s, self._first[s], tuple(self._early[s])) for s in waiting]

    def _moving(self, stuck: Collection[Symbol]) -> dict[Symbol, InitialValue]:
        """The values that can be worked out when the object is made, from the last backwards."""
        found: dict[Symbol, InitialValue] = {}
        unmoved: list[Statement] = []
        is_quiet = True
        first = min(statement.index for statement in self._first.values())
        for statement in reversed(self.statements[first : self.place + 1]):
            pairs = pairs_of(statement)
            free = (p for p in pairs if p.target.symbol not in stuck)
            wanted = [pair for pair in free if self._first.get(pair.target.symbol) is statement]
            values = [self._value(statement, pair, unmoved, is_quiet) for pair in wanted]
            here = [value for value in values if value is not None]
            if not self.times.may_take_out(statement, len(here)):
                here = []
            found.update((value.symbol, value) for value in here)
            if len(here) < len(pairs) or not pairs:
                unmoved.append(statement)
                is_quiet = is_quiet and self.times.is_still(statement)
        own = set(found)
        return {symbol: self._with_own(value, own) for symbol, value in found.items()}

    def _value(
        self, statement: Statement, pair: Pair, unmoved: Sequence[Statement], is_quiet: bool
    ) -> InitialValue | None:
        is_pure = self.times.is_pure(statement, pair.value)
        if (not is_pure and not is_quiet) or self.times.is_asked_meanwhile(statement, pair.target.symbol):
            return None
        between = self.statements[statement.index + 1 : self.place + 1] if is_pure else unmoved
        is_same_object = pair.value.shape is Shape.NAME
        names = references_in(statement, pair.value)
        others = [name for name in names if name.symbol not in self._first]
        if not all(self.times.is_settled(name, between, is_same_object=is_same_object) for name in names):
            return None
        is_foreign = not is_pure or any(map(self.times.is_state_of_others, others))
        if is_foreign and any(name.scope.kind is ScopeKind.LAMBDA for name in names):
            return None
        return InitialValue(pair.target.symbol, statement, pair, is_foreign, needs_own=False)

    def _with_own(self, value: InitialValue, own: Collection[Symbol]) -> InitialValue:
        """A value with what is now known of the others: those that wait are as foreign to it as any variable."""
        names = {name.symbol for name in references_in(value.statement, value.pair.value)} & set(self._first)
        is_foreign = value.is_foreign or not names <= set(own)
        return replace(value, is_foreign=is_foreign, needs_own=not names.isdisjoint(own))

    def _torn(self, moving: dict[Symbol, InitialValue]) -> Iterator[Symbol]:
        """The variables that cannot move, as others stand that use them or that they use."""
        for symbol, value in moving.items():
            if value.needs_own and value.is_foreign:
                yield symbol
            homes = [v.pair.value.span for v in moving.values() if v.needs_own]
            for reference in self._early[symbol]:
                inside = any(span.start <= reference.start < span.end for span in homes)
                if reference is not value.pair.target and not (inside and reference.mode is Mode.READ):
                    yield symbol

    def _would_be_constant(self, symbol: Symbol) -> bool:
        """Whether a variable that waits would hold one written-out value for good, as constants do."""
        pairs = [p for p in pairs_of(self._first[symbol]) if p.target.symbol is symbol]
        changes = sum(r.mode.writes or may_change_object(r, self.module) for r in self._early[symbol])
        return changes == 1 and any(pair.value.shape in _WRITTEN_OUT for pair in pairs)
