"""What a run of statements needs from where it stands, and what it hands back, if it becomes a function."""

from __future__ import annotations

from collections.abc import Iterable, Sequence, Set
from functools import cached_property

from aedifex.moves.kit.control_exits import ControlExits
from aedifex.program.analysis.definite_assignment import certainly_assigns
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import Flow, reads, writes
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Statement
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.own_names import uses_own
from aedifex.source.text import Span

_MOST_HANDED_OUT = 3


class Handover:
    """The names that go in and out of a run of statements of a function, or of the main code.

    `owned` are variables that stay shared, because a class is to have them. What stands in the places that are
    `passed` is worked out before, and needs nothing.
    """

    def __init__(
        self,
        module: Module,
        function: Function | None,
        run: Sequence[Statement],
        owned: Set[str],
        exits: ControlExits,
        passed: Sequence[Span] = (),
    ) -> None:
        self.module = module
        self.function = function
        self.run = run
        self.owned = owned
        self.exits = exits
        self.scope = function.scope if function is not None else module.scope
        self.flow = Flow(module, function)
        self.span = Span(run[0].start, run[-1].end)
        self.passed = passed

    @cached_property
    def references(self) -> list[Reference]:
        """The names in the run but for those in what is passed."""
        found = self.module.references_within(self.span)
        return [r for r in found if not any(span.holds(r.span) for span in self.passed)]

    @cached_property
    def own(self) -> set[Symbol]:
        """The names of the routine that the run uses; of the main code those that nobody else does, and `begun`."""
        used = {r.symbol for r in self.references if r.symbol.scope.frame is self.scope}
        if self.function is not None:
            return used
        passing = set(MainCode.of(self.module).locals)
        return {s for s in used if s in passing and s.name not in self.owned} | self.begun

    @cached_property
    def declared(self) -> set[Symbol]:
        """The names of the routine that the run declares."""
        return {r.symbol for r in self.references if r.declares and r.symbol.scope.frame is self.scope}

    @cached_property
    def undeclared(self) -> list[Symbol]:
        """What the run gives values to, and neither declares nor is given: for the new routine to declare."""
        if not self.module.dialect.writer.declares:
            return []
        known = {*self.inputs, *self.declared}
        return self._in_order(s for s in writes(self.run) if s in self.own and s not in known)

    @cached_property
    def begun(self) -> set[Symbol]:
        """The shared variables that set-up statements give their first value, and so can hand out; none of many."""
        main = MainCode.of(self.module)
        if self.function is not None or self.run[0] not in main.set_up:
            return set()
        effects = Effects.of(self.module)
        running = {routine for statement in self.run for routine in effects.may_run_during(statement)}
        seen = {symbol for routine in running for symbol in effects.direct[routine].touches}
        fields = set(main.fields) - seen
        begun = {s for s in fields if s.name not in self.owned and self._is_begun(s)}
        return begun if len(begun) <= _MOST_HANDED_OUT else set()

    def _is_begun(self, symbol: Symbol) -> bool:
        """Whether nothing of the main code has to do with a variable before the run surely sets it."""
        first = min((r for r in symbol.references if r.scope is self.scope), key=lambda r: r.start, default=None)
        statement = first.statement if first is not None else None
        if statement is None or statement not in self.run or self.module.is_known_outside(symbol.name):
            return False
        here = [r for r in statement.references if r.symbol is symbol]
        return statement.kind is Kind.ASSIGN and all(r.mode is Mode.WRITE and not r.path for r in here)

    @cached_property
    def outputs(self) -> list[Symbol]:
        """What the run sets and is looked at afterwards."""
        after = self.flow.live_after(self.run[-1]) | self._live_outside | self.begun
        return self._in_order(s for s in writes(self.run) if s in self.own and s in after and not self.takes_along(s))

    def takes_along(self, symbol: Symbol) -> bool:
        """Whether the run declares a name anew each time, and nothing else mentions it."""
        is_early = self.module.dialect.rules.is_there_early(self.module, symbol)
        is_inside = all(self.span.start <= r.start < self.span.end for r in symbol.references)
        return symbol in self.declared and is_inside and not is_early

    @property
    def _live_outside(self) -> frozenset[Symbol]:
        """What is looked at where control goes that leaves the run before its end."""
        loop = self.run[0].block.owner
        while loop is not None and not loop.is_loop:
            loop = loop.block.owner if loop.block.routine is None else None
        if loop is None or self.exits == ControlExits():
            return frozenset()
        return self.flow.live_after(loop) | self.flow.live_before(loop)

    @cached_property
    def inputs(self) -> list[Symbol]:
        """What the run needs from before it: what it reads, and what it may leave as it was."""
        before = self.flow.live_before(self.run[0])
        read = {r.symbol for r in self.references if r.mode.reads or r.path}
        needed = {s for s in read & reads(self.run) if s in self.own and s in before and not self.takes_along(s)}
        needed |= {s for s in self.outputs if not certainly_assigns(self.run, s)}
        needed |= {s for s in read & self.own if self._is_kept(s)}
        return self._in_order(needed - self.begun)

    def is_settled(self, symbol: Symbol) -> bool:
        """Whether a name gets its only value above the run; what is given may have two names, and so two."""
        is_given = any(reference.form is Form.PARAMETER for reference in symbol.bindings)
        if is_given and self.function is not None and uses_own(self.function):
            return False
        is_early = all(r.start < self.span.start or r.form is Form.ROUTINE for r in symbol.bindings)
        return len(symbol.bindings) == 1 and is_early

    def _is_kept(self, symbol: Symbol) -> bool:
        """Whether code inside the run keeps a name that is settled, in a language that declares names."""
        is_used_later = any(r.symbol is symbol and r.scope.is_apart_from(self.scope) for r in self.references)
        return bool(self.module.dialect.writer.declares) and is_used_later and self.is_settled(symbol)

    @cached_property
    def shared(self) -> list[Symbol]:
        """The module variables that the run gives other values to."""
        set_here = {r.symbol for r in self.module.references_within(self.span) if r.mode.writes}
        return self._in_order(s for s in set_here if s.is_module_level and s not in self.own)

    def _in_order(self, symbols: Iterable[Symbol]) -> list[Symbol]:
        return sorted(symbols, key=lambda symbol: symbol.references[0].start)


def run_on_lines(module: Module, routine: Function | None, first: int, last: int) -> list[Statement]:
    """The statements side by side that fill these lines; empty where lines cut through one."""
    block: Block | None = routine.body if routine is not None else module.block
    while block is not None:
        here = [s for s in block.statements if _lines(module, s)[1] >= first and _lines(module, s)[0] <= last]
        if not here:
            return []
        if all(first <= _lines(module, s)[0] and _lines(module, s)[1] <= last for s in here):
            return here
        is_below_heading = len(here) == 1 and first > _lines(module, here[0])[0]
        inner = here[0].blocks if is_below_heading else []
        block = next((b for b in inner if b.routine is None and _holds(module, b, first, last)), None)
    return []


def _holds(module: Module, block: Block, first: int, last: int) -> bool:
    begin, end = _lines(module, block.statements[0])[0], _lines(module, block.statements[-1])[1]
    return begin <= last and first <= end


def _lines(module: Module, statement: Statement) -> tuple[int, int]:
    return module.source.lines_of(statement.span)
