"""Whether statements can become a function or method of their own, and what goes in and out."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from aedifex.moves.kit.clones import Twin, alike_runs, equal_runs
from aedifex.moves.kit.control_exits import control_exits, steering
from aedifex.moves.kit.handover import Handover
from aedifex.moves.kit.planner import Planner
from aedifex.program.analysis.definite_assignment import bound_before, certainly_assigns
from aedifex.program.analysis.flow import leaves, writes
from aedifex.program.analysis.members import Mentions
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import plainly_given
from aedifex.program.model.expressions import Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Block, Function, Kind, Leave, Statement
from aedifex.program.structure.obstacles import hindrance_obstacles, is_hard_to_echo
from aedifex.program.structure.run_shapes import RunShapes, ShapeOf
from aedifex.source.text import Span

_WAYS_OUT = {
    Leave.YIELD: "hands values out one by one",
    Leave.AWAIT: "waits for something asynchronous",
}
_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.IMPORT, Kind.DECLARE, Kind.ALIAS})


@dataclass(frozen=True)
class Carved:
    """What is carved: its name, and the variables that stay shared although they could be handed over.

    Where what stands in other places differs in plain values only, `values` are the parameters for these.
    """

    function: str
    owned: frozenset[str] = frozenset()
    values: tuple[str, ...] = ()


class CarvingChecks(Planner):
    """Finds what speaks against carving a run of statements out of a routine, or out of the main code.

    `passed` are the places of the values that are passed in, where others say so.
    """

    def __init__(
        self,
        move: Carved,
        program: Program,
        module: Module,
        function: Function | None,
        run: Sequence[Statement],
        passed: Sequence[Span] | None = None,
    ) -> None:
        super().__init__(module)
        self.move = move
        self.program = program
        self.function = function
        self.run = list(run)
        self.exits = control_exits(module, self.run, function)
        self.passed = passed if passed is not None else self.places_passed(self.run)
        self.handover = Handover(module, function, self.run, move.owned, self.exits, self.passed)

    @cached_property
    def shape_of(self) -> ShapeOf:
        """What tells the shapes of runs that are the same but for the parameters.

        These are plain values, or all arguments, or else objects and plain values.
        """
        shapes = RunShapes.of(self.module)
        counts: dict[ShapeOf, int] = {}
        for shape_of in (shapes.shape_of, shapes.wide_shape_of, shapes.object_shape_of):
            twins = list(alike_runs(self.module, self.run, self.home, shape_of))
            counts[shape_of] = len(self.holes_of(shape_of, twins))
            if counts[shape_of] == len(self.move.values):
                return shape_of
        return shapes.shape_of if counts[shapes.shape_of] else shapes.wide_shape_of

    @property
    def home(self) -> Statement:
        """The statement above which the function is put; a method stands below the one that it comes from."""
        return self.function.statement if self.function is not None else self.run[0].outermost

    @cached_property
    def twins(self) -> list[Twin]:
        """The other runs that are written like this one, but perhaps for plain values."""
        if not self.move.values:
            return list(equal_runs(self.module, self.run, self.home))
        return list(alike_runs(self.module, self.run, self.home, self.shape_of))

    @cached_property
    def holes(self) -> list[list[int]]:
        """The places of the values in which the runs differ, for each parameter."""
        return self.holes_of(self.shape_of, self.twins) if self.move.values else []

    def holes_of(self, shape_of: ShapeOf, twins: Sequence[Twin]) -> list[list[int]]:
        """The places at which this run and its twins have different values."""
        runs = [self.run, *(twin.run for twin in twins)]
        shapes = [shape for run in runs if (shape := shape_of(run)) is not None]
        return RunShapes.of(self.module).holes(shapes) if shapes else []

    def places_passed(self, run: Sequence[Statement]) -> list[Span]:
        """Where the values stand in a run for which there are parameters."""
        shape = self.shape_of(run) if self.holes else None
        return [shape.values[place] for hole in self.holes for place in hole] if shape is not None else []

    def values_in(self, run: Sequence[Statement]) -> list[str]:
        """What the parameters are for one of the runs."""
        shape = self.shape_of(run) if self.holes else None
        return [self.module.source.slice(shape.values[hole[0]]) for hole in self.holes] if shape is not None else []

    # -- reasons against it

    def find_objections(self) -> None:
        """Note what speaks against it."""
        for statement in self.run:
            self.object_to_statement(statement)
        hand, at = self.handover, self.handover.span.start
        if self.is_name_taken:
            self.object(at, f"the name `{self.move.function}` is in use already", "Choose another.")
        if self.function is not None and not self.is_plain(self.function):
            self.object(at, f"`{self.function.name}` is no plain function of the script", "Carve it by hand.")
        for obstacle in hindrance_obstacles(self.module, [symbol.name for symbol in hand.own]):
            self.object(*obstacle)
        for symbol in hand.own:
            self.object_to_local(symbol)
        if self.writer.declares:
            self.object_to_declarations(at)
        if self.receiver is not None and len(self.receiver.bindings) > 1:
            self.object(at, f"`{self.receiver.name}` gets another value here", "Leave the object its name.")
        for symbol in self.inputs:
            if not bound_before(self.run[0], symbol) and not self.is_asked_first(symbol):
                self.object(
                    at,
                    f"`{symbol.name}` may not have a value yet here, so it cannot be passed in",
                    "Give it a first value further up.",
                )
        if self.stands_in(Kind.CLASS):
            self.object(at, "this stands in a class, and its names would not be the class's", "Carve from a method.")
        self.object_to_values(at)
        if self.exits.refusal:
            self.object(at, f"this {self.exits.refusal}", "Carve all of the loop, or less of it.")
        self.object_to_lost_outputs(at, hand.outputs)

    def is_asked_first(self, symbol: Symbol) -> bool:
        """Whether a run begins with a condition that begins with a name: without a value it fails right there.

        Plain values for what only the run's routine knows may come before.
        """
        own = self.handover.own
        asked = next((s for s in self.run if not plainly_given(s) or not own.issuperset(plainly_given(s))), None)
        tests = Surroundings.of(self.module).by_statement[asked] if asked is not None else []
        condition = tests[0].parts[0] if tests and tests[0].sense is Sense.TEST else None
        if asked is None or condition is None or condition.sense is Sense.CHOICE:
            return False
        return any(r.symbol is symbol and r.start == condition.start and r.mode.reads for r in asked.references)

    def object_to_values(self, at: int) -> None:
        """The parameters must be as many as the values that differ, and their names must be free."""
        if len(self.holes) != len(self.move.values):
            reason = f"the places where this stands differ in {len(self.holes)} values, not {len(self.move.values)}"
            self.object(at, reason, "Name a parameter for each.")
        used = {reference.name for reference in self.handover.references}
        for name in self.move.values:
            if name in used or not self.dialect.rules.is_name(name) or self.move.values.count(name) > 1:
                self.object(at, f"`{name}` means something here already", "Choose another name for the parameter.")

    def object_to_lost_outputs(self, at: int, outputs: Sequence[Symbol]) -> None:
        """What the run sets must come back on every way that it may take."""
        if outputs and any(True for _ in steering(self.run)):
            self.object(
                at,
                f"this may leave before its end, and `{outputs[0].name}` would then not be returned",
                "Carve what sets it on its own.",
            )
        own = sorted(writes(self.run) & self.handover.own, key=lambda symbol: symbol.references[0].start)
        lost = next(filter(self.is_seen_after_error, own), None)
        if lost is not None:
            self.object(
                at,
                f"an error here may be caught further out, and `{lost.name}` would then not be returned",
                "Carve the whole `try`, or what is inside it and sets nothing for later.",
            )

    @property
    def blocks_around(self) -> Iterator[Block]:
        """The blocks around the run, up to that of its routine."""
        for block in self.run[0].block.outwards():
            yield block
            if block.routine is not None:
                return

    def is_seen_after_error(self, symbol: Symbol) -> bool:
        """Whether a name is looked at where control goes when an error in the run is caught, around it or behind."""
        for block in self.blocks_around:
            guard = block.owner
            if guard is None or guard.kind not in (Kind.GUARDED, Kind.RESOURCE):
                continue
            used = (r for other in guard.blocks if other is not block for s in other.walk() for r in s.references)
            if symbol in self.handover.flow.live_after(guard) or any(r.symbol is symbol for r in used):
                return True
        return False

    def stands_in(self, *kinds: Kind) -> bool:
        """Whether a statement of such a kind is around the run, inside of its routine."""
        return any(block.owner is not None and block.owner.kind in kinds for block in self.blocks_around)

    def is_plain(self, function: Function) -> bool:
        """Whether a function is one of the script, or a method with an object, called as it is."""
        if self.home_class is not None:
            has_object = function.receiver is not None and function.receiver.name == self.writer.receiver
            return has_object and not function.statement.decorators
        return function.symbol.is_module_level and function.statement.block.owner is None

    @cached_property
    def home_class(self) -> Scope | None:
        """The class of the method that the run stands in, where it is one of the top level."""
        owner = self.function.statement.block.owner if self.function is not None else None
        is_class = owner is not None and owner.kind is Kind.CLASS and owner.block is self.module.block
        return owner.defines if owner is not None and is_class else None

    @property
    def receiver(self) -> Symbol | None:
        """The object of the method that the run stands in."""
        return self.function.receiver if self.function is not None else None

    @property
    def inputs(self) -> list[Symbol]:
        """What the new function is given; a method has its object anyway."""
        return [symbol for symbol in self.handover.inputs if symbol is not self.receiver]

    @property
    def is_name_taken(self) -> bool:
        """Whether something has the name of the new function, or any object may have a member of that name."""
        if self.home_class is None:
            return self.move.function in self.module.names_in_use
        mentions = Mentions.of(self.program)
        is_mentioned = any(mention.access.name == self.move.function for mention, _ in mentions.known)
        is_bound = any(self.move.function in scope.symbols for scope in mentions.classes)
        is_found_by_text = mentions.are_looked_up_by_text or mentions.unsure[self.move.function] > 0
        return is_mentioned or is_bound or is_found_by_text or self.may_be_inherited(self.home_class)

    def may_be_inherited(self, scope: Scope) -> bool:
        """Whether a class from outside, which a class or an heir of it inherits from, may have such a member."""
        headings = [s for s in self.module.walk() if s.kind is Kind.CLASS]
        concerned = [s for s in headings if s.defines is scope or any(r.name == scope.name for r in s.references)]
        bases = [r for s in concerned for r in s.references if r.mode.reads]
        own = {s.defines.name for s in headings if s.defines is not None}
        foreign = [r for r in bases if r.name not in own and not self.dialect.rules.is_root_class(r.name)]
        library, folder = self.dialect.library, self.module.path.parent
        return any(
            base.path or base.form is not Form.PLAIN or library.may_inherit_member(base, self.move.function, folder)
            for base in foreign
        )

    def object_to_statement(self, statement: Statement) -> None:
        """What a statement of the run does that only its routine can."""
        for way in leaves([statement]) & _WAYS_OUT.keys():
            self.object(statement.start, f"this {_WAYS_OUT[way]}", "Leave that statement where it is.")
        if any(inner.kind in _DEFINING and not _declares_variables(inner) for inner in statement.walk()):
            self.object(statement.start, "this imports, defines or declares something", "Leave it where it is.")
        for inner in statement.walk():
            if inner.assignment is not None and inner.assignment.annotation is not None:
                if any(
                    r.symbol in (*self.handover.shared, *self.handover.begun) for r in inner.references if r.mode.writes
                ):
                    self.object(
                        inner.start, "this declares the type of a shared variable", "Leave that statement where it is."
                    )
        if not self.layout.stands_alone(statement):
            self.object(statement.start, "this shares its line with another statement", "Break the line.")
        if statement is self.module.guard:
            self.object(statement.start, "this is the guard", "Carve the code behind it.")

    def object_to_local(self, symbol: Symbol) -> None:
        """What becomes of a variable that the run shares with its routine."""
        crossing = symbol in self.handover.inputs or symbol in self.handover.outputs
        for reference in symbol.references:
            inside = self.handover.span.start <= reference.start < self.handover.span.end
            if reference.mode is Mode.DELETE and inside and (crossing or not self.is_begun_above(reference)):
                self.object(reference.start, f"`{symbol.name}` is deleted here", "Leave that where it is.")
            if inside and is_hard_to_echo(self.module, reference):
                self.object(
                    reference.start, f"`{symbol.name}` stands in a template that shows its text", "Write it out."
                )
            is_captured = _is_captured(reference, symbol) and not self.stays_the_same(symbol)
            if is_captured and (inside or symbol not in self.handover.begun):
                self.object(
                    reference.start,
                    f"`{symbol.name}` is used by code that may run later, and would be another variable there",
                    "Leave that code and what it uses together.",
                )
                return

    def stays_the_same(self, symbol: Symbol) -> bool:
        """Whether code that runs later would find the same value under a name: it goes along, or never changes."""
        if not self.writer.declares or self.dialect.rules.is_there_early(self.module, symbol):
            return False
        hand = self.handover
        return hand.takes_along(symbol) or (symbol in hand.inputs and hand.is_settled(symbol))

    def object_to_declarations(self, at: int) -> None:
        """What the run declares is known in the new routine, and where that is called if it hands it back."""
        hand = self.handover
        outside = {r.symbol for s in hand.own for r in s.references if not hand.span.start <= r.start < hand.span.end}
        again = {r.symbol for s in hand.own for r in s.references if r.declares and not hand.span.holds(r.span)}
        for symbol in sorted(hand.declared & outside, key=lambda s: s.references[0].start):
            is_lost = symbol not in hand.outputs and symbol not in again
            if symbol in hand.inputs or is_lost:
                self.object(at, f"`{symbol.name}` is declared here, and used elsewhere too", "Declare it further up.")
        handed = [symbol in hand.declared for symbol in hand.outputs]
        if any(handed) and not all(handed):
            first = hand.outputs[handed.index(True)]
            self.object(at, f"`{first.name}` is declared here, and others further up", "Declare it with the others.")
        crossing = [*self.inputs, *hand.undeclared, *(s for s in hand.outputs if s not in hand.inputs)]
        crossing = list(dict.fromkeys(crossing))
        if len({symbol.name for symbol in crossing}) < len(crossing):
            self.object(at, "two of the variables that this uses have one name", "Rename one of them.")
        is_made = self.function is not None and self.dialect.rules.is_constructor(self.function.name)
        if is_made and f"{self.dialect.rules.reaches_base}(" in self.module.source.slice(hand.span):
            self.object(at, "what is inherited is set up here", "Leave that in the constructor.")
        for reference in hand.references:
            is_own = reference.symbol.scope is hand.scope
            if is_own and reference.symbol is not self.receiver and not self.dialect.rules.is_name(reference.name):
                reason = f"`{reference.name}` would be another in a function of its own"
                self.object(reference.start, reason, "Leave what uses it where it is.")

    def is_begun_above(self, reference: Reference) -> bool:
        """Whether a statement of the run itself surely gives a name its value, above a place where it is used."""
        statement = reference.statement
        while statement is not None and self.handover.span.start <= statement.start:
            above = [s for s in statement.block.statements[: statement.index] if s.start >= self.handover.span.start]
            if certainly_assigns(above, reference.symbol):
                return True
            statement = statement.block.owner
        return False


def _is_captured(reference: Reference, symbol: Symbol) -> bool:
    """Whether a reference stands in code that may run at another time than its statement, or in a class."""
    scope = reference.scope
    while scope is not symbol.scope and scope.parent is not None:
        if scope.runs_later or scope.kind is ScopeKind.CLASS:
            return True
        scope = scope.parent
    return False


def _declares_variables(statement: Statement) -> bool:
    """Whether a statement does nothing but declare variables, which then have no value."""
    return statement.kind is Kind.DECLARE and statement.keyword is not None
