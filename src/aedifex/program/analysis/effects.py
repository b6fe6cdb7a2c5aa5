"""Which state each routine may read, bind anew or change, directly and through what it may call.

The closure over calls is the least fixed point of the direct effects over the call graph, recursion included (see
J. P. Banning, "An efficient way to find the side effects of procedure calls and the aliases of variables", POPL 1979).
A routine handed on as a value counts as called by the outside world, and by whoever handed it on.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.plain_values import PlainValues
from aedifex.program.analysis.reflection import reaches_members
from aedifex.program.analysis.values import may_change_object
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Origin, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.statements import Call, Function, Kind, Lambda, Routine, Statement, final_name

Actor = Routine | None
"""Who acts: a routine, or None for the top-level code."""


@dataclass(slots=True)
class Effect:
    """What one actor may do to symbols that are not its own locals.

    `rebinds` gives a name another value; `changes` may change the object it holds; `outside` tells whether code that
    is not in the program may be called, which may in turn call any routine that was handed on as a value.
    """

    reads: set[Symbol] = field(default_factory=set)
    rebinds: set[Symbol] = field(default_factory=set)
    changes: set[Symbol] = field(default_factory=set)
    outside: bool = False

    @property
    def writes(self) -> set[Symbol]:
        """Symbols rebound or changed."""
        return self.rebinds | self.changes

    @property
    def touches(self) -> set[Symbol]:
        """All symbols it has to do with."""
        return self.reads | self.rebinds | self.changes

    def absorb(self, other: Effect) -> bool:
        """Add another's effects; tell whether that changed anything."""
        before = (len(self.reads), len(self.rebinds), len(self.changes), self.outside)
        self.reads |= other.reads
        self.rebinds |= other.rebinds
        self.changes |= other.changes
        self.outside |= other.outside
        return before != (len(self.reads), len(self.rebinds), len(self.changes), self.outside)


def actor_of(scope: Scope) -> Actor:
    """The routine that runs code standing in a scope: lambdas count as routines, comprehensions do not."""
    inner: Scope | None = scope
    while inner is not None:
        if inner.kind in (ScopeKind.ROUTINE, ScopeKind.LAMBDA):
            return inner.routine
        inner = inner.parent
    return None


class Effects(Analysis):
    """The effects of every routine of a module."""

    def __init__(self, module: Module) -> None:
        self.module = module
        self.direct: dict[Actor, Effect] = defaultdict(Effect)
        self.calls: dict[Actor, set[Routine]] = defaultdict(set)
        self.escaping: set[Routine] = set()
        self._handed_on: dict[Routine | Statement | None, set[Routine]] = defaultdict(set)
        self._by_symbol: dict[Symbol, list[Routine]] = defaultdict(list)
        self._by_method: dict[str, list[Routine]] = defaultdict(list)
        self._by_class: dict[Scope, list[Routine]] = defaultdict(list)
        self._class_scopes: dict[Symbol, Scope] = {}
        self._bases: dict[Symbol, list[Symbol]] = {}
        self._plain_classes: set[Symbol] = set()
        self._calling_classes: set[Symbol] = set()
        self._plain: dict[Symbol, bool] = {}
        self._by_statement: dict[Statement, Effect] = {}
        self.is_lazy = False
        self._index()
        self._collect()

    def _index(self) -> None:
        self.direct[None] = Effect()
        for routine in self.module.routines:
            self.direct[routine] = Effect()
            if isinstance(routine, Function):
                self._index_function(routine)
            elif isinstance(routine, Lambda):
                actor = actor_of(routine.scope.parent or routine.scope)
                self.calls[actor].add(routine)
                self._hand_on(routine, actor, routine.statement)

    def _index_function(self, function: Function) -> None:
        home, rules = function.symbol.scope, self.module.dialect.rules
        self._by_symbol[function.symbol].append(function)
        if function.is_method:
            self._by_method[function.name].append(function)
            self._by_class[home].append(function)
        is_implicit = function.is_method and rules.is_implicit_method(function.name)
        is_inherited = function.is_method and self._may_be_inherited(function)
        if function.statement.decorators or function.is_called_from_outside or is_implicit or is_inherited:
            self._hand_on(function, actor_of(home), function.statement)

    def _may_be_inherited(self, method: Function) -> bool:
        """Whether a class from outside, which that of a method inherits from, may know it and call it."""
        owner = method.statement.block.owner
        library, folder = self.module.dialect.library, self.module.path.parent
        bases = [r for r in owner.references if r.mode.reads and r.form is Form.PLAIN] if owner is not None else []
        foreign = [r for r in bases if r.symbol.imported is not None]
        return any(library.may_have_member(base, method.name, folder) for base in foreign)

    def _hand_on(self, routine: Routine, actor: Actor, statement: Statement | None) -> None:
        """Note that a routine is handed on as a value, by another one or by a statement of the top-level code."""
        self.escaping.add(routine)
        self._handed_on[actor if actor is not None else statement].add(routine)

    def _collect(self) -> None:
        for statement in self.module.walk():
            for reference in statement.references:
                if reference.form is Form.CLASS and statement.defines is not None:
                    self._class_scopes[reference.symbol] = statement.defines
                    self._bases[reference.symbol] = [r.symbol for r in statement.references if r.mode.reads]
                    if len(statement.references) == 1 and len(reference.symbol.bindings) == 1:
                        self._plain_classes.add(reference.symbol)
                    if any(inner.calls for inner in statement.inner):
                        self._calling_classes.add(reference.symbol)
        for statement in self.module.walk():
            self._statement(statement)
        self._collect_lazy()

    def _collect_lazy(self) -> None:
        """Generators, and methods that the language itself calls, run at places which no text shows.

        Where any of them changes something, each statement counts as one that lets the outside run it.
        """
        late = [r for r in self.module.routines if r.is_postponed or self._is_implicit(r)]
        for routine in late:
            self.escaping.add(routine)
        self.is_lazy = any(
            not self._is_own(symbol, routine)
            for routine in self.reached_from(late)
            for symbol in self.direct[routine].writes
        )
        if self.is_lazy:
            for effect in self.direct.values():
                effect.outside = True

    def _is_implicit(self, routine: Routine) -> bool:
        rules = self.module.dialect.rules
        is_method = isinstance(routine, Function) and routine.is_method
        return is_method and rules.is_implicit_method(routine.name) and not rules.is_constructor(routine.name)

    def _is_own(self, symbol: Symbol, routine: Routine) -> bool:
        """Whether a symbol belongs to a routine or to one inside it."""
        return symbol.scope.within(routine.scope)

    def _statement(self, statement: Statement) -> None:
        for reference in statement.references:
            actor = actor_of(reference.scope)
            self._reference(reference, actor)
            for routine in self._by_symbol.get(reference.symbol, ()):
                if reference.mode.reads:
                    self.calls[actor].add(routine)
                if reference.mode is Mode.READ or routine.is_postponed:
                    self._hand_on(routine, actor, statement)
            if reference.symbol in self._class_scopes and reference.mode.reads:
                self.calls[actor].update(self._run_by(reference))
        if self._by_method:
            self._begin_base(statement)
            actor = actor_of(statement.references[0].scope) if statement.references else None
            called = {final_name(call.callee) for call in statement.calls if call.callee is not None}
            for name in statement.attributes:
                for routine in self._by_method.get(name, ()):
                    self.calls[actor].add(routine)
                    if name not in called:
                        self._hand_on(routine, actor, statement)
            if reaches_members(self.module, statement):
                for routines in self._by_method.values():
                    self.calls[actor].update(routines)
                    for routine in routines:
                        self._hand_on(routine, actor, statement)
        for call in statement.calls:
            if self.is_outside(call):
                scope = call.callee.scope if call.callee is not None else _scope_of(statement)
                self.direct[actor_of(scope) if scope is not None else None].outside = True

    def _begin_base(self, statement: Statement) -> None:
        """Note that a constructor lets those of its base run."""
        rules = self.module.dialect.rules
        for call in statement.calls:
            scope = call.callee.scope if call.callee is not None else _scope_of(statement)
            if scope is not None and rules.begins_base(self.module, call):
                self.calls[actor_of(scope)].update(self._by_method.get(rules.constructor, ()))

    def _reference(self, reference: Reference, actor: Actor) -> None:
        symbol = reference.symbol
        if symbol.scope.kind is ScopeKind.OUTSIDE or reference.mode is Mode.DECLARE:
            return
        home = actor_of(symbol.scope)
        if home is actor and home is not None:
            return
        effect = self.direct[actor]
        if reference.mode.writes:
            effect.rebinds.add(symbol)
        if reference.mode.reads or reference.path:
            effect.reads.add(symbol)
        if may_change_object(reference, self.module) and not self._is_plain(symbol):
            effect.changes.add(symbol)

    def _is_plain(self, symbol: Symbol) -> bool:
        if symbol not in self._plain:
            self._plain[symbol] = symbol in PlainValues.of(self.module) or symbol.forms <= {
                Form.IMPORT,
                Form.STAR,
                Form.ROUTINE,
                Form.CLASS,
            }
        return self._plain[symbol]

    def is_outside(self, call: Call) -> bool:
        """Whether a call may run routines of the program that were handed on as values."""
        callee = call.callee
        if callee is None:
            return True
        symbol, imported, library = callee.symbol, callee.symbol.imported, self.module.dialect.library
        if imported is not None and symbol.forms <= {Form.IMPORT, Form.STAR}:
            is_direct = len(callee.path) <= (1 if imported.name is None else 0)
            return not is_direct or not library.is_quiet(imported.module)
        if callee.path:
            is_quiet = symbol.origin is Origin.BUILTIN and library.is_quiet(symbol.name)
            return not is_quiet and not library.calls_nothing(callee.path[-1].name or "")
        if symbol in self._plain_classes:
            return False
        if symbol in self._by_symbol:
            return len(symbol.bindings) > len(self._by_symbol[symbol])  # it may be something else by now
        if symbol.scope.kind is ScopeKind.OUTSIDE:
            has_hook = any(library.calls_back(argument.keyword) for argument in call.arguments)
            return has_hook or not library.only_reads_arguments(symbol.name)
        return True

    @cached_property
    def transitive(self) -> dict[Actor, Effect]:
        """Effects with those of everything that may be called in the course of it, handlers by the outside excepted."""
        closed: dict[Actor, Effect] = {}
        for actor, effect in self.direct.items():
            closed[actor] = Effect(set(effect.reads), set(effect.rebinds), set(effect.changes), effect.outside)
        callers: dict[Routine, list[Actor]] = defaultdict(list)
        for actor, callees in self.calls.items():
            for callee in callees:
                callers[callee].append(actor)
        waiting = list(closed)
        queued = set(waiting)
        while waiting:
            actor = waiting.pop()
            queued.discard(actor)
            if actor is None:
                continue
            for caller in callers.get(actor, ()):
                if closed[caller].absorb(closed[actor]) and caller not in queued:
                    waiting.append(caller)
                    queued.add(caller)
        return closed

    def of_statement(self, statement: Statement) -> Effect:
        """The effects of one top-level statement, those of what it may call included."""
        found = self._by_statement.get(statement)
        if found is None:
            found = self._by_statement[statement] = self._of_statement(statement)
        return found

    def _of_statement(self, statement: Statement) -> Effect:
        effect = Effect()
        for inner in statement.walk():
            for reference in inner.references:
                self._add_to(effect, reference)
            effect.outside |= self.is_lazy or any(self.is_outside(call) for call in inner.calls)
        for routine in self.may_run_during(statement):
            effect.absorb(self.direct[routine])
        return effect

    def of_any(self, statement: Statement) -> Effect:
        """The effects of any statement, those of the routines that it names included; handlers of others are not."""
        effect = Effect()
        for inner in statement.walk():
            for reference in inner.references:
                self._add_to(effect, reference)
                if reference.mode.reads:
                    for routine in self.routines_behind(reference.symbol):
                        effect.absorb(self.transitive[routine])
        return effect

    def _add_to(self, effect: Effect, reference: Reference) -> None:
        symbol = reference.symbol
        if reference.mode.writes:
            effect.rebinds.add(symbol)
        if reference.mode.reads or reference.path:
            effect.reads.add(symbol)
        if may_change_object(reference, self.module):
            effect.changes.add(symbol)

    def may_run_during(self, statement: Statement) -> set[Routine]:
        """The routines that may run while a top-level statement runs, those in its blocks included.

        A handler can run only once it has been handed to the outside, by this statement or an earlier one.
        """
        return self._running[statement.outermost.index]

    def run_until(self, statement: Statement, end: int) -> set[Routine]:
        """The routines that the part of a statement up to an offset may call, its blocks excepted."""
        if end <= statement.start:
            return set()
        found = self._used_until(statement, end)
        if self.is_lazy or any(call.end <= end and self.is_outside(call) for call in statement.calls):
            found |= self.escaping
        reached = self.reached_from(found)
        return reached | self.escaping if any(self.direct[routine].outside for routine in reached) else reached

    def run_at_once(self, statement: Statement) -> set[Routine]:
        """The routines that a statement may call before it is done, its blocks excepted.

        Handlers wait for their turn where a program runs by events, unless it fires these itself.
        """
        if not self.module.dialect.rules.runs_by_events or self.is_lazy or self._fires:
            return self.run_until(statement, statement.end)
        return self.reached_from(self._used_until(statement, statement.end))

    @cached_property
    def _fires(self) -> bool:
        fires, statements = self.module.dialect.library.fires_events, list(self.module.walk())
        called = {final_name(call.callee) for s in statements for call in s.calls}
        return any(map(fires, called.union(*(s.attributes for s in statements))))

    def _used_until(self, statement: Statement, end: int) -> set[Routine]:
        """The routines that the part of a statement up to an offset names."""
        calls = {call.callee: call for call in statement.calls if call.callee is not None}
        found: set[Routine] = set()
        for reference in statement.references:
            call = calls.get(reference)
            if reference.mode.reads and (reference.end if call is None else call.end) <= end:
                found.update(self._run_by(reference))
        for name in statement.attributes:
            found.update(self._by_method.get(name, ()))
        return found

    def may_run_in(self, statement: Statement) -> set[Routine]:
        """The routines that may run while a statement runs, wherever it stands, those in its blocks included."""
        return set().union(*(self.run_until(inner, inner.end) for inner in statement.walk()))

    def may_run_at_once_in(self, statement: Statement) -> set[Routine]:
        """The routines that may run before a statement is done, those in its blocks included."""
        return set().union(*map(self.run_at_once, statement.walk()))

    def first_run_of(self, routine: Routine) -> int | None:
        """The first top-level statement, by its number, with which a routine may run."""
        return self._first_runs.get(routine)

    @cached_property
    def _first_runs(self) -> dict[Routine, int]:
        found: dict[Routine, int] = {}
        for index, routines in enumerate(self._running):
            for routine in routines:
                found.setdefault(routine, index)
        return found

    def first_touch_of(self, symbol: Symbol) -> int | None:
        """The first top-level statement, by its number, that has to do with a variable, or may have by a call."""
        return self._first_touches.get(symbol)

    @cached_property
    def _first_touches(self) -> dict[Symbol, int]:
        found: dict[Symbol, int] = {}
        for index, statement in enumerate(self.module.block.statements):
            for symbol in self.of_statement(statement).touches:
                found.setdefault(symbol, index)
        return found

    @cached_property
    def _running(self) -> list[set[Routine]]:
        """For each top-level statement the routines that may run with it."""
        handed: set[Routine] = set()
        found: list[set[Routine]] = []
        for statement in self.module.block.statements:
            named = self._named_by(statement)
            calls_outside = self.is_lazy or any(
                self.is_outside(call) for inner in statement.walk() for call in inner.calls
            )
            for inner in statement.walk():
                handed |= self._handed_on.get(inner, set())
            while True:
                reached = self.reached_from(named)
                if calls_outside or any(self.direct[routine].outside for routine in reached):
                    reached |= self.reached_from(handed)
                grown = handed.union(*(self._handed_on.get(routine, set()) for routine in reached))
                if grown == handed:
                    break
                handed = grown
            found.append(reached)
        return found

    def _named_by(self, statement: Statement) -> set[Routine]:
        """The routines that a top-level statement itself may call."""
        named: set[Routine] = set()
        for inner in statement.walk():
            for reference in inner.references:
                if reference.mode.reads:
                    named.update(self._run_by(reference))
            for name in inner.attributes:
                named.update(self._by_method.get(name, ()))
            named |= {routine for routine in self._handed_on.get(inner, set()) if isinstance(routine, Lambda)}
        return named

    def routines_behind(self, symbol: Symbol) -> list[Routine]:
        """The routines that a symbol stands for: a routine's own, or all methods of a class."""
        return self._by_symbol.get(symbol) or self._methods_of(symbol)

    def _run_by(self, reference: Reference) -> list[Routine]:
        """The routines that run where a name is used: where a plain class makes an object, what sets that up alone."""
        if reference.symbol in self._class_scopes and self.module.dialect.rules.asks_kind(self.module, reference):
            return []
        found, is_constructor = self.routines_behind(reference.symbol), self.module.dialect.rules.is_constructor
        if self._is_base(reference):
            return [routine for routine in found if self._is_implicit(routine)]
        is_plain = reference.symbol in self._plain_classes - self._calling_classes
        if not is_plain or reference.mode is not Mode.CALL or reference.path:
            return found
        return [r for r in found if isinstance(r, Function) and (is_constructor(r.name) or self._is_implicit(r))]

    def _is_base(self, reference: Reference) -> bool:
        """Whether a class is named where another comes from it: its methods stay what they are, and do not run."""
        statement = reference.statement
        if statement is None or reference.symbol not in self._class_scopes or reference.mode is not Mode.READ:
            return False
        is_heading = statement.kind is Kind.CLASS and not reference.path and reference.form is Form.PLAIN
        is_named = self.module.source.parse_view[statement.start : reference.start].rstrip().endswith(b"=")
        given = [*statement.decorators, *(call.inside for call in statement.calls if call.inside is not None)]
        return is_heading and not is_named and not any(span.start <= reference.start < span.end for span in given)

    def _methods_of(self, symbol: Symbol) -> list[Routine]:
        """The methods of a class, those that it inherits from others of the file included."""
        lineage = [symbol]
        for one in lineage:
            lineage += [base for base in self._bases.get(one, ()) if base not in lineage]
        scopes = (self._class_scopes.get(one) for one in lineage)
        return [routine for scope in scopes if scope is not None for routine in self._by_class.get(scope, ())]

    def reached_from(self, routines: Iterable[Routine]) -> set[Routine]:
        """The routines that may run when any of `routines` runs, themselves included."""
        found: set[Routine] = set()
        waiting = list(routines)
        while waiting:
            routine = waiting.pop()
            if routine not in found:
                found.add(routine)
                waiting.extend(self.calls.get(routine, ()))
        return found


def _scope_of(statement: Statement) -> Scope | None:
    if statement.references:
        return statement.references[0].scope
    owner = statement.block.owner
    while owner is not None:
        if owner.defines is not None:
            return owner.defines
        owner = owner.block.owner
    return None
