"""Where there may be no object at all, although a place is for one."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.holding.holding import Holding
from aedifex.program.analysis.holding.inference import Holdings, is_written_out
from aedifex.program.analysis.holding.presence import Presence
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Scope, Symbol
from aedifex.program.model.statements import Function, Kind, Leave, Role, Routine, Statement

_WITH_DEFAULT = 3


class Absence(Analysis):
    """The variables and parameters that may hold nothing, and the routines that may give back nothing.

    It follows values from where they come from to where they go, through names, calls and what routines give back; what
    is held in containers and members may be nothing as soon as one of them may.
    """

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.holdings = Holdings.of(module)
        self.symbols: set[Symbol] = set()
        self.routines: set[Routine] = {f for f in module.all_functions if _may_run_off(f.body.statements)}
        self.stores: set[Holding] = set()
        self._flows: dict[Symbol, list[Expression]] = {}
        self._readers: dict[Symbol, Expression] = {}
        self._results: dict[Routine, list[Expression]] = {}
        self._stored: dict[Holding, list[Expression]] = {}
        self._presence = Presence(module)
        for tree in self.holdings.trees:
            for expression in tree.walk():
                self._gather(expression)
        self._follow()

    def may_be_absent(self, expression: Expression) -> bool:
        """Whether an expression may give nothing."""
        sense, reference = expression.sense, expression.reference
        if sense is Sense.NOTHING:
            return True
        if sense is Sense.NAME and reference is not None:
            return reference.symbol in self.symbols and not self._presence.is_certain(expression)
        if sense in (Sense.CHOICE, Sense.EITHER):
            return any(map(self.may_be_absent, expression.parts[int(sense is Sense.CHOICE) :]))
        if sense is Sense.CALL:
            return self._may_give_nothing(expression)
        return sense in (Sense.PART, Sense.MEMBER) and self._is_stored_absent(expression)

    def _may_give_nothing(self, call: Expression) -> bool:
        callee = self.holdings.of_expression(call.parts[0])
        if callee.routines:
            return any(routine in self.routines for routine in callee.routines)
        if callee.makers:
            return False
        name = call.parts[0].name or ""
        handling = self.module.dialect.library.handling_by_method(name)
        looks_up = handling is Handling.LOOKS_UP and len(call.parts) < _WITH_DEFAULT
        return looks_up or handling is Handling.FINDS or self._is_stored_absent(call)

    def _is_stored_absent(self, expression: Expression) -> bool:
        """Whether nothing is put anywhere from where an expression may take its value."""
        return self.holdings.of_expression(expression) in self.stores

    # -- where values go

    def _gather(self, expression: Expression) -> None:
        sense = expression.sense
        if sense in (Sense.SET, Sense.NAMED):
            for target in expression.parts[:-1]:
                self._flow(target, expression.parts[-1])
        elif sense is Sense.WALK:
            self._read(expression.parts[0])
        elif sense in (Sense.LIST, Sense.TUPLE, Sense.GROUP, Sense.EACH):
            self._store(expression.parts)
        elif sense is Sense.TABLE:
            self._store(expression.parts[1::2])
        elif sense is Sense.RECORD:
            self._store(expression.parts[1:])
        elif sense is Sense.CALL:
            self._gather_call(expression)
        elif sense is Sense.FUNCTION:
            for nameless in self.holdings.of_expression(expression).routines:
                self._results.setdefault(nameless, []).append(expression.parts[0])
                if is_written_out(expression):
                    self.routines.add(nameless)
        elif sense is Sense.RETURN and expression.parts:
            routine = self.holdings.innermost(expression.start)
            if routine is not None:
                self._results.setdefault(routine, []).append(expression.parts[0])

    def _store(self, values: Sequence[Expression]) -> None:
        for value in values:
            if value in self.holdings.known:
                self._stored.setdefault(self.holdings.of_expression(value), []).append(value)

    def _flow(self, target: Expression, value: Expression) -> None:
        if target.sense is Sense.NAME and target.reference is not None:
            self._flows.setdefault(target.reference.symbol, []).append(value)
        elif target.sense in (Sense.TUPLE, Sense.LIST):
            self._read(target)
        else:
            self._store([value])

    def _read(self, target: Expression) -> None:
        """A target that takes what is in a container."""
        for inner in target.walk():
            if inner.sense is Sense.NAME and inner.reference is not None and inner.reference.binds:
                self._readers[inner.reference.symbol] = inner

    def _gather_call(self, call: Expression) -> None:
        callee = self.holdings.of_expression(call.parts[0])
        if not callee.routines and not callee.makers:
            self._store(call.parts[1:])
        constructors = [f for scope in callee.makers for f in self._constructors(scope)]
        for routine in [*callee.routines, *constructors]:
            skipped = int(routine.receiver is not None)
            names = [p.name for p in routine.parameters]
            for number, (name, value) in enumerate(zip(call.names, call.parts[1:], strict=True)):
                at = names.index(name) if name in names else number + skipped
                if at < len(routine.parameters):
                    self._flows.setdefault(routine.parameters[at].reference.symbol, []).append(value)

    def _constructors(self, scope: Scope) -> list[Function]:
        is_constructor = self.module.dialect.rules.is_constructor
        return [f for f in self.module.all_functions if f.symbol.scope is scope and is_constructor(f.name)]

    def _follow(self) -> None:
        while True:
            found = {s for s, values in self._flows.items() if any(map(self.may_be_absent, values))}
            found |= {s for s, target in self._readers.items() if self._is_stored_absent(target)}
            gone = {r for r, values in self._results.items() if any(map(self.may_be_absent, values))}
            stores = {h for h, values in self._stored.items() if any(map(self.may_be_absent, values))}
            if found <= self.symbols and gone <= self.routines and stores <= self.stores:
                return
            self.stores |= stores
            self.symbols |= found
            self.routines |= gone


def _may_run_off(statements: Sequence[Statement]) -> bool:
    """Whether a run of statements may end without giving something back."""
    last = statements[-1] if statements else None
    if last is None:
        return True
    if last.kind is Kind.LEAVE:
        return Leave.RAISE not in last.leaves and last.returned is None
    return not _all_blocks(last, _may_run_off)


def _all_blocks(statement: Statement, may_end: Callable[[Sequence[Statement]], bool]) -> bool:
    """Whether a choice has a block for every case, and none of them may end."""
    roles = {block.role for block in statement.blocks}
    if statement.kind is not Kind.BRANCH or Role.OTHERWISE not in roles:
        return False
    return not any(may_end(block.statements) for block in statement.blocks)
