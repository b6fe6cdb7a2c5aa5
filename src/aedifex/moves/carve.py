"""carve: some statements of a function, or of the main code, become a function of their own.

What they need of the locals comes in as arguments, what is used afterwards is returned, by data flow. `adopt` then
makes the function a method.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.clones import equal_runs
from aedifex.moves.kit.control_exits import Answer, WaysOut, steering, ways_out, with_last_return
from aedifex.moves.kit.move import Objections, module_of
from aedifex.moves.kit.rewriter import Rewriter
from aedifex.moves.kit.rewriting import Parameter as Local
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.definite_assignment import bound_before, surely_sets
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import Flow, leaves, reads, writes
from aedifex.program.model.module import Module
from aedifex.program.model.names import MAIN, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Block, Kind, Leave, Routine, Statement
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.obstacles import hindrance_obstacles, is_hard_to_echo
from aedifex.source.edits import Taken
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span

_WAYS_OUT = {
    Leave.YIELD: "hands values out one by one",
    Leave.AWAIT: "waits for something asynchronous",
}
_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.IMPORT, Kind.DECLARE, Kind.ALIAS})


@dataclass(frozen=True)
class Carve:
    """Make a function of the statements on the lines `first` to `last` of `routine`, or of the main code.

    Variables of the main code that live on from turn to turn stay shared, and so do those named in `owned`; what
    set-up statements give its first value is handed out instead, where nothing else looks at it in the meantime.
    """

    name: ClassVar[str] = "carve"
    summary: ClassVar[str] = (
        "Some statements become a function: what they need comes in, what they set goes out.\n"
        "Where they may leave a loop or the function, it answers whether to go on."
    )

    path: Path
    routine: str
    first: int
    last: int
    function: str
    owned: frozenset[str] = frozenset()

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        routine = None if self.routine == MAIN else module.routine(self.routine)
        if routine is None and self.routine != MAIN:
            raise RefusedError(f"{module.path.name} has no function {self.routine!r}")
        run = run_on_lines(module, routine, self.first, self.last)
        if not run:
            raise RefusedError(
                f"lines {self.first}-{self.last} are no whole statements of {self.routine}",
                module.source.place(module.source.line_starts[min(self.first, module.source.line_count) - 1]),
                "Name the first and the last line of statements that stand side by side.",
            )
        return _Carving(self, module, routine, with_last_return(run, routine)).plan()


def run_on_lines(module: Module, routine: Routine | None, first: int, last: int) -> list[Statement]:
    """The statements side by side that fill these lines; empty where lines cut through one."""
    block = routine.body if routine is not None else module.block
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
    source = module.source
    return source.line_of(statement.start), source.line_of(max(statement.start, statement.end - 1))


class _Carving:
    def __init__(self, move: Carve, module: Module, routine: Routine | None, run: Sequence[Statement]) -> None:
        self.move = move
        self.module = module
        self.routine = routine
        self.run = list(run)
        self.scope = routine.scope if routine is not None else module.scope
        self.flow = Flow(module, routine)
        self.rewriting = Rewriting()
        self.rewriter = Rewriter(module, self.rewriting)
        self.layout = self.rewriter.layout
        self.span = Span(run[0].start, run[-1].end)
        self.ways = ways_out(module, self.run, routine)

    def plan(self) -> Rewriting:
        self.object()
        self.write_function()
        self.write_call()
        self.call_from_twins()
        for reference in self.module.references_within(self.span):
            if reference.symbol in self.own:
                self.rewriting.went[reference] = Local(self.move.function, reference.name)
        self.rewriter.finish()
        return self.rewriting

    # -- data flow

    @cached_property
    def own(self) -> set[Symbol]:
        """The names of the routine that the run uses; of the main code those that nobody else does, and `begun`."""
        used = {r.symbol for r in self.module.references_within(self.span) if r.symbol.scope is self.scope}
        if self.routine is not None:
            return used
        passing = set(MainCode.of(self.module).locals)
        return {s for s in used if s in passing and s.name not in self.move.owned} | self.begun

    @cached_property
    def begun(self) -> set[Symbol]:
        """The shared variables that set-up statements give their first value, and so can hand out."""
        main = MainCode.of(self.module)
        if self.routine is not None or self.run[0] not in main.set_up:
            return set()
        effects = Effects.of(self.module)
        running = {routine for statement in self.run for routine in effects.run_by(statement)}
        seen = {symbol for routine in running for symbol in effects.direct[routine].touches}
        fields = set(main.fields) - seen
        return {s for s in fields if s.name not in self.move.owned and self.is_begun(s)}

    def is_begun(self, symbol: Symbol) -> bool:
        """Whether nothing of the main code has to do with a variable before the run surely sets it."""
        first = min((r for r in symbol.references if r.scope is self.scope), key=lambda r: r.start, default=None)
        statement = first.statement if first is not None else None
        if statement is None or statement not in self.run or symbol.name in self.module.used_elsewhere:
            return False
        here = [r for r in statement.references if r.symbol is symbol]
        return statement.kind is Kind.ASSIGN and all(r.mode is Mode.WRITE and not r.path for r in here)

    @cached_property
    def outputs(self) -> list[Symbol]:
        """What the run sets and is looked at afterwards."""
        after = self.flow.live_after(self.run[-1]) | self.live_outside | self.begun
        return self.in_order(s for s in writes(self.run) if s in self.own and s in after)

    @property
    def live_outside(self) -> frozenset[Symbol]:
        """What is looked at where control goes that leaves the run before its end."""
        loop = self.run[0].block.owner
        while loop is not None and loop.kind not in (Kind.LOOP, Kind.EACH):
            loop = loop.block.owner if loop.block.routine is None else None
        if loop is None or self.ways == WaysOut():
            return frozenset()
        return self.flow.live_after(loop) | self.flow.live_before(loop)

    @cached_property
    def inputs(self) -> list[Symbol]:
        """What the run needs from before it: what it reads, and what it may leave as it was."""
        before = self.flow.live_before(self.run[0])
        needed = {s for s in reads(self.run) if s in self.own and s in before}
        needed |= {s for s in self.outputs if not surely_sets(self.run, s)}
        return self.in_order(needed - self.begun)

    @cached_property
    def shared(self) -> list[Symbol]:
        """The module variables that the run gives other values to."""
        set_here = {r.symbol for r in self.module.references_within(self.span) if r.mode.writes}
        return self.in_order(s for s in set_here if s.is_module_level and s not in self.own)

    def in_order(self, symbols: Iterable[Symbol]) -> list[Symbol]:
        return sorted(symbols, key=lambda symbol: symbol.references[0].start)

    # -- reasons against it

    def object(self) -> None:
        objections = Objections(self.module)
        for statement in self.run:
            self.object_to_statement(objections, statement)
        if self.move.function in self.module.names_in_use:
            objections.add(self.span.start, f"the name `{self.move.function}` is in use already", "Choose another.")
        if self.routine is not None and not self.is_plain(self.routine):
            objections.add(
                self.span.start, f"`{self.routine.name}` is no plain function of the script", "Carve it by hand."
            )
        for obstacle in hindrance_obstacles(self.module, [symbol.name for symbol in self.own]):
            objections.add(*obstacle)
        for symbol in self.own:
            self.object_to_local(objections, symbol)
        for symbol in self.inputs:
            if not bound_before(self.run[0], symbol):
                objections.add(
                    self.span.start,
                    f"`{symbol.name}` may not have a value yet here, so it cannot be passed in",
                    "Give it a first value further up.",
                )
        if self.ways.refusal:
            objections.add(self.span.start, f"this {self.ways.refusal}", "Carve all of the loop, or less of it.")
        if self.outputs and any(True for _ in steering(self.run)):
            objections.add(
                self.span.start,
                f"this may leave before its end, and `{self.outputs[0].name}` would then not be returned",
                "Carve what sets it on its own.",
            )
        if self.outputs and self.is_guarded:
            objections.add(
                self.span.start,
                f"an error here may be caught further out, and `{self.outputs[0].name}` would then not be returned",
                "Carve the whole `try`, or what is inside it and sets nothing for later.",
            )
        objections.raise_any()

    @property
    def is_guarded(self) -> bool:
        """Whether the run lies in a statement that may catch its errors."""
        statement: Statement | None = self.run[0]
        while statement is not None and statement.block.routine is None:
            statement = statement.block.owner
            if statement is not None and statement.kind in (Kind.GUARDED, Kind.RESOURCE):
                return True
        return False

    def is_plain(self, routine: Routine) -> bool:
        symbol = routine.symbol
        is_own = symbol is not None and symbol.is_module_level and routine.statement is not None
        return is_own and routine.statement is not None and routine.statement.block.owner is None

    def object_to_statement(self, objections: Objections, statement: Statement) -> None:
        for way in leaves([statement]) & _WAYS_OUT.keys():
            objections.add(statement.start, f"this {_WAYS_OUT[way]}", "Leave that statement where it is.")
        if any(inner.kind in _DEFINING for inner in statement.walk()):
            objections.add(statement.start, "this imports, defines or declares something", "Leave it where it is.")
        for inner in statement.walk():
            if inner.assignment is not None and inner.assignment.annotation is not None:
                if any(r.symbol in (*self.shared, *self.begun) for r in inner.references if r.mode.writes):
                    objections.add(
                        inner.start, "this declares the type of a shared variable", "Leave that statement where it is."
                    )
        if not self.layout.stands_alone(statement):
            objections.add(statement.start, "this shares its line with another statement", "Break the line.")
        if statement is self.module.guard:
            objections.add(statement.start, "this is the guard", "Carve the code behind it.")

    def object_to_local(self, objections: Objections, symbol: Symbol) -> None:
        crossing = symbol in self.inputs or symbol in self.outputs
        for reference in symbol.references:
            inside = self.span.start <= reference.start < self.span.end
            if reference.mode is Mode.DELETE and inside and crossing:
                objections.add(reference.start, f"`{symbol.name}` is deleted here", "Leave that where it is.")
            if inside and is_hard_to_echo(self.module, reference):
                objections.add(
                    reference.start, f"`{symbol.name}` stands in a template that shows its text", "Write it out."
                )
            if _is_captured(reference, symbol) and (inside or symbol not in self.begun):
                objections.add(
                    reference.start,
                    f"`{symbol.name}` is used by code that may run later, and would be another variable there",
                    "Leave that code and what it uses together.",
                )
                return

    # -- writing

    def write_function(self) -> None:
        unit = self.layout.indent
        names = ", ".join(symbol.name for symbol in self.inputs)
        pieces: list[str | Taken] = [self.module.dialect.function_head(self.move.function, names)]
        if self.shared:
            shared = ", ".join(symbol.name for symbol in self.shared)
            pieces.append(f"{unit}{self.module.dialect.module_word} {shared}\n")
        pieces += self.body(unit)
        if self.outputs:
            pieces.append(f"{unit}return {', '.join(symbol.name for symbol in self.outputs)}\n")
        self.write_ways_out(unit, pieces)
        at = self.layout.lines(self.home).start
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces, "\n\n")

    def write_ways_out(self, unit: str, pieces: list[str | Taken]) -> None:
        """Each way out becomes an answer; where the last statement already asks, its answer is handed on."""
        if self.ways.answer is Answer.SAME:
            return
        dialect = self.module.dialect
        asks = self.ways.answer is Answer.GO_ON
        last = self.run[-1]
        question = self.last_question if asks else None
        for statement, way in steering(self.run):
            if question is None or statement.block.owner is not last:
                text = f"return {dialect.truth(way in self.ways.yes)}" if asks else "return"
                self.rewriting.changes.replace(self.module.path, statement.span, text)
        if question is not None:
            self.rewriting.changes.replace(self.module.path, Span(last.start, question.start), "return ")
            self.rewriting.changes.replace(self.module.path, Span(question.end, last.end), "")
        elif asks and last.kind is not Kind.LEAVE:
            pieces.append(f"{unit}return {dialect.truth(True)}\n")

    @property
    def last_question(self) -> Span | None:
        """The call of which the last statement asks whether to go on, if that is all that it does."""
        last = self.run[-1]
        if last.kind is not Kind.BRANCH or len(last.blocks) != 1 or len(last.blocks[0].statements) != 1:
            return None
        only = last.blocks[0].statements[0]
        does = self.module.source.slice(only.span)
        if only.kind is not Kind.LEAVE or does != self.ways.action or len(last.calls) != 1:
            return None
        call = Span(last.calls[0].start, last.calls[0].end)
        head = self.module.source.slice(Span(last.start, last.header_end))
        asked = self.module.dialect.unless(self.module.source.slice(call), "", "", "")
        return call if head.strip() == asked.strip() and not self.has_comment(last) else None

    def has_comment(self, statement: Statement) -> bool:
        return any(statement.start <= comment.start < statement.end for comment in self.module.comments)

    def body(self, unit: str) -> list[str | Taken]:
        margin = self.layout.margin(self.run[0])
        lines = Span(self.layout.lines(self.run[0]).start, self.layout.own_lines(self.run[-1]).end)
        return self.rewriter.lines_taken(lines, dedent=margin, indent=unit)

    def call_from_twins(self) -> None:
        """What is written alike elsewhere, and needs and sets the same, becomes the same call."""
        if self.ways != WaysOut():
            return
        for routine, run in equal_runs(self.module, self.run, self.home):
            twin = _Carving(self.move, self.module, routine, run)
            if not twin.is_like(self):
                continue
            lines = Span(self.layout.own_lines(run[0]).start, self.layout.own_lines(run[-1]).end)
            self.rewriter.insert(lines.start, f"{self.layout.margin(run[0])}{twin.call}\n")
            self.rewriter.remove(lines)
            self.rewriting.dropped.update(self.module.references_within(twin.span))

    def is_like(self, other: _Carving) -> bool:
        """Whether this run could be the same function as another: the same names, with the same meaning."""
        try:
            self.object()
        except RefusedError:
            return False
        return self.meaning == other.meaning and self.call == other.call

    @property
    def meaning(self) -> list[str | Symbol]:
        """What each name of the run means: a variable of its own by its name, any other itself."""
        found = self.module.references_within(self.span)
        return [r.name if r.symbol in self.own or self.is_inner(r.symbol) else r.symbol for r in found]

    def is_inner(self, symbol: Symbol) -> bool:
        return symbol.scope is not self.scope and symbol.scope.within(self.scope)

    @property
    def home(self) -> Statement:
        """The top-level statement above which the function is put."""
        home = self.routine.statement if self.routine is not None else self.run[0].outermost
        assert home is not None
        return home

    @property
    def call(self) -> str:
        call = f"{self.move.function}({', '.join(symbol.name for symbol in self.inputs)})"
        return f"{', '.join(symbol.name for symbol in self.outputs)} = {call}" if self.outputs else call

    def write_call(self) -> None:
        margin = self.layout.margin(self.run[0])
        line = f"{margin}{self.call}\n"
        if self.ways.answer is Answer.SAME:
            line = f"{margin}return {self.call}\n"
        elif self.ways.way is not None:
            line = self.module.dialect.unless(self.call, self.ways.action, margin, self.layout.indent)
        lines = Span(self.layout.lines(self.run[0]).start, self.layout.own_lines(self.run[-1]).end)
        self.rewriter.insert(lines.start, line)
        self.rewriter.remove(lines)


def _is_captured(reference: Reference, symbol: Symbol) -> bool:
    """Whether a reference stands in code that may run at another time than its statement."""
    scope = reference.scope
    while scope is not symbol.scope and scope.parent is not None:
        if scope.kind in (ScopeKind.ROUTINE, ScopeKind.LAMBDA, ScopeKind.CLASS) or scope.name == "genexpr":
            return True
        scope = scope.parent
    return False
