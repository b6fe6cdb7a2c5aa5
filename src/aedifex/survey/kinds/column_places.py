"""Whether what columns are asked for is certainly there, in a language where a list says nothing of an end passed."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from functools import cached_property
from itertools import takewhile

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import is_settled, only_value
from aedifex.program.model.expressions import Expression, Operator, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Leave, ParameterKind, Routine, Statement, call_of
from aedifex.survey.kinds.counted_loops import CountedLoop, counted_loop
from aedifex.survey.kinds.spread_lists import count_of

_OUT = frozenset({Leave.RETURN, Leave.RAISE})
_OUT_OF_LOOP = frozenset({Leave.BREAK})
_WAITING = frozenset({Leave.AWAIT, Leave.YIELD})
_DEEPEST = 6


class ColumnPlaces:
    """Tells which numbers certainly lead to an element of some lists of one length.

    A number is one where a loop counts up to the length, or down from it, or where a function is only ever given such
    numbers; and where the lists cannot have become shorter, or the number another, since the loop compared them. Up to
    a fixed number a loop may count where the lists have so many elements from the begin, or get them before anything
    asks for one, and never have fewer.

    `shorter` are the statements that may take elements away, `one_less` those of them that take just one; `filling` are
    those that add one, and `asking` those that ask for one; `begin` is how many there are at first.
    """

    def __init__(
        self,
        module: Module,
        columns: Sequence[Symbol],
        shorter: Collection[Statement],
        one_less: Collection[Statement],
        filling: Collection[Statement],
        asking: Collection[Expression],
        begin: int,
    ) -> None:
        self.module = module
        self.columns = frozenset(columns)
        self.shorter = frozenset(shorter)
        self.one_less = frozenset(one_less)
        self.filling = filling
        self.parts = asking
        self.asking = frozenset(part.statement for part in asking if part.statement is not None)
        self.begin = begin
        self.effects = Effects.of(module)
        self.surroundings = Surroundings.of(module)
        self._asked: dict[Symbol, bool] = {}

    def is_there(self, part: Expression) -> bool:
        """Whether what is asked for is an element, and no end was passed."""
        number = part.parts[1]
        if number.sense is Sense.CONSTANT:
            text = self._says(number)
            return not self.shorter and text.isdigit() and int(text) < self.begin
        if number.operator in (Operator.PLUS, Operator.MINUS) and len(number.parts) == 2:
            return self._is_place_beside(number)
        if number.sense is not Sense.NAME or number.reference is None:
            return False
        return self._is_place(number.reference)

    @cached_property
    def fixed_count(self) -> int | None:
        """So many elements there are whenever one is asked for; None where that cannot be told."""
        if self.shorter:
            return None
        counts = [self._filled_up_to(statement) for statement in self.filling]
        return max([self.begin, *(count for count in counts if count is not None)])

    def _says(self, expression: Expression) -> str:
        return self.module.source.slice(expression.span)

    # -- numbers

    def _is_place(self, use: Reference) -> bool:
        """Whether a name is a number that leads to an element, where it is used."""
        loop, inner = self._loop_of(use)
        if loop is not None:
            is_own = not any(r.scope.is_apart_from(loop.counter.scope) for r in self._sets(loop))
            is_inside = is_own and self._stays_inside(loop)
            return is_inside and not self._is_broken(use, loop.statement.blocks, inner)
        routine = use.symbol.scope.routine
        if not isinstance(routine, Function) or use.scope.is_apart_from(routine.scope):
            return False
        number = next((n for n, p in enumerate(routine.parameters) if p.reference.symbol is use.symbol), None)
        if number is None or self._is_broken(use, [routine.body], self._loops_around(use)):
            return False
        return self._gets_places(routine, number)

    def _is_place_beside(self, number: Expression) -> bool:
        """Whether a number so and so far before what a loop counts, or behind it, leads to an element."""
        name, distance = number.parts
        far = self._says(distance)
        if name.sense is not Sense.NAME or name.reference is None or not far.isdigit():
            return False
        loop, _ = self._loop_of(name.reference)
        if loop is None or self._sets(loop) or not self._is_place(name.reference):
            return False
        if number.operator is Operator.MINUS:
            return self._least(loop) >= int(far)
        limit = loop.test.parts[1]
        less = limit.parts[1] if limit.operator is Operator.MINUS and self._is_length(limit.parts[0]) else None
        said = self._says(less) if less is not None else ""
        return loop.goes_up and loop.test.operator is Operator.LESS and said.isdigit() and int(said) >= int(far)

    def _least(self, loop: CountedLoop) -> int:
        """The least that a counter is in a turn, where only the loop's header sets it."""
        said = self._says(loop.first if loop.goes_up else loop.test.parts[1])
        if not said.isdigit():
            return 0
        return int(said) + (not loop.goes_up and loop.test.operator is Operator.MORE)

    def _gets_places(self, routine: Function, number: int) -> bool:
        """Whether a function is only called by the program, and always with a number that leads to an element."""
        parameter = routine.parameters[number]
        symbol = parameter.reference.symbol
        if symbol in self._asked:
            return self._asked[symbol]
        self._asked[symbol] = False  # what depends on itself is not known
        is_plain = parameter.kind is ParameterKind.PLAIN and parameter.default is None
        is_set = any(r.mode.writes for r in symbol.references if r is not parameter.reference)
        uses = [r for r in routine.symbol.references if r is not routine.named]
        calls = [call_of(use) if not use.path else None for use in uses]
        is_free = routine.is_method or routine.is_called_from_outside or routine.is_generator
        if not is_plain or is_set or is_free or not calls:
            return False
        for call in calls:
            if call is None or len(call.arguments) <= number or any(a.stars or a.keyword for a in call.arguments):
                return False
            given = self.surroundings.by_span.get(call.arguments[number].span)
            if given is None or given.sense is not Sense.NAME or given.reference is None:
                return False
            if not self._is_place(given.reference):
                return False
        self._asked[symbol] = True
        return True

    def _loop_of(self, use: Reference) -> tuple[CountedLoop | None, list[Statement]]:
        """The loop that counts by a name around its use, and the loops in between."""
        passed: list[Statement] = []
        for loop in self._loops_around(use):
            counted = counted_loop(self.module, loop)
            if counted is not None and counted.counter is use.symbol:
                is_same_turn = use.start >= loop.header_end and not use.scope.is_apart_from(use.symbol.scope)
                return (counted if is_same_turn else None), passed
            passed.append(loop)
        return None, passed

    def _loops_around(self, use: Reference) -> list[Statement]:
        """The loops in whose bodies a name is used, the innermost first, within its routine."""
        found: list[Statement] = []
        block = use.statement.block if use.statement is not None else None
        while block is not None and block.routine is None and block.owner is not None:
            if block.owner.is_loop:
                found.append(block.owner)
            block = block.owner.block
        return found

    def _stays_inside(self, loop: CountedLoop) -> bool:
        """Whether a counter leads to an element at the begin of each turn."""
        if loop.goes_up:
            return self._is_from_nought(loop.first) and self._keeps_going_up(loop) and self._ends_in_time(loop)
        return self._stops_at_nought(loop) and self._is_last(loop.first) and self._goes_ahead(loop)

    def _stops_at_nought(self, loop: CountedLoop) -> bool:
        written = self._says(loop.test.parts[1])
        if loop.test.operator is Operator.AT_LEAST:
            return written.isdigit()
        return loop.test.operator is Operator.MORE and (written == "-1" or written.isdigit())

    def _is_from_nought(self, first: Expression) -> bool:
        """Whether a number is nought or more: written out, or one that another loop counts, and perhaps some more."""
        if first.operator is Operator.PLUS and len(first.parts) == 2:
            return all(map(self._is_from_nought, first.parts))
        if first.sense is Sense.CONSTANT:
            return self._says(first).isdigit()
        if first.sense is not Sense.NAME or first.reference is None:
            return False
        loop, _ = self._loop_of(first.reference)
        if loop is None or self._sets(loop):
            return False
        return self._is_from_nought(loop.first) if loop.goes_up else self._stops_at_nought(loop)

    def _sets(self, loop: CountedLoop) -> list[Reference]:
        """What sets the counter of a loop elsewhere than in its header."""
        return [use for use in loop.uses if use.mode.writes]

    def _keeps_going_up(self, loop: CountedLoop) -> bool:
        """Whether a counter is never below nought: its turns set it back by one at most, and then it goes up again."""
        running = self.effects.may_run_at_once_in(loop.statement)
        if any(loop.counter in self.effects.transitive[routine].writes for routine in running):
            return False
        back = [r for r in self._sets(loop) if not self._is_step(r, Operator.PLUS)]
        return not back or (
            len(back) == 1
            and self._is_step(back[0], Operator.MINUS)
            and self._loops_around(back[0])[0] is loop.statement
        )

    def _is_step(self, setting: Reference, operator: Operator) -> bool:
        """Whether a counter is set one further, or one back."""
        used = self.surroundings.of_reference(setting)
        step = self.surroundings.around(used) if used is not None else None
        is_update = step is not None and step.sense is Sense.UPDATE and step.operator is operator
        return step is not None and is_update and self._says(step.parts[1]) in ("1", "++", "--")

    def _ends_in_time(self, loop: CountedLoop) -> bool:
        """Whether a loop that counts up ends before the lists do."""
        limit = loop.test.parts[1]
        if loop.test.operator is Operator.AT_MOST:
            return self._is_last(limit)
        if loop.test.operator is not Operator.LESS:
            return False
        most, count = count_of(self.module, limit), self.fixed_count
        is_before = limit.operator is Operator.MINUS and self._is_length(limit.parts[0])
        if is_before and self._says(limit.parts[1]).isdigit():
            return True
        return self._is_length(limit) or (most is not None and count is not None and most <= count)

    def _is_length(self, limit: Expression) -> bool:
        symbol = limit.reference.symbol if limit.sense is Sense.NAME and limit.reference is not None else None
        if symbol is not None and not self.shorter and is_settled(symbol):
            only = only_value(symbol)
            written = self.surroundings.by_span.get(only.value.span) if only is not None else None
            return written is not None and written.sense is Sense.MEMBER and self._is_length(written)
        is_count = limit.sense is Sense.MEMBER and limit.name == self.module.dialect.library.count_member
        return is_count and any(is_named(limit.parts[0], column) for column in self.columns)

    def _is_last(self, value: Expression) -> bool:
        """Whether a value is one less than the length of the lists."""
        is_less = value.operator is Operator.MINUS and len(value.parts) == 2
        return is_less and self._is_length(value.parts[0]) and self._says(value.parts[1]) == "1"

    def _goes_ahead(self, loop: CountedLoop) -> bool:
        """Whether a counter that goes down keeps ahead of the end: no turn takes more than one element away."""
        if self._sets(loop):
            return False
        if any(s not in self.one_less for s in self._breaking(loop.statement.blocks, loop.counter)):
            return False
        rows = [s for s in loop.statement.walk() if s in self.one_less]
        if not rows:
            return True
        owner = rows[0].block.owner
        while owner is not None and not owner.is_loop:
            owner = owner.block.owner
        return owner is loop.statement and len({s.block for s in rows}) == 1 and len(rows) <= len(self.columns)

    # -- what comes in between

    def _is_broken(self, use: Reference, blocks: Sequence[Block], inner: Sequence[Statement]) -> bool:
        """Whether the lists may be shorter, or the number another, where it is used than where it was compared."""
        for statement in self._breaking(blocks, use.symbol):
            again = next((loop for loop in reversed(inner) if loop.start <= statement.start < loop.end), None)
            if statement is use.statement or (again is not None and not self._leaves(statement, again)):
                return True
            if statement.start < use.start and not self._is_elsewhere(statement, use, blocks):
                return True
        return False

    def _breaking(self, blocks: Sequence[Block], counter: Symbol) -> Iterator[Statement]:
        """The statements in some blocks that may shorten the lists, set a counter, or let other code run."""
        for block in blocks:
            for statement in block.walk():
                running = self.effects.run_at_once(statement)
                is_set = any(r.symbol is counter and r.mode.writes for r in statement.references)
                is_set = is_set or any(counter in self.effects.transitive[routine].writes for routine in running)
                waits = not _WAITING.isdisjoint(statement.leaves)
                inside = any(statement.start <= routine.scope.start < statement.end for routine in self._shortening)
                if statement in self.shorter or is_set or waits or inside or self._shortening & running:
                    yield statement

    @cached_property
    def _shortening(self) -> set[Routine]:
        """The routines that take elements away themselves."""
        return {routine for s in self.shorter if (routine := s.block.routine_around) is not None}

    def _is_elsewhere(self, statement: Statement, use: Reference, blocks: Sequence[Block]) -> bool:
        """Whether control that has gone through a statement never comes to a use below it in the same turn."""
        between = list(takewhile(lambda block: not block.start <= use.start < block.end, statement.block.outwards()))
        if any(map(_is_guarded, between)):
            return False
        for block in between:
            if _ends_with(block, {*_OUT, *self._steering(block, blocks)}):
                return True
            if block.owner is None or block.routine is not None:
                return False
            is_choice = block.owner.kind in (Kind.BRANCH, Kind.CHOICE) and not block.falls_through
            if is_choice and block.owner.start <= use.start < block.owner.end:
                return True
        return False

    @staticmethod
    def _steering(block: Block, blocks: Sequence[Block]) -> set[Leave]:
        """The ways of leaving a block that lead out of this turn of the loop that has some blocks."""
        for outer in block.outwards():
            if outer in blocks:
                return {Leave.BREAK, Leave.CONTINUE} if outer.owner is not None and outer.owner.is_loop else set()
            if outer.owner is None or outer.owner.is_loop or outer.owner.ends_at_break:
                return set()
        return set()

    def _leaves(self, statement: Statement, loop: Statement) -> bool:
        """Whether control that has gone through a statement surely leaves a loop around it."""
        inside = list(takewhile(lambda block: block.start >= loop.start, statement.block.outwards()))
        if any(map(_is_guarded, inside)):
            return False
        ways = {block: {*_OUT, *(self._steering(block, loop.blocks) & _OUT_OF_LOOP)} for block in inside}
        return any(_ends_with(block, ways[block]) for block in inside)

    # -- lists that are filled before

    def _filled_up_to(self, statement: Statement) -> int | None:
        """How many elements a loop adds that has run before anything asks for one; None where that is not sure."""
        loop = self._filling(statement)
        if loop is None or loop.test.operator is not Operator.LESS or not self._asks_for_filled(loop, statement):
            return None
        return count_of(self.module, loop.test.parts[1]) if self._runs_first(loop.statement) else None

    def fills(self, statement: Statement) -> bool:
        """Whether what puts something at a place does so for one place after the other, from the first."""
        loop = self._filling(statement)
        asked = [part for tree in self.surroundings.by_statement[statement] for part in tree.parts]
        places = [part.parts[1] for part in asked if part.sense is Sense.PART]
        return loop is not None and any(is_named(place, loop.counter) for place in places)

    def _filling(self, statement: Statement) -> CountedLoop | None:
        """The loop that carries a statement out in each turn, counts up from nought and goes all its way."""
        owner = statement.block.owner
        loop = counted_loop(self.module, owner) if owner is not None else None
        if loop is None or not loop.goes_up or self._says(loop.first) != "0":
            return None
        leaves = any(inner.leaves for inner in loop.statement.walk())
        return None if leaves or any(self._breaking(loop.statement.blocks, loop.counter)) else loop

    def _asks_for_filled(self, loop: CountedLoop, statement: Statement) -> bool:
        """Whether a loop that fills the lists asks them only for what it has put there."""
        own = [p for p in self.parts if loop.statement.start <= p.start < loop.statement.end]
        is_filled = all(p.start > statement.end and is_named(p.parts[1], loop.counter) for p in own)
        return is_filled and not self._asking & self.effects.may_run_at_once_in(loop.statement)

    def _runs_first(self, statement: Statement, depth: int = 0) -> bool:
        """Whether a statement is carried out, as a whole, before anything asks the lists for an element."""
        routine, module = statement.block.routine_around, self.module
        if routine is None:
            if statement.block is not module.block:
                return False
            above = module.block.statements[: statement.index]
            return not any(self._asking & self.effects.may_run_during(s) or self._asks_itself(s) for s in above)
        if not isinstance(routine, Function) or statement.block is not routine.body or depth > _DEEPEST:
            return False
        above = routine.body.statements[: statement.index]
        for before in above:
            leaves = any(inner.leaves for inner in before.walk())
            if leaves or self._asks_itself(before) or self._asking & self.effects.may_run_at_once_in(before):
                return False
        if module.dialect.rules.runs_first(module, routine):
            return not any(self._asking & self.effects.may_run_during(s) for s in module.block.statements)
        uses = [r for r in routine.symbol.references if r is not routine.named]
        calls = [s for r in uses if (s := r.statement) is not None and any(c.callee is r for c in s.calls)]
        return any(c.kind is Kind.EXPRESSION and self._runs_first(c, depth + 1) for c in calls)

    @cached_property
    def _asking(self) -> set[Routine]:
        """The routines that ask the lists for an element."""
        return {routine for statement in self.asking if (routine := statement.block.routine_around) is not None}

    def _asks_itself(self, statement: Statement) -> bool:
        return any(inner in self.asking for inner in statement.walk())


def _is_guarded(block: Block) -> bool:
    """Whether what stands beside a block may run when it is left, however it is."""
    return block.owner is not None and block.owner.kind in (Kind.GUARDED, Kind.RESOURCE)


def _ends_with(block: Block, ways: Collection[Leave]) -> bool:
    """Whether a block always ends by leaving in one of some ways."""
    last = block.statements[-1] if block.statements else None
    is_leave = last is not None and last.kind is Kind.LEAVE and not last.leaves_label
    return is_leave and last is not None and bool(last.leaves) and last.leaves <= set(ways)
