"""adopt: free functions that work on an object become its methods."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import takewhile
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes, named
from aedifex.moves.kit.move import class_of, function_of, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import idle_declarations, is_declaration
from aedifex.moves.kit.rewriting import Member, Receiver, Renamed, Rewriting
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.parameter_passing import first_sure_binding
from aedifex.program.analysis.values import is_settled
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Kind, Statement
from aedifex.program.structure.first_runs import is_given_first
from aedifex.program.structure.obstacles import function_obstacles, told_name
from aedifex.program.structure.state import Constants, is_state

_FIELDS = (Kind.ASSIGN, Kind.DECLARE)
"""What declares fields in a class."""


@dataclass(frozen=True, slots=True)
class NewMethod:
    """A function that becomes a method, and its name there."""

    routine: str
    name: str


@dataclass(frozen=True)
class Adopt:
    """Move functions into a class of the same file, whose one object `instance` holds.

    The class `reaches` what else is in the script, where it is one of the script's own, to which that may be given.
    """

    name: ClassVar[str] = "adopt"

    path: Path
    class_name: str
    instance: str
    methods: tuple[NewMethod, ...]
    reaches: bool = False

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Adopting(self, module_of(program, self.path)).plan()


class _Adopting(Planner):
    def __init__(self, move: Adopt, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.effects = Effects.of(module)
        self.constants = Constants.of(module)
        self.class_statement, self.class_scope = class_of(module, move.class_name)
        self.methods = {function_of(module, method.routine): method for method in move.methods}
        self.instance = module.scope.symbols.get(move.instance)

    def write(self) -> None:
        pieces: list[Piece] = []
        for function, method in self.methods.items():
            lines = self.layout.lines(function.statement)
            pieces += ["\n", *self.rewriter.lines_taken(lines, indent=self.layout.indent)]
            self.rewriter.remove(lines)
            self.rewriter.make_method(function)
            self.drop_idle_declarations(function)
            self.rewrite_uses(function, method)
        last = self.class_statement.blocks[0].statements[-1]
        self.bind_values()
        self.rewriter.insert(self.layout.own_lines(last).end, *pieces)
        self.rewrite_instance()

    # -- reasons against it

    def find_objections(self) -> None:
        held = self.instance
        if held is not None and not is_settled(held) and not is_given_first(self.module, held):
            reason = f"`{held.name}` may hold another object later"
            self.object(held.references[0].start, reason, "Leave the functions as they are.")
            return
        self.object_to_no_constructor()
        for function, method in self.methods.items():
            for obstacle in function_obstacles(self.module, function):
                self.object(*obstacle)
            self.object_to_name(function, method)
            self.object_to_reach(function)
            self.object_to_early_use(function)

    def object_to_no_constructor(self) -> None:
        """What keeps methods bound needs a constructor with something in it, or a class that can be given one."""
        values = [r for f in self.methods for r in f.symbol.references if r.mode is Mode.READ]
        found = [s for s in self.class_statement.blocks[0].statements if self.is_constructor(s)]
        is_free = not found and not any(r.mode.reads for r in self.class_statement.references)
        if values and self.writer.binding("") and not (is_free or any(s.blocks[0].statements for s in found)):
            self.object(values[0].start, f"{self.move.class_name} has no constructor that could keep this bound", "")

    def object_to_name(self, function: Function, method: NewMethod) -> None:
        members = set(self.class_scope.symbols) | self.fields()
        others = [other.name for other in self.methods.values() if other is not method]
        if method.name in members or method.name in others:
            self.object(
                function.scope.start,
                f"{self.move.class_name} has a member `{method.name}` already",
                "Choose another name in the design.",
            )

        told = told_name(self.module, function)
        if told is not None and method.name != function.name:
            self.object(
                told,
                f"the name of the function `{function.name}` is read here, and it would be another",
                "Keep the name in the design.",
            )

    def fields(self) -> set[str]:
        return {
            access.name
            for scope in self.class_scope.walk()
            for use in scope.uses
            if use.name == self.writer.receiver and use.path and (access := use.path[0]).name
        }

    def object_to_reach(self, function: Function) -> None:
        """A method may use its object, constants, imports and helpers without state; nothing else of the script."""
        if self.move.reaches:
            return
        idle = self.idle(function)
        for scope in function.scope.walk():
            for use in scope.uses:
                reason = self.out_of_reach(use.symbol, function)
                if reason and use not in idle:
                    self.object(
                        use.start,
                        f"`{function.name}` {reason}",
                        "Leave it with the owner, or have the value passed in.",
                    )
        for use in function.statement.references:
            if self.is_needed_at_once(use) and not self.is_ready(use.symbol):
                self.object(
                    use.start,
                    f"the signature of `{function.name}` needs `{use.name}` when the script starts",
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

    def out_of_reach(self, symbol: Symbol, function: Function) -> str | None:
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
            self.constants.changing(self.effects.transitive[function].touches)
            for function in self.effects.routines_behind(symbol)
        )

    def object_to_early_use(self, function: Function) -> None:
        """The object must exist before the function is first used."""
        if self.instance is None:
            return
        made = self.instance.bindings[0].statement
        assert made is not None
        last = made.outermost.index
        for use in function.symbol.references:
            top = use.statement.outermost if use.statement is not None else made.outermost
            is_of_main = use.scope.home.kind is ScopeKind.MODULE and top.block is self.module.block
            if use.mode.reads and is_of_main and top.index <= last:
                self.object_to_use_at(function, use.start)
                return
        first = self.effects.first_run_of(function)
        if first is not None and first <= last:
            self.object_to_use_at(function, self.module.block.statements[first].start)

    def object_to_use_at(self, function: Function, at: int) -> None:
        self.object(
            at,
            f"`{function.name}` is used here, before its object is made",
            "Move the first values of the object's variables above this line.",
        )

    # -- writing

    def bind_values(self) -> None:
        """The constructor begins by keeping methods bound that are values, where that must be said."""
        used = [f for f in self.methods if any(r.mode is Mode.READ for r in f.symbol.references)]
        lines = [line for f in used if (line := self.writer.binding(self.methods[f].name))]
        if not lines:
            return
        unit, members = self.layout.indent, self.class_statement.blocks[0].statements
        pieces = [f"{unit * 2}{line}\n" for line in lines]
        constructor = next((s for s in members if self.is_constructor(s)), None)
        if constructor is not None:
            self.rewriter.insert(self.layout.lines(constructor.blocks[0].statements[0]).start, *pieces)
            return
        frame = self.writer.constructor_frame([], unit, unit)
        fields = list(takewhile(lambda statement: statement.kind in _FIELDS, members))
        at = self.layout.own_lines(fields[-1]).end if fields else self.layout.lines(members[0]).start
        gaps = ("\n", "") if fields else ("", "\n")
        self.rewriter.insert(at, gaps[0], frame.head, *pieces, frame.tail, gaps[1])

    def is_constructor(self, statement: Statement) -> bool:
        routine = statement.routine
        return isinstance(routine, Function) and self.dialect.rules.is_constructor(routine.name)

    def drop_idle_declarations(self, function: Function) -> None:
        """Names that are declared and never used would keep the method tied to the script."""
        for use in self.idle(function):
            self.rewriter.drop_declaration(use)

    def idle(self, function: Function) -> list[Reference]:
        """The declarations in a function, and in those inside it, that nothing comes of."""
        return [use for scope in function.scope.walk() for use in idle_declarations(scope)]

    def rewrite_uses(self, function: Function, method: NewMethod) -> None:
        for reference in function.symbol.references:
            if reference.form is Form.ROUTINE:
                self.rewriter.replace(reference, method.name, Renamed(method.name))
            elif is_declaration(reference):
                self.rewriter.drop_declaration(reference)
            else:
                text = self.member_text(
                    method.name, is_inside=self.is_inside(reference), is_value=reference.mode is Mode.READ
                )
                self.rewriter.replace(reference, text, Member(self.move.class_name, method.name))

    def member_text(self, name: str, *, is_inside: bool, is_value: bool) -> str:
        base = self.writer.receiver if is_inside else self.move.instance
        return self.writer.bound_method(base, name) if is_value else self.writer.member(base, name)

    def rewrite_instance(self) -> None:
        """Inside a method the object is the receiver."""
        for reference in self.instance.references if self.instance is not None else ():
            if self.is_inside(reference):
                self.rewriter.replace(reference, self.writer.receiver, Receiver(self.move.class_name))

    def is_inside(self, reference: Reference) -> bool:
        """Whether a reference stands in a method of the class, as it is or as it will be, that is the object's own."""
        if any(reference.scope.within(function.scope) for function in self.methods):
            return True
        is_in_class = reference.scope.within(self.class_scope) and reference.scope is not self.class_scope
        return is_in_class and self.is_only_object

    @cached_property
    def is_only_object(self) -> bool:
        """Whether no other object of the class is made, so that each method of it is run for this one."""
        made = next(r.symbol for r in self.class_statement.references if r.mode.writes)
        uses = [r for r in made.references if r.form is not Form.CLASS]
        return self.instance is None or [r.statement for r in uses] == [self.instance.bindings[0].statement]


def _by_hand(program: Program, script: Path, given: Given) -> list[Adopt]:
    methods = tuple(NewMethod(*named(text)) for text in given["functions"])
    return [Adopt(script, given["class"], given["object"] or given["class"].lower(), methods)]


MOVE = Description(
    name="adopt",
    place=60,
    summary=(
        "Free functions that work on an object become its methods; calls and handlers follow.\n"
        "Refused where a function needs state that the object does not own."
    ),
    term="Move Method",
    help="Turn functions into methods of a class of the script that has one object.",
    parameters=(
        StepParameter("functions", Takes.MANY, "FUNCTION[=METHOD]..."),
        StepParameter("class", Takes.NEEDED, "NAME", "The class."),
        StepParameter("object", Takes.OPTION, "NAME", "The variable that holds its object."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="move_ferry=move --class Ferry",
        before="""\
class Ferry:
    def __init__(self):
        self.x = 3


ferry = Ferry()


def move_ferry(by):
    ferry.x += by


move_ferry(2)
print(ferry.x)
""",
        after={
            "harbour.py": """\
class Ferry:
    def __init__(self):
        self.x = 3

    def move(self, by):
        self.x += by


ferry = Ferry()


ferry.move(2)
print(ferry.x)
""",
        },
    ),
)
