"""The main code of a script: what runs when it is started, and how it falls into set-up and run."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from functools import cached_property

from aedifex.program.analysis.alterations import Alterations
from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import Flow
from aedifex.program.analysis.plain_values import PlainValues
from aedifex.program.analysis.quiet_calls import QuietCalls
from aedifex.program.analysis.values import only_value, plainly_given
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import BRINGING, Function, Kind, Leave, Pair, Routine, Shape, Statement
from aedifex.program.structure.early_uses import may_ask_for, waits_for_call
from aedifex.program.structure.fronts import Fronts
from aedifex.program.structure.imports import imports_noticeably
from aedifex.program.structure.leaving import NOTHING_LEFT, Leaving
from aedifex.program.structure.library_parts import LibraryParts
from aedifex.program.structure.obstacles import function_obstacles
from aedifex.program.structure.own_names import routines_apart
from aedifex.program.structure.pinned_state import PinnedState
from aedifex.program.structure.routes import Routes
from aedifex.program.structure.serving import Serving
from aedifex.program.structure.start_of_run import StartOfRun
from aedifex.program.structure.state import Constants, is_state, is_used_in_routine, state
from aedifex.source.text import Span

_DEFINING = BRINGING | {Kind.ALIAS, Kind.NOTHING}
_QUIET_SHAPES = frozenset({Shape.LITERAL, Shape.COMPUTED, Shape.DISPLAY, Shape.NAME})
_LEAVING = frozenset({Leave.RETURN, Leave.AWAIT})
_PREPARING = frozenset({Kind.BRANCH, Kind.CHECK, Kind.GUARDED, Kind.EXPRESSION, Kind.ASSIGN})


class MainCode(Analysis):
    """Sorts a module's top-level statements.

    `staying` define things and stay at the top level. The others, `statements`, are what the program does; they fall
    into `set_up` and `run`: the main loop, and what follows it, runs. `leaving` says what stays besides.

    Where handlers of requests are told to an application, that is the run: the library has the main loop. What makes
    the application stays at the top level, and so does what comes last and lets it answer: the `closing`. Where a
    library finds functions by their names, these are the `closing`, and nothing is left to run.
    """

    def __init__(self, module: Module, leaving: Leaving = NOTHING_LEFT) -> None:
        self.module = module
        self.leaving = leaving
        self.effects = Effects.of(module)
        self.constants = Constants.of(module)
        self.pinned = PinnedState(module, self.constants)
        self.routes = Routes.of(module)
        self.serving = Serving.of(module)
        self.fronts = Fronts.of(module)
        self.closing = self.serving.closing or self.fronts.closing
        self._known: dict[Statement, bool] = {}

    @cached_property
    def staying(self) -> list[Statement]:
        """The statements that stay at the top level."""
        return [s for s in self.module.block.statements if self._stays(s)]

    @cached_property
    def statements(self) -> list[Statement]:
        """What the program does, the code under the guard in the guard's place."""
        found: list[Statement] = []
        for statement in self.module.block.statements:
            if statement is self.module.guard and statement not in self.closing:
                found += statement.blocks[0].statements
            elif not self._stays(statement):
                found.append(statement)
        return found

    @cached_property
    def lines(self) -> int:
        """How many lines the main code has, its comments and blank lines not counted."""
        lines: set[int] = set()
        source = self.module.source
        for statement in self.statements:
            first, last = source.lines_of(statement.span)
            lines.update(n for n in range(first, last + 1) if source.line(n).strip())
        return len(lines)

    def _stays(self, statement: Statement) -> bool:
        if statement not in self._known:
            self._known[statement] = False  # what depends on itself does not stay
            self._known[statement] = self._is_to_stay(statement)
        return self._known[statement]

    def _is_to_stay(self, statement: Statement) -> bool:
        if statement in self.leaving.statements or statement in self.leaving.inline:
            return statement in self.leaving.statements
        if statement is self.module.doc or statement.kind in _DEFINING or statement in self.closing:
            return True
        if self.fronts.only_hands_out(statement):
            return True
        if statement in self.routes.registrations:
            return False
        given = self._given_by(statement)
        if self.routes.registrations:
            makes_application = bool(given) and all(symbol in self.routes.served for symbol in given)
            stands_between = self.serving.stands_between(statement)
            return not stands_between and (makes_application or not self._has_to_do_with_moving(statement))
        if given and all(map(self._is_settled, given)):
            return True
        if statement is self.module.guard:
            return False
        return self._only_defines(statement) or self._comes_before_definitions(statement)

    def _given_by(self, statement: Statement) -> list[Symbol]:
        """The names that get a value of their own from an assignment, or are declared for one."""
        if statement.kind is Kind.DECLARE:
            return [reference.symbol for reference in statement.references if reference.declares]
        if self.constants.shares_out(statement):
            return [reference.symbol for reference in statement.references if reference.mode.writes]
        if statement.kind is not Kind.ASSIGN or statement.assignment is None:
            return []
        parts = LibraryParts.of(self.module).symbols
        given = [pair.target.symbol for pair in statement.assignment.pairs]
        return given or [r.symbol for r in statement.references if r.declares and r.symbol in parts]

    def _is_settled(self, symbol: Symbol) -> bool:
        if symbol in self.leaving.symbols or symbol in self.pinned.symbols or self.constants.settles(symbol):
            return True
        return symbol in self.routes.served or self.module.dialect.rules.is_about_file(symbol.name)

    def _has_to_do_with_moving(self, statement: Statement) -> bool:
        """Whether a statement uses state that routines use too, itself or by a routine that it names."""
        used = {r.symbol for inner in statement.walk() for r in inner.references}
        behind = {s for symbol in used for r in self.effects.routines_behind(symbol) for s in self._touched_by(r)}
        set_here = {pair.target.symbol for pair in (statement.assignment.pairs if statement.assignment else ())}
        able = {s for s in used | behind if self._moves(s) and is_used_in_routine(s)}
        return any(symbol in set_here or not self._comes_from_outside(symbol) for symbol in able)

    def _comes_from_outside(self, symbol: Symbol) -> bool:
        """Whether a variable is given once what nothing in the program makes: a routine around it is given that."""
        only = only_value(symbol)
        if only is None or only.value.shape is not Shape.NAME:
            return False
        return all(r.symbol.scope.kind is ScopeKind.OUTSIDE for r in self.module.references_within(only.value.span))

    def _touched_by(self, routine: Routine) -> Collection[Symbol]:
        return self.effects.transitive[routine].touches

    def _only_defines(self, statement: Statement) -> bool:
        """Whether a compound statement is about imports and definitions: `try: import …`, `if …: def …`."""
        inner = list(statement.walk())
        if not any(s.kind in BRINGING for s in inner) or any(s.is_loop for s in inner):
            return False
        return not any(self._moves(r.symbol) for inner in statement.walk() for r in inner.references if r.mode.reads)

    def _moves(self, symbol: Symbol) -> bool:
        """Whether a name is state that may move."""
        return symbol.is_module_level and is_state(symbol) and not self._is_settled(symbol)

    def _comes_before_definitions(self, statement: Statement) -> bool:
        """Whether a statement prepares or checks something that later imports or definitions rely on.

        It stays with them, if it depends on nothing that moves and gives names their one value only.
        """
        if statement.kind not in _PREPARING or statement.block.owner is not None:
            return False
        anchor = self._last_import
        if statement.kind is Kind.BRANCH:
            anchor = max(anchor, self._last_pinned)
        elif any(self._sets_up_process(reference) for reference in statement.references):
            imports = (s.index for s in self.module.block.statements if s.kind is Kind.IMPORT)
            anchor = max(anchor, *imports)
        if statement.index >= anchor or any(inner.is_loop for inner in statement.walk()):
            return False
        return all(self._is_free(r) for inner in statement.walk() for r in inner.references)

    def _sets_up_process(self, reference: Reference) -> bool:
        imported = reference.symbol.imported
        return imported is not None and self.module.dialect.library.is_about_process(imported.module)

    def _is_free(self, reference: Reference) -> bool:
        symbol = reference.symbol
        if not symbol.is_module_level or symbol.imported is not None or self._is_settled(symbol):
            return True
        found = only_value(symbol) if is_state(symbol) else None
        if found is None or any(r.form is Form.DECLARATION for r in symbol.references):
            return False
        return found.statement is reference.statement or self._stays(found.statement)

    @cached_property
    def _last_import(self) -> int:
        """The last top-level import that the outside world may notice."""
        return max((s.index for s in self.module.block.statements if imports_noticeably(self.module, s)), default=-1)

    @cached_property
    def _last_pinned(self) -> int:
        found = map(only_value, self.pinned.symbols)
        return max((only.statement.index for only in found if only is not None), default=-1)

    # -- set-up and run

    @cached_property
    def set_up(self) -> list[Statement]:
        """What comes before the main loop."""
        return self._set_up_and_run[0]

    @cached_property
    def run(self) -> list[Statement]:
        """The main loop and what follows it."""
        return self._set_up_and_run[1]

    @cached_property
    def _set_up_and_run(self) -> tuple[list[Statement], list[Statement]]:
        set_up, run = self._before_and_after_split
        count = len(set_up)
        while count and run and self._is_for_run(set_up[count - 1], set_up[: count - 1], run):
            count -= 1
        return set_up[:count], [*set_up[count:], *run]

    def _is_for_run(self, statement: Statement, before: list[Statement], run: list[Statement]) -> bool:
        """Whether a statement looks up what only the run needs, where that does no more than to get things going."""
        given = self._given_by(statement)
        if not self.module.dialect.rules.runs_by_events or not given or statement.start > run[0].start:
            return False
        needed = any(is_used_in_routine(symbol) or self._occurs_in(symbol, before) for symbol in given)
        is_found = any(self.module.is_known_outside(symbol.name) for symbol in given)
        return not (needed or is_found) and all(only_value(symbol) is not None for symbol in given)

    @cached_property
    def _before_and_after_split(self) -> tuple[list[Statement], list[Statement]]:
        told = self.routes.registrations
        if not told and self.fronts.found:
            return self._quiet_and_busy if self.module.dialect.rules.runs_by_events else (self.statements, [])
        if not told:
            split = self._split
            goes_on = self.module.dialect.rules.runs_by_events
            if goes_on and all(s.kind is Kind.DECLARE for s in self.statements[split:]):
                return self._quiet_and_busy
            return self.statements[:split], self.statements[split:]
        before = [s for s in self.statements if s.start < told[0].start]
        behind = [s for s in self.statements if s.start >= told[0].start]
        between = [s for s in behind if s not in told]
        if any(self.serving.is_about_application(s) for s in between if self.may_be_noticed(s)):
            return before, behind
        return [*before, *between], told

    @cached_property
    def _split(self) -> int:
        index = min(StartOfRun(self.module, self.statements).index, self._first_return)
        while 0 < index < len(self.statements) and self._shares_line(index):
            index -= 1
        return index

    @property
    def _quiet_and_busy(self) -> tuple[list[Statement], list[Statement]]:
        """What gives variables their first values, and all that begins with the first other statement.

        What stands behind that goes to the first where its value is plain, and nothing before it asks for it.
        """
        quiet: list[Statement] = []
        busy: list[Statement] = []
        for statement in self.statements:
            given = self._given_by(statement)
            is_plain = statement.kind is Kind.DECLARE or bool(plainly_given(statement))
            if busy and given and is_plain:
                is_plain = not any(may_ask_for(self.module, s, symbol) for s in busy for symbol in given)
            (quiet if given and (is_plain or not busy) else busy).append(statement)
        return quiet, busy

    def _shares_line(self, index: int) -> bool:
        """Whether a statement of the main code begins on the line on which the one before it ends."""
        source, before = self.module.source, self.statements[index - 1]
        return source.lines_of(before.span)[1] == source.line_of(self.statements[index].start)

    @property
    def _first_return(self) -> int:
        """What may return, or wait, must stand in `run`: in the constructor it would end that and nothing else."""
        numbers = (n for n, s in enumerate(self.statements) if any(i.leaves & _LEAVING for i in s.walk()))
        return next(numbers, len(self.statements))

    # -- fields, locals, routines

    @cached_property
    def variables(self) -> list[Symbol]:
        """The state that moves: all but constants and what only definitions bind."""
        kept = {r.symbol for s in self.staying for inner in s.walk() for r in inner.references if r.mode.writes}
        return [
            s
            for s in state(self.module)
            if not self.constants.settles(s)
            and s not in self.leaving.symbols
            and s not in self.routes.served
            and not (s in kept and self._is_never_rebound(s))
        ]

    def _is_never_rebound(self, symbol: Symbol) -> bool:
        staying = set(self.staying)
        return all(
            r.statement is not None and r.statement.outermost in staying for r in symbol.references if r.mode.writes
        )

    @cached_property
    def fields(self) -> list[Symbol]:
        """The variables that must outlive one method: a routine uses them, or both set-up and run do."""
        found = {s for s in self.variables if is_used_in_routine(s) or self._crosses(s)}
        return [s for s in self.variables if s in found or not found.isdisjoint(_declared_with(s))]

    @cached_property
    def needed_by_classes(self) -> set[Symbol]:
        """The fields that classes of the script use, themselves or through the functions that they name.

        A routine that keeps its own receiver reaches no more of the owner's than a class does.
        """
        found: set[Symbol] = set()
        classes = [s.span for s in self.module.block.statements if s.kind is Kind.CLASS]
        for span in (*classes, *routines_apart(self.module)):
            for reference in self.module.references_within(span):
                found.add(reference.symbol)
                for routine in self.effects.routines_behind(reference.symbol):
                    found |= self.effects.transitive[routine].touches
        return found & set(self.fields)

    @cached_property
    def locals(self) -> list[Symbol]:
        """The variables of which only set-up or only run knows."""
        fields = set(self.fields)
        return [s for s in self.variables if s not in fields]

    @cached_property
    def inline(self) -> list[Symbol]:
        """The routines that are defined in the main code, where they stand."""
        found = (r for statement in self.leaving.inline for r in statement.references)
        return [r.symbol for r in found if r.form is Form.ROUTINE]

    def _crosses(self, symbol: Symbol) -> bool:
        """Whether what the set-up leaves in a variable may be looked at in the run."""
        if not (self._occurs_in(symbol, self.set_up) and self._occurs_in(symbol, self.run)):
            return False
        declared = [r for r in symbol.references if r.declares]
        if declared and not all(any(_holds(part, r) for r in declared) for part in (self.set_up, self.run)):
            return True  # it would not be declared in both
        return symbol in self._live_at_run or self.module.is_known_outside(symbol.name)

    @cached_property
    def _live_at_run(self) -> Collection[Symbol]:
        return Flow(self.module).live_before(self.run[0])

    def _occurs_in(self, symbol: Symbol, statements: list[Statement]) -> bool:
        return any(_holds(statements, reference) for reference in symbol.references)

    @cached_property
    def functions(self) -> list[Function]:
        """The functions that use fields, or use functions that do; and the one that people start the program with."""
        wanted: set[Symbol] = set(self.fields)
        chosen: set[Function] = set()
        entry = self.module.dialect.rules.entry
        left = self.leaving
        kept = {*left.inline, *(front.statement for front in self.fronts.found)}
        available = [f for f in self.module.functions if f not in left.functions and f.statement not in kept]
        changed = True
        while changed:
            changed = False
            for function in available:
                is_wanted = function.name == entry or function in self.serving.handlers or self._uses(function, wanted)
                if function not in chosen and is_wanted:
                    chosen.add(function)
                    wanted.add(function.symbol)
                    changed = True
        while chosen and (found := [f for f in available if f not in chosen and self._is_errand(f, chosen)]):
            chosen.update(found)
        return [function for function in self.module.functions if function in chosen]

    def _is_errand(self, function: Function, callers: Collection[Function]) -> bool:
        """Whether a function takes and gives nothing, so that it is there for what it does, and these alone call it."""
        if function.parameters or function.is_postponed or any(s.returned for s in function.body.walk()):
            return False
        module, name = self.module, function.name
        if function.is_called_from_outside or module.is_known_outside(name):
            return False
        if module.dialect.rules.is_handed_out(module, name) or function_obstacles(module, function):
            return False
        uses = [r for r in function.symbol.references if r is not function.named]
        return bool(uses) and all(self._is_call_by(use, callers) for use in uses)

    def _is_call_by(self, use: Reference, callers: Collection[Function]) -> bool:
        if use.mode is not Mode.CALL or use.path or use.statement is None:
            return False
        if use.scope is self.module.scope:
            return use.statement.outermost in self.statements
        return use.scope.frame.routine in callers

    def _uses(self, routine: Function, wanted: set[Symbol]) -> bool:
        """Whether a routine does more with some of the names than to declare them."""
        uses = (use for scope in routine.scope.walk() for use in scope.uses)
        return any(use.symbol in wanted and use.form is not Form.DECLARATION for use in uses)

    # -- order

    @cached_property
    def overtaking(self) -> list[tuple[Statement, Statement]]:
        """Staying statements with a statement in front of them that moves, and whose running first is noticed.

        Both do something, or the staying one looks at what the other changes. That an application is told of handlers
        is noticed by what has to do with the application.
        """
        found: list[tuple[Statement, Statement]] = []
        earlier: Statement | None = None
        told: Statement | None = None
        changed: dict[Symbol, Statement] = {}
        used: dict[Symbol, Statement] = {}
        for statement in self.module.block.statements:
            if statement in self.closing or self.fronts.only_hands_out(statement):
                continue
            if self._stays(statement):
                own = (r for inner in statement.walk() for r in inner.references if not waits_for_call(inner, r))
                read = {r.symbol for r in own if r.mode.reads or r.path}
                changers = [changer for symbol, changer in changed.items() if symbol in read]
                changers += [used[symbol] for symbol in _bound_again(statement) if symbol in used]
                if earlier is not None and self.does_something(statement):
                    found.append((statement, earlier))
                elif (
                    told is not None and self.serving.concerns_application(statement) and self.does_something(statement)
                ):
                    found.append((statement, told))
                else:
                    found += [(statement, changer) for changer in dict.fromkeys(changers)]
                continue
            if statement in self.routes.registrations:
                told = told or statement  # no handler runs by that
                used.update((r.symbol, statement) for r in statement.references if r.symbol not in used)
                continue
            for symbol in self._names_used_by(statement):
                used.setdefault(symbol, statement)
            if earlier is None and self.may_be_noticed(statement):
                earlier = statement
            rebound = filter(is_state, self.effects.of_statement(statement).rebinds)
            for symbol in [*rebound, *Alterations.of(self.module).during(statement)]:
                changed.setdefault(symbol, statement)
        return found

    def _names_used_by(self, statement: Statement) -> Iterator[Symbol]:
        """The names of the module that a statement, or what runs with it, uses."""
        yield from (r.symbol for inner in statement.walk() for r in inner.references if r.form is not Form.QUOTED)
        for routine in self.effects.may_run_during(statement):
            yield from (use.symbol for use in routine.scope.uses)

    def does_something(self, statement: Statement) -> bool:
        """Whether a statement that stays does more than define."""
        if statement.kind is Kind.IMPORT:
            return imports_noticeably(self.module, statement)
        if statement is self.module.doc or self.constants.shares_out(statement):
            return False
        return any(
            self._calls_at_once(inner)
            or inner.leaves - {Leave.RETURN, Leave.YIELD, Leave.AWAIT}
            or inner.kind in (Kind.UPDATE, Kind.DELETE, Kind.RESOURCE)
            or any(map(self._is_at_work, inner.decorators))
            for inner in statement.walk()
        )

    def _calls_at_once(self, statement: Statement) -> bool:
        """Whether a statement calls something itself: what default values call may be called with the function."""
        return any(call.callee is None or not waits_for_call(statement, call.callee) for call in statement.calls)

    def _is_at_work(self, decorator: Span) -> bool:
        """Whether a decorator may do more than to define what it decorates."""
        names = [r for r in self.module.references_within(decorator) if r.mode.reads or r.path]
        return not names or not self.module.dialect.library.defines_only(min(names, key=lambda name: name.start))

    def may_be_noticed(self, statement: Statement) -> bool:
        """Whether a statement that moves does more than to give names quiet values."""
        if statement is self.module.guard or self.constants.shares_out(statement):
            return False
        if statement.kind is Kind.ASSIGN and statement.assignment is not None:
            pairs = statement.assignment.pairs
            return not pairs or any(not self._is_quiet(statement, pair) for pair in pairs)
        return True

    def _is_quiet(self, statement: Statement, pair: Pair) -> bool:
        if pair.value.shape is Shape.CALL:
            return QuietCalls.of(self.module).is_quiet(statement, pair.value)
        if pair.value.has_operations and not PlainValues.of(self.module).is_operation_quiet(statement, pair.value):
            return False
        if pair.value.shape is Shape.RISKY:
            return pair.target.symbol in self.constants
        return pair.value.shape in _QUIET_SHAPES


def _bound_again(statement: Statement) -> Iterator[Symbol]:
    """The symbols that a statement binds as others do: what they mean depends on when it is carried out."""
    for reference in (r for inner in statement.walk() for r in inner.references):
        if reference.symbol.is_module_level and reference.mode.writes and len(reference.symbol.bindings) > 1:
            yield reference.symbol


def _declared_with(symbol: Symbol) -> Iterator[Symbol]:
    """What one declaration takes out of something together with a name: all of it lives in the same place."""
    statements = [r.statement for r in symbol.references if r.declares and r.statement is not None]
    return (r.symbol for statement in statements for r in statement.references if r.declares)


def _holds(statements: Sequence[Statement], reference: Reference) -> bool:
    return any(statement.start <= reference.start < statement.end for statement in statements)
