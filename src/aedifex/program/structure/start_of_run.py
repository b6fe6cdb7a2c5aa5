"""Where the set-up of a program ends and its run begins."""

from __future__ import annotations

from collections.abc import Sequence

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.talk import Talk
from aedifex.program.analysis.values import is_plainly_made, references_in
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Symbol
from aedifex.program.model.statements import Kind, Routine, Statement, final_name
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.state import is_state, is_used_in_routine

_LONG_LOOP = 8
_MANY_TOLD = 4
_FEWEST_CALLS = 2
_AROUND = frozenset({Kind.GUARDED, Kind.RESOURCE, Kind.BRANCH})


class StartOfRun:
    """Looks for the first of the main code's statements that runs the program: mostly its main loop.

    Without a loop that is what is guarded, what hands the program over to a library, or what follows the last first
    value of a shared variable.
    """

    def __init__(self, module: Module, statements: Sequence[Statement]) -> None:
        self.module = module
        self.statements = statements
        self.effects = Effects.of(module)

    @property
    def index(self) -> int:
        """The number of the statement with which the run begins."""
        loop = self.loop
        if loop is not None and not self._waits_for_events(loop):
            return self._with_announcements(self._start_of_section(self.statements.index(loop)))
        if self.module.guard is not None:
            return self.statements.index(self.module.guard.blocks[0].statements[0])
        for index, statement in enumerate(self.statements):
            if self._hands_over(statement):
                start = self._with_starts(index)
                is_told = self._waits_for_events(statement)
                return self._with_announcements(min(start, self._behind_first_values) if is_told else start)
        last = self._behind_first_values
        if last == len(self.statements) and not any(s.calls for s in self.statements[-1:]):
            return last  # it only gives first values: nothing runs
        return min(last, len(self.statements) - 1)

    def _waits_for_events(self, statement: Statement) -> bool:
        """Whether it has been said, in a statement or above it, what is to be done on events: these run it all then."""
        return waits_for_events(self.module, self.statements[: self.statements.index(statement) + 1])

    @property
    def _behind_first_values(self) -> int:
        """The number of the statement behind the last that gives a shared variable its first value.

        So does one that gives it another before anything was done.
        """
        last, is_running = 0, False
        bound: set[Symbol] = set()
        for index, statement in enumerate(self.statements):
            given = {r.symbol for r in statement.references if r.mode.writes}
            if self._binds_shared(statement) and not (is_running and given <= bound):
                last = index + 1
            bound |= given
            is_running = is_running or self._calls_own(statement)
        return last

    def _calls_own(self, statement: Statement) -> bool:
        """Whether a statement does nothing but call a function of the script."""
        called = next((call.callee for call in statement.calls if call.span == statement.deed), None)
        return statement.kind is Kind.EXPRESSION and called is not None and Form.ROUTINE in called.symbol.forms

    @property
    def loop(self) -> Statement | None:
        """The longest loop; one that only prepares first values gives way to a longer one behind them.

        One that lets things take their turns comes before one that is only long. A loop over things is none where more
        first values, or the main loop of a library, come behind it.
        """
        each = [s for s in self.statements if s.kind is Kind.EACH]
        loops = [s for s in self.statements if holds_loop(s)]
        loops = loops or list(filter(self._takes_turns, each)) or list(filter(self._is_long, each))
        longest = max(loops, key=_length, default=None)
        if longest is None:
            return None
        last = max((n for n, s in enumerate(self.statements) if self._binds_shared(s)), default=-1)
        index = self.statements.index(longest)
        is_prepared_for = longest.kind is Kind.EACH and any(map(self._hands_over, self.statements[index + 1 :]))
        if index > last and not is_prepared_for:
            return longest
        behind = [s for s in self.statements[last + 1 :] if s.is_loop and s is not longest]
        is_loop = longest.kind is not Kind.EACH
        return max([*([longest] if is_loop else []), *behind], key=_length, default=None)

    def _with_starts(self, start: int) -> int:
        """A start with the own functions that are called right before it, given nothing: they set things going.

        What gives variables their first values sets them up instead.
        """
        while start > 0 and self._starter(start - 1) is not None:
            start -= 1
        return start

    def _starter(self, index: int, *, may_be_given: bool = False) -> Routine | None:
        """The routine of the script that a statement only calls, if that is given nothing and sets nothing up."""
        statement = self.statements[index]
        is_alone = len(statement.calls) == 1 and (may_be_given or not statement.calls[0].arguments)
        callee = statement.calls[0].callee if is_alone else None
        own = {routine.name: routine for routine in self.module.routines}
        routine = own.get(final_name(callee))
        if statement.kind is not Kind.EXPRESSION or routine is None:
            return None
        sets_up = any(not self._is_set_before(symbol, index) for symbol in self.effects.transitive[routine].rebinds)
        return None if sets_up else routine

    def _is_set_before(self, symbol: Symbol, index: int) -> bool:
        """Whether the main code sets a variable before one of its statements."""
        earlier = set(self.statements[:index])
        written = (r for r in symbol.references if r.mode.writes and r.scope is self.module.scope)
        return any(r.statement is not None and r.statement.outermost in earlier for r in written)

    def _hands_over(self, statement: Statement) -> bool:
        """Whether a statement hands the program over to the main loop of a library."""
        is_main_loop = self.module.dialect.library.is_main_loop
        whole = [call for call in statement.calls if call.span == statement.deed]
        return statement.kind is Kind.EXPRESSION and any(is_main_loop(final_name(call.callee)) for call in whole)

    def _takes_turns(self, statement: Statement) -> bool:
        """Whether a loop tells all of some things that were there before it to do something, again and again.

        Or it only calls functions of the script, of which one uses what was there.
        """
        if self._only_calls(statement):
            return True
        for inner in (s for s in statement.walk() if s.kind is Kind.EACH and s is not statement):
            held = [r.symbol for r in inner.references if not r.binds and is_state(r.symbol)]
            is_older = any(
                symbol.is_module_level and not any(statement.start <= r.start < statement.end for r in symbol.bindings)
                for symbol in held
            )
            things = {r.symbol for r in inner.references if r.form is Form.LOOP}
            body = (r for s in inner.blocks[0].walk() for r in s.references if r.symbol in things)
            if is_older and any(
                r.path_mode is not None and (r.path_mode.writes or r.path_mode is Mode.CALL) for r in body
            ):
                return True
        return False

    def _only_calls(self, loop: Statement) -> bool:
        """Whether each statement of a loop calls a function of the script, and one of them uses variables of it."""
        body = loop.blocks[0].statements
        routines = [routine for s in body for routine in self.effects.may_run_during(s)]
        uses_state = any(map(is_state, (s for r in routines for s in self.effects.transitive[r].touches)))
        return len(body) >= _FEWEST_CALLS and uses_state and all(self._tells(s, loop) for s in body)

    def _is_long(self, statement: Statement) -> bool:
        """Whether a loop has many lines, converses with the user, or tells what was there before it several things."""
        first, last = self.module.source.lines_of(statement.span)
        return (
            last - first >= _LONG_LOOP
            or self._converses(statement)
            or sum(self._tells(s, statement) for s in statement.walk()) >= _MANY_TOLD
        )

    def _converses(self, statement: Statement) -> bool:
        """Whether a loop asks for a typed line and says something of it."""
        library = self.module.dialect.library
        outside = self.module.outside.symbols
        asks, says = (outside.get(name) for name in (library.asks, library.says))
        used = {r.symbol for inner in statement.walk() for r in inner.references}
        return asks in used and says in used

    def _tells(self, statement: Statement, loop: Statement) -> bool:
        """Whether a statement is a call of a function of the script, or of a method of what no loop has made."""
        called = next((call.callee for call in statement.calls if call.span == statement.deed), None)
        if called is None or not called.symbol.is_module_level:
            return False
        is_made_here = any(loop.start <= r.start < loop.end for r in called.symbol.bindings)
        is_own = Form.ROUTINE in called.symbol.forms or (bool(called.path) and is_state(called.symbol))
        return is_own and not is_made_here

    def _start_of_section(self, loop: int) -> int:
        """Where the section of the main loop begins, if all that stands in it before the loop is of the loop alone."""
        layout = Layout.of(self.module)
        for index in range(loop, -1, -1):
            statement = self.statements[index]
            if index < loop and (
                statement.block is not self.statements[loop].block
                or not (self._only_prints(statement) or statement.kind is Kind.ASSIGN)
                or self._sets_state(statement, self.statements[loop])
            ):
                return loop
            if layout.heading(statement) is not None:
                return index
        return loop

    def _with_announcements(self, start: int) -> int:
        """A start with what is said right before it: that is said when the program runs, not when it is made."""
        block = self.statements[start].block
        while start > 0 and self.announces(start - 1) and self.statements[start - 1].block is block:
            start -= 1
        return start

    def announces(self, index: int) -> bool:
        """Whether a statement prints, asks, begins chance anew or waits, or calls an own function that prints.

        One that sets something up announces nothing.
        """
        routine = self._starter(index, may_be_given=True)
        talks = routine is not None and routine in Talk.of(self.module).speakers
        statement = self.statements[index]
        return self._only_prints(statement) or self._only_asks(statement) or self._sets_scene(statement) or talks

    def _sets_scene(self, statement: Statement) -> bool:
        """Whether a statement only calls a function of a library that prepares what surrounds the program."""
        whole = next((c.callee for c in statement.calls if c.span == statement.deed), None)
        if whole is None or whole.symbol.imported is None or len(statement.calls) > 1:
            return False
        module, name = whole.symbol.imported
        return self.module.dialect.library.sets_scene(module, name or final_name(whole))

    def _only_prints(self, statement: Statement) -> bool:
        calls = [call.callee for call in statement.calls]
        is_saying = [c is not None and not c.path and c.name == self.module.dialect.library.says for c in calls]
        return statement.kind is Kind.EXPRESSION and is_saying == [True]

    def _only_asks(self, statement: Statement) -> bool:
        """Whether a statement only keeps what the user types, where no routine needs it."""
        pairs = statement.assignment.pairs if statement.assignment is not None else ()
        if statement.kind is not Kind.ASSIGN or len(pairs) != 1 or pairs[0].target.path:
            return False
        used = references_in(statement, pairs[0].value)
        asks = self.module.dialect.library.asks
        return (
            any(r.name == asks for r in used)
            and is_plainly_made(self.module, used)
            and not is_used_in_routine(pairs[0].target.symbol)
        )

    def _sets_state(self, statement: Statement, loop: Statement) -> bool:
        """Whether a statement gives a value to something that a routine uses, or that the loop changes."""
        if self._binds_shared(statement):
            return True
        changed = {r.symbol for inner in loop.walk() for r in inner.references if r.mode.writes}
        return statement.kind is Kind.ASSIGN and any(
            r.mode.writes and r.symbol in changed for r in statement.references
        )

    def _binds_shared(self, statement: Statement) -> bool:
        """Whether a statement gives a value to something that a routine uses, or that is found from outside."""
        if statement.kind is not Kind.ASSIGN:
            return False
        given = {reference.symbol for reference in statement.references if reference.mode.writes}
        return any(is_used_in_routine(symbol) or self.module.is_known_outside(symbol.name) for symbol in given)


def holds_loop(statement: Statement) -> bool:
    """Whether a statement is a loop, or holds one that something guards, closes or decides on."""
    if statement.kind is Kind.LOOP:
        return True
    return statement.kind in _AROUND and any(inner.kind is Kind.LOOP for inner in statement.walk())


def waits_for_events(module: Module, statements: Sequence[Statement]) -> bool:
    """Whether statements say what is to be done on events, after which a program of their language goes on."""
    if not module.dialect.rules.runs_by_events:
        return False
    inner = [each for one in statements for each in one.walk()]
    told = {r.path[-1].name or "" for each in inner for r in each.references if r.path_mode is Mode.WRITE}
    told |= {final_name(call.callee) for each in inner for call in each.calls}
    return any(map(module.dialect.library.keeps_handler, told))


def _length(statement: Statement) -> int:
    return statement.end - statement.start
