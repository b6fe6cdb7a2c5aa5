"""adopt: free functions that work on an object become its methods."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.move import Objections, class_of, module_of
from aedifex.moves.kit.rewriter import Rewriter, idle_declarations
from aedifex.moves.kit.rewriting import Member, Receiver, Renamed, Rewriting
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.parameter_passing import first_sure_binding
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Routine
from aedifex.program.structure.obstacles import routine_obstacles
from aedifex.program.structure.state import Constants, is_state
from aedifex.source.edits import Taken
from aedifex.source.errors import RefusedError


@dataclass(frozen=True, slots=True)
class NewMethod:
    """A function that becomes a method, and its name there."""

    routine: str
    name: str


@dataclass(frozen=True)
class Adopt:
    """Move functions into a class of the same file, whose one object `instance` holds."""

    name: ClassVar[str] = "adopt"
    summary: ClassVar[str] = (
        "Free functions that work on an object become its methods; calls and handlers follow.\n"
        "Refused where a function needs state that the object does not own."
    )

    path: Path
    class_name: str
    instance: str
    methods: tuple[NewMethod, ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Adopting(self, module_of(program, self.path)).plan()


class _Adopting:
    def __init__(self, move: Adopt, module: Module) -> None:
        self.move = move
        self.module = module
        self.dialect = module.dialect
        self.effects = Effects.of(module)
        self.constants = Constants.of(module)
        self.rewriting = Rewriting()
        self.rewriter = Rewriter(module, self.rewriting)
        self.layout = self.rewriter.layout
        self.class_statement, self.class_scope = class_of(module, move.class_name)
        self.methods = {self.routine(method): method for method in move.methods}
        self.instance = module.scope.symbols.get(move.instance)

    def routine(self, method: NewMethod) -> Routine:
        routine = self.module.routine(method.routine)
        if routine is None or routine.symbol is None:
            raise RefusedError(f"{self.module.path.name} has no function {method.routine!r}")
        return routine

    def plan(self) -> Rewriting:
        self.object()
        pieces: list[str | Taken] = []
        for routine, method in self.methods.items():
            assert routine.statement is not None
            lines = self.layout.lines(routine.statement)
            pieces += ["\n", *self.rewriter.lines_taken(lines, indent=self.layout.indent)]
            self.rewriter.remove(lines)
            self.rewriter.add_receiver(routine)
            self.drop_idle_declarations(routine)
            self.rewrite_uses(routine, method)
        self.rewriter.insert(self.layout.own_lines(self.class_statement).end, *pieces)
        self.rewrite_instance()
        self.rewriter.finish()
        return self.rewriting

    # -- reasons against it

    def object(self) -> None:
        objections = Objections(self.module)
        for routine, method in self.methods.items():
            for obstacle in routine_obstacles(self.module, routine, receiver=self.dialect.receiver):
                objections.add(*obstacle)
            self.object_to_name(objections, routine, method)
            self.object_to_reach(objections, routine)
            self.object_to_early_use(objections, routine)
        objections.raise_any()

    def object_to_name(self, objections: Objections, routine: Routine, method: NewMethod) -> None:
        members = set(self.class_scope.symbols) | self.fields()
        others = [other.name for other in self.methods.values() if other is not method]
        if method.name in members or method.name in others:
            objections.add(
                routine.scope.start,
                f"{self.move.class_name} has a member `{method.name}` already",
                "Choose another name in the design.",
            )

    def fields(self) -> set[str]:
        return {
            access.name
            for scope in self.class_scope.walk()
            for use in scope.uses
            if use.name == self.dialect.receiver and use.path and (access := use.path[0]).name
        }

    def object_to_reach(self, objections: Objections, routine: Routine) -> None:
        """A method may use its object, constants, imports and helpers without state; nothing else of the script."""
        idle = self.idle(routine)
        for scope in routine.scope.walk():
            for use in scope.uses:
                reason = self.out_of_reach(use.symbol, routine)
                if reason and use not in idle:
                    objections.add(
                        use.start,
                        f"`{routine.name}` {reason}",
                        "Leave it with the owner, or have the value passed in.",
                    )
        assert routine.statement is not None
        for use in routine.statement.references:
            if self.is_needed_at_once(use) and not self.is_ready(use.symbol):
                objections.add(
                    use.start,
                    f"the signature of `{routine.name}` needs `{use.name}` when the script starts",
                    "Make the default a plain value, or define what it needs further up.",
                )

    def is_needed_at_once(self, use: Reference) -> bool:
        """Whether a name is evaluated when the function is made, as defaults and annotations are."""
        if use.scope.kind is not ScopeKind.MODULE or use.symbol.origin is not None:
            return False
        return use.form is Form.PLAIN or (use.form is Form.ANNOTATION and not self.module.postpones_annotations)

    def is_ready(self, symbol: Symbol) -> bool:
        """Whether a symbol depends on no state and has its value where the class stands."""
        bound = first_sure_binding(self.module, symbol)
        return self.is_free(symbol) and bound is not None and bound <= self.class_statement.index

    def out_of_reach(self, symbol: Symbol, routine: Routine) -> str | None:
        if not symbol.is_module_level or symbol is self.instance or self.is_free(symbol):
            return None
        if any(other.symbol is symbol for other in self.methods):
            return None
        if is_state(symbol):
            return f"uses `{symbol.name}`, which is not part of {self.move.class_name}"
        return f"calls `{symbol.name}`, which works on state outside {self.move.class_name}"

    def is_free(self, symbol: Symbol) -> bool:
        """Whether a module-level symbol may be used from anywhere: it depends on no state."""
        if not symbol.is_module_level or self.constants.settles(symbol):
            return True
        if is_state(symbol):
            return False
        return not any(
            is_state(other) and not self.constants.settles(other)
            for routine in self.effects.routines_behind(symbol)
            for other in self.effects.closed[routine].touches
        )

    def object_to_early_use(self, objections: Objections, routine: Routine) -> None:
        """The object must exist before the function is first used."""
        if self.instance is None:
            return
        made = self.instance.bindings[0].statement
        assert made is not None and routine.symbol is not None
        last = made.outermost.index
        for use in routine.symbol.references:
            top = use.statement.outermost.index if use.statement is not None else last
            if use.mode.reads and use.scope.home.kind is ScopeKind.MODULE and top <= last:
                self.object_to_use_at(objections, routine, use.start)
                return
        first = self.effects.first_run_of(routine)
        if first is not None and first <= last:
            self.object_to_use_at(objections, routine, self.module.block.statements[first].start)

    def object_to_use_at(self, objections: Objections, routine: Routine, at: int) -> None:
        objections.add(
            at,
            f"`{routine.name}` is used here, before its object is made",
            "Move the first values of the object's variables above this line.",
        )

    # -- writing

    def drop_idle_declarations(self, routine: Routine) -> None:
        """Names that are declared and never used would keep the method tied to the script."""
        for use in self.idle(routine):
            self.rewriter.drop_declaration(use)

    def idle(self, routine: Routine) -> list[Reference]:
        """The declarations in a routine, and in those inside it, that nothing comes of."""
        return [use for scope in routine.scope.walk() for use in idle_declarations(scope)]

    def rewrite_uses(self, routine: Routine, method: NewMethod) -> None:
        assert routine.symbol is not None
        for reference in routine.symbol.references:
            if reference.form is Form.ROUTINE:
                self.rewriter.replace(reference, method.name, Renamed(method.name))
            else:
                base = self.dialect.receiver if self.is_inside(reference) else self.move.instance
                self.rewriter.replace(reference, f"{base}.{method.name}", Member(self.move.class_name, method.name))

    def rewrite_instance(self) -> None:
        """Inside a method the object is the receiver."""
        for reference in self.instance.references if self.instance is not None else ():
            if self.is_inside(reference):
                self.rewriter.replace(reference, self.dialect.receiver, Receiver(self.move.class_name))

    def is_inside(self, reference: Reference) -> bool:
        """Whether a reference stands in a method of the class, as it is or as it will be."""
        if any(reference.scope.within(routine.scope) for routine in self.methods):
            return True
        return reference.scope.within(self.class_scope) and reference.scope is not self.class_scope
