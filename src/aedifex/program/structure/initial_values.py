"""Where variables get their first values, and which of those values a constructor could set."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.alterations import Alterations
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.plain_values import PlainValues
from aedifex.program.analysis.values import references_in
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Kind, Pair, Shape, Statement, Value
from aedifex.program.structure.imports import imports_noticeably
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.state import Constants, is_state

_PURE = frozenset({Shape.LITERAL, Shape.COMPUTED, Shape.DISPLAY, Shape.NAME})
_STILL = frozenset({Kind.NOTHING, Kind.DECLARE})


@dataclass(frozen=True, slots=True)
class InitialValue:
    """The top-level assignment that gives a variable its first value.

    `is_foreign` tells that the value can only be computed outside the class: it uses state of others, or has effects.
    `needs_own` tells that it uses other variables of the same class.
    """

    symbol: Symbol
    statement: Statement
    pair: Pair
    is_foreign: bool
    needs_own: bool


class InitialValues:
    """The first values of some variables that are to become the fields of one class.

    The class's object is made at the first top-level statement that touches any of the variables. A first value may
    be set there if nothing in between could notice or change it.
    """

    def __init__(self, module: Module, symbols: Iterable[Symbol]) -> None:
        self.module = module
        self.symbols = set(symbols)
        self.statements = module.block.statements
        self.effects = Effects.of(module)
        self.constants = Constants.of(module)
        self.layout = Layout.of(module)
        self.plain = PlainValues.of(module)

    @cached_property
    def first_touch(self) -> int:
        """The first top-level statement that has to do with any of the variables, or may have by a call."""
        touches = (self.effects.first_touch_of(symbol) for symbol in self.symbols)
        return min((index for index in touches if index is not None), default=0)

    @cached_property
    def movable(self) -> list[InitialValue]:
        """The first values that a constructor called at `first_touch` could set, in the order of the text."""
        found: list[InitialValue] = []
        is_quiet = True
        touched: set[Symbol] = set()
        for statement in self.statements[self.first_touch :]:
            if self.symbols <= touched:
                break  # each has its first value behind it
            pairs = _pairs(statement)
            here: list[InitialValue] = []
            for pair in pairs:
                start = self._start(statement, pair, is_quiet, touched, [*found, *here])
                if start is not None:
                    here.append(start)
            if not self._may_be_split(statement, here):
                here = []
            found += here
            touched |= self.effects.of_statement(statement).touches
            if not here or len(here) < len(pairs):
                is_quiet = is_quiet and self._is_still(statement)
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
        is_pure = self._is_pure(statement, pair.value) or (
            pair.value.shape is Shape.RISKY and is_quiet and self.plain.is_operation_quiet(statement, pair.value)
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
            if since is None or not self._is_settled(name, since, statement.index, is_same_object):
                return None
        foreign = [name for name in names if self._is_foreign(name)]
        if own and foreign:
            return None
        if any(name.scope.kind is ScopeKind.LAMBDA for name in [*own, *foreign]):
            return None
        return InitialValue(symbol, statement, pair, bool(foreign) or not is_pure, bool(own))

    def _is_foreign(self, name: Reference) -> bool:
        """Whether a name is state of someone else, which the class is not to know."""
        symbol = name.symbol
        return symbol not in self.symbols and is_state(symbol) and not self.constants.settles(symbol)

    def _known_since(self, name: Reference) -> int | None:
        """The statement from which on a name that is not the class's own has its value; None if that is too late."""
        symbol, first = name.symbol, self.first_touch
        if not symbol.is_module_level or any(
            r.mode.writes and r.scope.kind is ScopeKind.MODULE and _index_of(r) < first for r in symbol.references
        ):
            return first
        return None

    def _is_settled(self, name: Reference, since: int, last: int, is_same_object: bool) -> bool:
        """Whether a name has at statement `since` what it has at statement `last`: its object, and what is in that."""
        symbol = name.symbol
        if not symbol.is_module_level:
            return True
        between = self.statements[since:last]
        if any(symbol in self.effects.of_statement(statement).rebinds for statement in between):
            return False
        if is_same_object or symbol in self.plain:
            return True
        return not any(symbol in Alterations.of(self.module).during(statement) for statement in between)

    def _is_pure(self, statement: Statement, value: Value) -> bool:
        """Whether working a value out has no effect, and needs nothing but what its names hold."""
        if value.shape in _PURE:
            return not value.has_operations or self.plain.is_operation_quiet(statement, value)
        return False

    def _is_still(self, statement: Statement) -> bool:
        """Whether a statement does nothing that could be told from outside."""
        if statement.kind in _STILL or statement is self.module.doc:
            return True
        if statement.kind is Kind.IMPORT:
            return not imports_noticeably(self.module, statement)
        if statement.kind is Kind.ROUTINE:
            return not statement.calls and not statement.decorators
        pairs = _pairs(statement)
        return bool(pairs) and all(self._is_pure(statement, pair.value) for pair in pairs)

    def _may_be_split(self, statement: Statement, here: Sequence[InitialValue]) -> bool:
        """Whether the moved names can be taken out of their assignment."""
        pairs = _pairs(statement)
        if not here or not self.layout.stands_alone(statement):
            return False
        return len(here) == len(pairs) or all(pair.value.shape in _PURE for pair in pairs)


def _pairs(statement: Statement) -> Sequence[Pair]:
    if statement.kind is not Kind.ASSIGN or statement.assignment is None:
        return ()
    return statement.assignment.pairs


def _index_of(reference: Reference) -> int:
    if reference.form is Form.STAR or reference.statement is None:
        return -1
    return reference.statement.outermost.index
