"""What speaks against making an owner of a script's main code."""

from __future__ import annotations

from collections.abc import Iterator

from aedifex.moves.kit.move import Objections
from aedifex.moves.kit.planner import Planner
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Kind, Leave, Statement, final_name
from aedifex.program.structure.early_uses import may_ask_for, waits_for_call
from aedifex.program.structure.left_behind import LeftBehind
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.main_function import is_plain_start
from aedifex.program.structure.making import Making
from aedifex.program.structure.obstacles import (
    function_obstacles,
    hindrance_obstacles,
    lifetime_obstacles,
    place_obstacles,
    variable_obstacles,
)


class LiftObjections(Planner):
    """Looks at all that would move; what cannot is left behind, where the rest can do without it."""

    def __init__(self, program: Program, module: Module, owner: str) -> None:
        super().__init__(module)
        self.program = program
        self.owner = owner
        self._divide(MainCode.of(module))

    def _divide(self, main: MainCode) -> None:
        """Take the main code as it is divided; what a routine that makes an application does goes by that."""
        self.main = main
        self.making = Making(self.module, main, self.program.enclosed if self.makes_application else None)

    def find_objections(self) -> None:
        """Note what speaks against it, after trying to leave behind what cannot move."""
        self._note_objections()
        needed = self.program.enclosed.names if self.program.enclosed is not None else frozenset()
        if self.objections.found and (leaving := LeftBehind(self.module, needed).find()) is not None:
            first = self.objections
            self.objections = Objections(self.module)
            self._divide(MainCode(self.module, leaving))
            self._note_objections()
            if self.objections.found:
                self.objections = first

    @property
    def fields(self) -> list[Symbol]:
        """The variables that become the owner's fields."""
        return self.main.fields

    @property
    def functions(self) -> list[Function]:
        """The functions that become its methods."""
        return self.main.functions

    @property
    def makes_application(self) -> bool:
        """Whether a routine is the whole program that makes an application and tells it of handlers."""
        return self.program.enclosed is not None and bool(self.main.routes.registrations)

    @property
    def sole_call(self) -> Statement | None:
        """The one statement of the main code that only calls one of the methods: then that method is what runs."""
        if len(self.main.run) != 1:
            return None
        statement = self.main.run[0]
        if statement.kind is not Kind.EXPRESSION or len(statement.calls) != 1:
            return None
        call, done = statement.calls[0], self.module.source.slice(statement.deed)
        called = self.module.source.slice(call.span)
        if call.arguments or call.callee is None or call.callee.path or done not in (called, f"{self.waiting}{called}"):
            return None
        function = next((f for f in self.functions if f.symbol is call.callee.symbol), None)
        if function is None or function.parameters:
            return None
        return statement if len(function.symbol.references) == 2 else None

    @property
    def waiting(self) -> str:
        """The word by which the main code waits for what it calls, where it does nothing else; else none."""
        is_waiting = any(Leave.AWAIT in statement.leaves for statement in self.main.run)
        return self.writer.waiting if is_waiting else ""

    @property
    def renamed(self) -> Symbol | None:
        """The function that becomes what runs the program."""
        callee = self.sole_call.calls[0].callee if self.sole_call is not None else None
        return callee.symbol if callee is not None else None

    def _note_objections(self) -> None:
        for symbol in self.fields:
            for obstacle in variable_obstacles(self.module, symbol):
                self.object(*obstacle)
        for function in self.functions:
            for obstacle in function_obstacles(self.module, function):
                self.object(*obstacle)
        for obstacle in hindrance_obstacles(self.module, [symbol.name for symbol in self.main.locals]):
            self.object(*obstacle)
        self._object_to_locals()
        self._object_to_classes()
        self._object_to_early_needs()
        self._object_to_inline()
        self._object_to_starters()
        self._object_to_enclosed()
        self._object_to_application()
        self._object_to_order()
        self._object_to_early_fronts()
        self._object_to_main_code()
        self._object_to_dead_zones()
        self._object_to_names()
        if not self.objections.found:
            self._object_to_guard()

    def _object_to_locals(self) -> None:
        for symbol in self.main.locals:
            for obstacle in lifetime_obstacles(self.module, symbol):
                self.object(*obstacle)
            is_declared = any(reference.declares for reference in symbol.references)
            if self.dialect.rules.is_taken(symbol.name) and not is_declared:  # else it hides that from its beginning
                self.object(
                    symbol.references[0].start,
                    f"`{symbol.name}` hides the builtin of that name; as a local variable it would hide it everywhere",
                    "Give the variable a name of its own.",
                )

    def _object_to_classes(self) -> None:
        moved = {*self.fields, *self.making.handed_on, *(f.symbol for f in self.functions)}
        for reference in self.module.references:
            if reference.symbol in moved and self._is_in_class(reference):
                self.object(
                    reference.start,
                    f"a class of the script uses `{reference.name}`, which would move into {self.owner}",
                    "Pass the value into the class first.",
                )

    def _is_in_class(self, reference: Reference) -> bool:
        scope = reference.scope
        while scope.parent is not None:
            if scope.kind is ScopeKind.CLASS and scope.parent.kind is ScopeKind.MODULE:
                return True
            scope = scope.parent
        return False

    def _object_to_early_needs(self) -> None:
        """What stays at the top level runs before the owner is made."""
        moved = {*self.fields, *self.main.locals, *(f.symbol for f in self.functions)}
        for statement in self.main.staying:
            for inner in statement.walk() if statement not in self.main.closing else ():
                for reference in inner.references:
                    is_own = reference.form is Form.ROUTINE or reference.form is Form.CLASS
                    if reference in self.making.known_outside or waits_for_call(inner, reference):
                        continue
                    if reference.symbol in moved and not is_own and reference.scope.kind is not ScopeKind.CLASS:
                        self.object(
                            reference.start,
                            f"`{reference.name}` is needed here while the script is being read",
                            "Use a plain value there.",
                        )

    def _object_to_inline(self) -> None:
        """What is defined in the set-up is not known in the run, nor the other way round."""
        for symbol in self.main.inline:
            for part in (self.main.set_up, self.main.run):
                inside = [any(s.start <= r.start < s.end for s in part) for r in symbol.references]
                if any(inside) and not all(inside):
                    self.object(symbol.references[0].start, f"`{symbol.name}` is decorated", "Leave it a function.")

    def _object_to_starters(self) -> None:
        """What starts the program from elsewhere must find an entry that does all that this one does, and no more."""
        for name, place in self.module.starters.items():
            function = self.module.function(name)
            if function is None:
                continue  # it has been opened: the new entry does all of it
            is_quiet = not any(map(self.main.may_be_noticed, self.main.set_up))
            is_same = function.symbol is self.renamed and is_plain_start(function) and is_quiet
            if function in self.functions and not is_same:
                self.object(function.statement.start, f"`{name}` is used by {place}", "Let that go without it first.")

    def _object_to_enclosed(self) -> None:
        """What waits around the code must find all that it names, and the constructor what it is given."""
        around = self.program.enclosed
        if around is None:
            return
        moved = {*self.fields, *self.main.locals, *self.main.inline, *(f.symbol for f in self.functions)}
        for symbol in moved:
            if symbol.name in around.names:
                self.object(symbol.references[0].start, f"`{symbol.name}` is needed by what runs the program", "")
        values = {value for name, value in around.given if name not in self.making.kept_outside}
        for reference in self.module.references:
            inside = any(s.start <= reference.start < s.end for s in self.main.set_up)
            if reference.name in values and not inside:
                self.object(reference.start, "the run itself needs what the program is given", "Use a plain value.")
        for statement in self.main.staying if not self.makes_application else ():
            given = [r.symbol for r in statement.references if r.mode.writes]
            is_quiet = statement.kind is not Kind.ASSIGN or all(symbol in self.main.constants for symbol in given)
            if not is_quiet and statement not in self.main.closing:
                reason = "this would be done when the file is read, and once for all"
                self.object(statement.start, reason, "Write it in another way.")

    def _object_to_application(self) -> None:
        """What a routine that makes an application knows is known in that alone; the owner is handed what it needs."""
        for reference in self.making.unknown if self.makes_application else ():
            reason = f"`{reference.name}` is used by what would be outside of the routine that makes it"
            self.object(reference.start, reason, "Give it what it needs.")
        for symbol in self.making.torn:
            reason = f"`{symbol.name}` is given something else, and used by the application and its handlers alike"
            self.object(symbol.references[0].start, reason, "Give that a name of its own.")

    def _object_to_order(self) -> None:
        """Code that stays at the top level must not have stood behind code that moves, if both can be noticed."""
        for statement, earlier in self.main.overtaking:
            if earlier in self.making.receiving:
                continue  # the routine knows that as it begins
            self.object(
                statement.start,
                "this stays at the top level and would run before {line}, which comes first today",
                "Move it above the first statement that does something.",
                earlier.start,
            )

    def _object_to_main_code(self) -> None:
        if not self.main.run and not self.main.fronts.found:
            self.object(
                0,
                "the script has no main code that could become a method",
                "Only scripts that do something when they are started can be lifted.",
            )
        guard = self.module.guard
        if guard is not None and len(guard.blocks) > 1 and guard not in self.main.closing:
            self.object(guard.start, "the guard has another branch", "Move that branch out of the guard.")
        for statement in self.main.statements:
            for inner in statement.walk():
                loose = (r for r in inner.references if not r.declares and not self._is_field(r))
                if inner.kind is Kind.DECLARE and any(loose):
                    self.object(
                        inner.start,
                        "a scope declaration at the top level would change its meaning inside a method",
                        "Take it away: it does nothing here.",
                    )
                waits = Leave.AWAIT in inner.leaves and inner is not self.sole_call
                if waits and not (self.program.enclosed and self.program.enclosed.is_async):
                    self.object(inner.start, "the main code waits for something asynchronous", "Use a function.")
                self._object_to_private(inner)
            for obstacle in place_obstacles(self.module, statement.span):
                self.object(*obstacle)

    def _object_to_dead_zones(self) -> None:
        """What is asked for before it is declared is an error today, or nothing; later it would be there."""
        for symbol in self._declared_late():
            declared = min((r for r in symbol.references if r.declares), key=lambda r: r.start)
            for statement in (s for s in self.main.statements if s.start < declared.start):
                if statement is not declared.statement and may_ask_for(self.module, statement, symbol):
                    reason = f"`{symbol.name}` may be asked for here before it is declared"
                    self.object(statement.start, reason, "Move its declaration above this.")
                    break

    def _declared_late(self) -> Iterator[Symbol]:
        """The names that stay, and are not there, or have no value, before a declaration has been carried out."""
        functions = [f.symbol for f in self.module.functions if f.statement.keyword is not None]
        given = [r.symbol for s in self.main.staying if s.kind is Kind.ASSIGN for r in s.references if r.mode.writes]
        for symbol in dict.fromkeys([*functions, *given]):
            if any(r.declares for r in symbol.references):
                yield symbol

    def _object_to_early_fronts(self) -> None:
        """What stands in front asks an object, which is not there while that is made."""
        fronts, effects = {front.symbol for front in self.main.fronts.found}, Effects.of(self.module)
        later = self.dialect.library.calls_later
        for statement in self.main.set_up if fronts else ():
            inner = list(statement.walk())
            if all(later(final_name(call.callee)) for one in inner for call in one.calls):
                continue
            running = effects.may_run_at_once_in(statement) - set(self.main.fronts.found)
            used = [r for one in inner for r in one.references]
            used += [use for routine in running for scope in routine.scope.walk() for use in scope.uses]
            if any(use.symbol in fronts for use in used):
                reason = "what is found by its name is used here, before the object is made that it asks"
                self.object(statement.start, reason, "Move this below, or call it by what does not ask.")

    def _object_to_guard(self) -> None:
        """What another program finds by its name is there after the set-up, which the guard would keep from it."""
        guard = self.module.guard
        if guard is None or guard in self.main.closing or not self.module.found_by_name:
            return
        early = [s for s in self.main.statements if s.block is self.module.block and self.main.may_be_noticed(s)]
        if early:
            name, runner = next(iter(self.module.found_by_name.items()))
            reason = f"this runs before {runner} finds `{name}`, and would only run where the script itself is started"
            self.object(early[0].start, reason, "Move it under the guard, if it may wait.")

    def _object_to_private(self, statement: Statement) -> None:
        for reference in statement.references:
            if reference.name == self.writer.receiver:
                self.object(
                    reference.start,
                    f"the main code uses the name `{reference.name}` itself",
                    "Rename it there.",
                )
            if self.dialect.rules.is_private(reference.name) and reference.scope.private is None:
                self.object(
                    reference.start,
                    f"the name `{reference.name}` would mean something else inside a class",
                    "Let it begin with one underscore.",
                )

    def _is_field(self, reference: Reference) -> bool:
        return reference.symbol in self.fields

    def _object_to_names(self) -> None:
        kept = {s.name for s in self.module.symbols} - {f.name for f in self.functions} - {f.name for f in self.fields}
        entry = self.program.enclosed.name if self.program.enclosed is not None else self.dialect.rules.entry
        is_told = self.main.routes.registrations or self.main.fronts.found
        for name in (self.owner, *([] if is_told else [entry])):
            used = self.module.scope.symbols.get(name)
            if name in kept and used is not None and used.references:
                self.object(
                    used.references[0].start,
                    f"the name `{name}` is in use already",
                    "Rename it in the script, or choose another owner's name in the design.",
                )
