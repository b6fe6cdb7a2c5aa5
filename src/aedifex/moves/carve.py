"""carve: some statements of a function, or of the main code, become a function of their own.

What they need of the locals comes in as arguments, what is used afterwards is returned, by data flow. `adopt` then
makes the function a method; what is carved out of a method is one already.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.clones import equal_runs
from aedifex.moves.kit.control_exits import ControlExits, ExitSignal, control_exits, steering, with_last_return
from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.handover import Handover, run_on_lines
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Parameter as Local
from aedifex.moves.kit.rewriting import Receiver, Rewriting
from aedifex.program.analysis.definite_assignment import bound_before, certainly_assigns
from aedifex.program.analysis.flow import leaves
from aedifex.program.analysis.members import Mentions
from aedifex.program.dialect.writer import Frame, Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import MAIN, Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Block, Function, Kind, Leave, Statement
from aedifex.program.structure.obstacles import hindrance_obstacles, is_hard_to_echo
from aedifex.source.edits import Taken
from aedifex.source.errors import RefusedError, UsageError
from aedifex.source.text import Span

_WAYS_OUT = {
    Leave.YIELD: "hands values out one by one",
    Leave.AWAIT: "waits for something asynchronous",
}
_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.IMPORT, Kind.DECLARE, Kind.ALIAS})


@dataclass(frozen=True)
class Carve:
    """Make a function of the statements on the lines `first` to `last` of `routine`, or of the main code.

    Out of a method they become a method of the same class.

    Variables of the main code that live on from turn to turn stay shared, and so do those named in `owned`; what
    set-up statements give its first value is handed out instead, where nothing else looks at it in the meantime.
    """

    name: ClassVar[str] = "carve"

    path: Path
    routine: str
    first: int
    last: int
    function: str
    owned: frozenset[str] = frozenset()

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        function = None if self.routine == MAIN else module.function(self.routine)
        if function is None and self.routine != MAIN:
            raise RefusedError(f"{module.path.name} has no function {self.routine!r}")
        run = run_on_lines(module, function, self.first, self.last)
        if not run:
            raise RefusedError(
                f"lines {self.first}-{self.last} are no whole statements of {self.routine}",
                module.source.place(module.source.line_starts[min(self.first, module.source.line_count) - 1]),
                "Name the first and the last line of statements that stand side by side.",
            )
        return _Carving(self, program, module, function, with_last_return(run, function)).plan()


class _Carving(Planner):
    def __init__(
        self, move: Carve, program: Program, module: Module, function: Function | None, run: Sequence[Statement]
    ) -> None:
        super().__init__(module)
        self.move = move
        self.program = program
        self.function = function
        self.run = list(run)
        self.exits = control_exits(module, self.run, function)
        self.handover = Handover(module, function, self.run, move.owned, self.exits)

    def write(self) -> None:
        self.write_function()
        self.write_call()
        self.call_from_twins()
        for reference in self.module.references_within(self.handover.span):
            if reference.symbol is self.receiver and self.home_class is not None:
                self.rewriting.destinations[reference] = Receiver(self.home_class.name)
            elif reference.symbol in self.handover.own:
                self.rewriting.destinations[reference] = Local(self.move.function, reference.name)

    # -- reasons against it

    def find_objections(self) -> None:
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
        if self.receiver is not None and len(self.receiver.bindings) > 1:
            self.object(at, f"`{self.receiver.name}` gets another value here", "Leave the object its name.")
        for symbol in self.inputs:
            if not bound_before(self.run[0], symbol):
                self.object(
                    at,
                    f"`{symbol.name}` may not have a value yet here, so it cannot be passed in",
                    "Give it a first value further up.",
                )
        if any(block.owner is not None and block.owner.kind is Kind.CLASS for block in self.blocks_around):
            self.object(at, "this stands in a class, and its names would not be the class's", "Carve from a method.")
        if self.exits.refusal:
            self.object(at, f"this {self.exits.refusal}", "Carve all of the loop, or less of it.")
        if hand.outputs:
            self.object_to_lost_outputs(at, hand.outputs[0].name)

    def object_to_lost_outputs(self, at: int, name: str) -> None:
        """What the run sets must come back on every way that it may take."""
        if any(True for _ in steering(self.run)):
            self.object(
                at,
                f"this may leave before its end, and `{name}` would then not be returned",
                "Carve what sets it on its own.",
            )
        if self.is_guarded:
            self.object(
                at,
                f"an error here may be caught further out, and `{name}` would then not be returned",
                "Carve the whole `try`, or what is inside it and sets nothing for later.",
            )

    @property
    def blocks_around(self) -> Iterator[Block]:
        """The blocks around the run, up to that of its routine."""
        for block in self.run[0].block.outwards():
            yield block
            if block.routine is not None:
                return

    @property
    def is_guarded(self) -> bool:
        """Whether the run lies in a statement that may catch its errors."""
        statement: Statement | None = self.run[0]
        while statement is not None and statement.block.routine is None:
            statement = statement.block.owner
            if statement is not None and statement.kind in (Kind.GUARDED, Kind.RESOURCE):
                return True
        return False

    def is_plain(self, function: Function) -> bool:
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
        is_inherited = mentions.is_derived(self.home_class)
        return is_mentioned or is_bound or is_found_by_text or is_inherited

    def object_to_statement(self, statement: Statement) -> None:
        for way in leaves([statement]) & _WAYS_OUT.keys():
            self.object(statement.start, f"this {_WAYS_OUT[way]}", "Leave that statement where it is.")
        if any(inner.kind in _DEFINING for inner in statement.walk()):
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
        crossing = symbol in self.handover.inputs or symbol in self.handover.outputs
        for reference in symbol.references:
            inside = self.handover.span.start <= reference.start < self.handover.span.end
            if reference.mode is Mode.DELETE and inside and (crossing or not self.is_begun_above(reference)):
                self.object(reference.start, f"`{symbol.name}` is deleted here", "Leave that where it is.")
            if inside and is_hard_to_echo(self.module, reference):
                self.object(
                    reference.start, f"`{symbol.name}` stands in a template that shows its text", "Write it out."
                )
            if _is_captured(reference, symbol) and (inside or symbol not in self.handover.begun):
                self.object(
                    reference.start,
                    f"`{symbol.name}` is used by code that may run later, and would be another variable there",
                    "Leave that code and what it uses together.",
                )
                return

    def is_begun_above(self, reference: Reference) -> bool:
        """Whether a statement of the run itself surely gives a name its value, above a place where it is used."""
        statement = reference.statement
        while statement is not None and self.handover.span.start <= statement.start:
            above = [s for s in statement.block.statements[: statement.index] if s.start >= self.handover.span.start]
            if certainly_assigns(above, reference.symbol):
                return True
            statement = statement.block.owner
        return False

    # -- writing

    def write_function(self) -> None:
        margin = self.layout.margin(self.home) if self.home_class is not None else ""
        unit = margin + self.layout.indent
        pieces: list[Piece] = [self.frame.head]
        if self.handover.shared:
            pieces += self.writer.sharing([symbol.name for symbol in self.handover.shared], unit)
        pieces += self.body(unit)
        if self.handover.outputs:
            pieces.append(f"{unit}{self.writer.handing_back([symbol.name for symbol in self.handover.outputs])}\n")
        self.write_exits(unit, pieces)
        if self.home_class is not None:
            end = self.layout.own_lines(self.home).end
            self.rewriter.insert(end, "\n", *pieces, self.frame.tail)
            return
        at = self.layout.lines(self.home).start
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces, self.frame.tail, self.layout.gap)

    @property
    def frame(self) -> Frame:
        names = [symbol.name for symbol in self.inputs]
        if self.home_class is None:
            return self.writer.function_frame(self.move.function, ", ".join(names))
        return self.writer.method_frame(self.move.function, names, self.layout.margin(self.home), self.layout.indent)

    def write_exits(self, unit: str, pieces: list[Piece]) -> None:
        """Each way out becomes an answer; where the last statement already asks, its answer is handed on."""
        if self.exits.answer is ExitSignal.SAME:
            return
        writer, changes, path = self.writer, self.rewriting.changes, self.module.path
        asks = self.exits.answer is ExitSignal.GO_ON
        last = self.run[-1]
        question = self.last_question if asks else None
        for statement, way in steering(self.run):
            if question is None or statement.block.owner is not last:
                answer = [writer.truth(way in self.exits.yes)] if asks else []
                changes.replace(path, statement.span, *writer.returning(answer))
        if question is not None:
            before, after = self.around(writer.returning([self.rewriter.taken(question)]))
            changes.replace(path, Span(last.start, question.start), before)
            changes.replace(path, Span(question.end, last.end), after)
        elif asks and last.kind is not Kind.LEAVE:
            pieces += [unit, *writer.returning([writer.truth(True)]), "\n"]

    def around(self, pieces: Sequence[Piece]) -> tuple[str, str]:
        """What stands before and behind the one piece of text that is carried over."""
        texts = ["".join(p for p in part if isinstance(p, str)) for part in _parted(pieces)]
        return texts[0], texts[1]

    @property
    def last_question(self) -> Span | None:
        """The call of which the last statement asks whether to go on, if that is all that it does."""
        last = self.run[-1]
        if last.kind is not Kind.BRANCH or len(last.blocks) != 1 or len(last.blocks[0].statements) != 1:
            return None
        only = last.blocks[0].statements[0]
        does = self.module.source.slice(only.span)
        if only.kind is not Kind.LEAVE or does != self.exits.action or len(last.calls) != 1:
            return None
        call = last.calls[0].span
        asked = self.writer.asks_unless(self.module.source.slice(Span(last.start, last.header_end)).strip())
        return call if asked == self.module.source.slice(call) and not self.has_comment(last) else None

    def has_comment(self, statement: Statement) -> bool:
        return any(statement.start <= comment.start < statement.end for comment in self.module.comments)

    def body(self, unit: str) -> list[Piece]:
        margin = self.layout.margin(self.run[0])
        lines = Span(self.layout.lines(self.run[0]).start, self.layout.own_lines(self.run[-1]).end)
        return self.rewriter.lines_taken(lines, dedent=margin, indent=unit)

    def call_from_twins(self) -> None:
        """What is written alike elsewhere, and needs and sets the same, becomes the same call."""
        if self.exits != ControlExits() or self.home_class is not None:
            return
        for function, run in equal_runs(self.module, self.run, self.home):
            twin = _Carving(self.move, self.program, self.module, function, run)
            if not twin.is_like(self):
                continue
            lines = Span(self.layout.own_lines(run[0]).start, self.layout.own_lines(run[-1]).end)
            self.rewriter.insert(lines.start, f"{self.layout.margin(run[0])}{twin.call}\n")
            self.rewriter.remove(lines)
            self.rewriting.dropped.update(self.module.references_within(twin.handover.span))

    def is_like(self, other: _Carving) -> bool:
        """Whether this run could be the same function as another: the same names, with the same meaning."""
        self.find_objections()
        is_alike = self.meaning == other.meaning and self.call == other.call and self.exits == other.exits
        return not self.objections.found and is_alike

    @property
    def meaning(self) -> list[str | Symbol]:
        """What each name of the run means: a variable of its own by its name, any other itself."""
        found = self.module.references_within(self.handover.span)
        return [r.name if r.symbol in self.handover.own or self.is_inner(r.symbol) else r.symbol for r in found]

    def is_inner(self, symbol: Symbol) -> bool:
        return symbol.scope is not self.handover.scope and symbol.scope.within(self.handover.scope)

    @property
    def home(self) -> Statement:
        """The statement above which the function is put; a method stands below the one that it comes from."""
        return self.function.statement if self.function is not None else self.run[0].outermost

    @property
    def call(self) -> str:
        target = self.move.function
        if self.home_class is not None:
            target = self.writer.member(self.writer.receiver, target)
        call = self.writer.call(target, [symbol.name for symbol in self.inputs])
        return self.writer.result([symbol.name for symbol in self.handover.outputs], call)

    def write_call(self) -> None:
        margin = self.layout.margin(self.run[0])
        line: list[Piece] = [margin, self.call, "\n"]
        if self.exits.answer is ExitSignal.SAME:
            line = [margin, *self.writer.returning([self.call]), "\n"]
        elif self.exits.way is not None:
            line = [self.writer.unless(self.call, self.exits.action, margin, self.layout.indent)]
        lines = Span(self.layout.lines(self.run[0]).start, self.layout.own_lines(self.run[-1]).end)
        self.rewriter.insert(lines.start, *line)
        self.rewriter.remove(lines)


def _parted(pieces: Sequence[Piece]) -> tuple[Sequence[Piece], Sequence[Piece]]:
    at = next(number for number, piece in enumerate(pieces) if isinstance(piece, Taken))
    return pieces[:at], pieces[at + 1 :]


def _is_captured(reference: Reference, symbol: Symbol) -> bool:
    """Whether a reference stands in code that may run at another time than its statement, or in a class."""
    scope = reference.scope
    while scope is not symbol.scope and scope.parent is not None:
        if scope.runs_later or scope.kind is ScopeKind.CLASS:
            return True
        scope = scope.parent
    return False


def _by_hand(program: Program, script: Path, given: Given) -> list[Carve]:
    found = re.fullmatch(r"(\d+)(?:-(\d+))?", given["lines"])
    if found is None or not program.dialect.rules.is_name(given["function"]):
        raise UsageError("say which lines, as in 40-47, and a name for the function")
    first, last = int(found[1]), int(found[2] or found[1])
    return [Carve(script, given["of"] or MAIN, first, last, given["function"])]


MOVE = Description(
    name="carve",
    place=20,
    summary=(
        "Some statements become a function: what they need comes in, what they set goes out.\n"
        "Where they may leave a loop or the function, it answers whether to go on."
    ),
    term="Extract Method",
    help="Make a function of some lines of the main code, or of another function.",
    parameters=(
        StepParameter("lines", Takes.ONE, "FIRST-LAST"),
        StepParameter("function", Takes.ONE, "NAME"),
        StepParameter(
            "of", Takes.OPTION, "FUNCTION", "Where the lines are, as load or Ferry.load; the main code else."
        ),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="4-5 weigh --of load",
        before="""\
def load(carts, room):
    left = room
    taken = [cart for cart in carts if cart]
    left -= len(taken)
    carts.clear()
    return left


print(load(["hay", "milk"], 5))
""",
        after={
            "harbour.py": """\
def weigh(carts, left, taken):
    left -= len(taken)
    carts.clear()
    return left


def load(carts, room):
    left = room
    taken = [cart for cart in carts if cart]
    left = weigh(carts, left, taken)
    return left


print(load(["hay", "milk"], 5))
""",
        },
    ),
)
