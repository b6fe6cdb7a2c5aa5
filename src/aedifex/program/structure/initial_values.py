"""Where variables get their first values, and which of those values a constructor could set."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import cached_property

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.values import references_in
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Pair, Shape, Statement
from aedifex.program.structure.late_values import InitialValue, LateValues, WaitingValue
from aedifex.program.structure.value_times import ValueTimes, pairs_of


class InitialValues:
    """The first values of some variables that are to become the fields of one class.

    The class's object is made at the first top-level statement that touches any of the variables: a first value may be
    set there if nothing in between could notice or change it. Where that leaves out some, and nobody uses the object
    before, it is made at the last of the first values instead. What a script only declares has no first value: a field
    that is declared is as empty as that.
    """

    def __init__(self, module: Module, symbols: Iterable[Symbol]) -> None:
        self.module = module
        self.symbols = set(symbols)
        self.statements = module.block.statements
        self.effects = Effects.of(module)
        self.times = ValueTimes.of(module)

    @cached_property
    def _late(self) -> LateValues | None:
        """The values with the object made at the last of them, if that serves more variables."""
        early = len(self._early) + len(self._only_declared)
        if early == len(self.symbols):
            return None
        late = LateValues(self.module, self.symbols)
        return late if len(late.movable) + len(late.waiting) > early else None

    @property
    def is_late(self) -> bool:
        """Whether the object is made at the last of the first values."""
        return self._late is not None

    @property
    def place(self) -> int:
        """The top-level statement at which the object is made."""
        return self._late.place if self._late is not None else self._first_touch

    @property
    def movable(self) -> list[InitialValue]:
        """The first values that a constructor called at `place` could set, in the order of the text."""
        return self._late.movable if self._late is not None else self._early

    @property
    def waiting(self) -> list[WaitingValue]:
        """The first values that stay where they are and are handed to the constructor."""
        return self._late.waiting if self._late is not None else []

    @property
    def empty(self) -> list[Reference]:
        """Where the variables are declared that are to be fields without a first value."""
        return [] if self.is_late else self._only_declared

    @property
    def settable(self) -> set[Symbol]:
        """The variables whose first values the constructor sets, or that have none."""
        given = {value.symbol for value in self.movable} | {value.symbol for value in self.waiting}
        return given | {reference.symbol for reference in self.empty}

    @cached_property
    def _only_declared(self) -> list[Reference]:
        """The declarations at the top level of variables that get no first value there, which could move."""
        given = {value.symbol for value in self._early}
        found = (only_declared(symbol) for symbol in self.symbols if symbol not in given)
        return sorted((r for r in found if r is not None), key=lambda reference: reference.start)

    @cached_property
    def _first_touch(self) -> int:
        """The first top-level statement that has to do with any of the variables, or may have by a call.

        Where only others call what does, it is where the variables stand.
        """
        touches = (self.effects.first_touch_of(symbol) for symbol in self.symbols)
        declared = (only_declared(symbol) for symbol in self.symbols)
        standing = min((_index_of(reference) for reference in declared if reference is not None), default=0)
        return min((index for index in touches if index is not None), default=standing)

    @cached_property
    def _early(self) -> list[InitialValue]:
        """The first values that a constructor called at the first touch could set, in the order of the text."""
        found: list[InitialValue] = []
        is_quiet = True
        touched: set[Symbol] = set()
        for statement in self.statements[self._first_touch :]:
            if self.symbols <= touched:
                break  # each has its first value behind it
            pairs = pairs_of(statement)
            here: list[InitialValue] = []
            for pair in pairs:
                start = self._start(statement, pair, is_quiet, touched, [*found, *here])
                if start is not None:
                    here.append(start)
            if not self.times.may_take_out(statement, len(here)):
                here = []
            found += here
            touched |= self.effects.of_statement(statement).touches
            if not here or len(here) < len(pairs):
                is_quiet = is_quiet and self.times.is_still(statement)
        return found

    def _start(
        self,
        statement: Statement,
        pair: Pair,
        is_quiet: bool,
        touched: set[Symbol],
        earlier: Sequence[InitialValue],
    ) -> InitialValue | None:
        symbol = pair.target.symbol
        if symbol not in self.symbols or symbol in touched or any(start.symbol is symbol for start in earlier):
            return None
        if self.times.is_asked_meanwhile(statement, symbol):
            return None
        is_pure = self.times.is_pure(statement, pair.value) or (
            is_quiet and self.times.is_only_risky(statement, pair.value)
        )
        if not is_pure and not is_quiet:
            return None
        names = references_in(statement, pair.value)
        own = [name for name in names if name.symbol in self.symbols]
        if own and not is_pure:
            return None
        known = {start.symbol: start.statement.index for start in earlier if start.statement is not statement}
        is_same_object = pair.value.shape is Shape.NAME
        for name in names:
            if name in own and name.symbol not in known:
                return None
            since = known[name.symbol] + 1 if name in own else self._known_since(name)
            if since is None:
                return None
            between = self.statements[since : statement.index]
            if not self.times.is_settled(name, between, is_same_object=is_same_object):
                return None
        foreign = [n for n in names if n.symbol not in self.symbols and self.times.is_state_of_others(n)]
        if own and foreign:
            return None
        if any(name.scope.kind is ScopeKind.LAMBDA for name in [*own, *foreign]):
            return None
        return InitialValue(symbol, statement, pair, bool(foreign) or not is_pure, bool(own))

    def _known_since(self, name: Reference) -> int | None:
        """The statement from which on a name that is not the class's own has its value; None if that is too late."""
        symbol, first = name.symbol, self._first_touch
        if not symbol.is_module_level or any(
            r.mode.writes and r.scope.kind is ScopeKind.MODULE and _index_of(r) < first for r in symbol.references
        ):
            return first
        return None


def _index_of(reference: Reference) -> int:
    if reference.form is Form.STAR or reference.statement is None:
        return -1
    return reference.statement.outermost.index


def only_declared(symbol: Symbol) -> Reference | None:
    """Where a variable is declared without a value, if that is done once, by a statement of the top level."""
    declared = [reference for reference in symbol.references if reference.declares]
    if len(declared) != 1 or declared[0].mode is not Mode.DECLARE or declared[0].statement is None:
        return None
    statement = declared[0].statement
    return declared[0] if statement.outermost is statement and statement.keyword else None
