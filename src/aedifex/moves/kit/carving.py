"""Statements that become a function or method of their own, and the calls of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from aedifex.design.dividing.names_from_comments import plain_words
from aedifex.moves.kit.carving_checks import Carved, CarvingChecks
from aedifex.moves.kit.control_exits import ControlExits, ExitSignal, steering, with_last_return
from aedifex.moves.kit.handover import run_on_lines
from aedifex.moves.kit.rewriting import Parameter as Local
from aedifex.moves.kit.rewriting import Receiver
from aedifex.program.analysis.flow import writes
from aedifex.program.analysis.values import plainly_given
from aedifex.program.dialect.writer import Frame, Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import MAIN, Form, Mode, Scope, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Statement
from aedifex.source.edits import Taken
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.words import singular, words_of


def carving_of_lines(program: Program, module: Module, routine: str, lines: tuple[int, int], made: Carved) -> Carving:
    """The plan for the statements on some lines of a routine, or of the main code.

    Raises:
        RefusedError: there is no such routine, or the lines are no whole statements of it.
    """
    function = None if routine == MAIN else module.function(routine)
    if function is None and routine != MAIN:
        raise RefusedError(f"{module.path.name} has no function {routine!r}")
    run = run_on_lines(module, function, *lines)
    if not run:
        raise RefusedError(
            f"lines {lines[0]}-{lines[1]} are no whole statements of {routine}",
            module.source.place(module.source.line_starts[min(lines[0], module.source.line_count) - 1]),
            "Name the first and the last line of statements that stand side by side.",
        )
    return Carving(made, program, module, function, with_last_return(run, function))


class Carving(CarvingChecks):
    """Works out how a run of statements of a routine, or of the main code, becomes one."""

    def write(self) -> None:
        """Write the function, and the calls of it."""
        self.put_parameters_in()
        self.write_function()
        self.write_call()
        self.call_from_twins()
        self.drop_idle_values()
        for reference in self.handover.references:
            if reference.symbol is self.receiver and self.home_class is not None:
                self.rewriting.destinations[reference] = Receiver(self.home_class.name)
            elif reference.symbol in self.handover.own and not self.goes_along(reference.symbol.scope):
                self.rewriting.destinations[reference] = Local(self.move.function, reference.name)

    def goes_along(self, scope: Scope) -> bool:
        """Whether the names of a scope come and go inside the run."""
        return self.handover.span.holds(Span(scope.start, scope.end))

    def drop_idle_values(self) -> None:
        """Plain first values of what is now known in the function alone go: nothing looks at them."""
        own = {s for s in self.handover.own if s not in self.inputs and not self.module.is_known_outside(s.name)}
        inside = self.handover.span
        for statement in {r.statement for symbol in own for r in symbol.bindings}:
            if statement is not None and not inside.holds(statement.span) and self.is_idle(statement, own):
                self.rewriter.drop(statement.references)
                self.rewriter.remove(self.layout.lines(statement))

    def is_idle(self, statement: Statement, own: set[Symbol]) -> bool:
        """Whether a statement outside of the run only gives values that nothing outside of it reads."""
        given, inside = plainly_given(statement), self.handover.span
        outside = [r for s in given for r in s.references if not inside.start <= r.start < inside.end]
        is_unread = bool(given) and own.issuperset(given) and all(r.mode is Mode.WRITE for r in outside)
        is_free = self.layout.stands_alone(statement) and not self.layout.comment_above(statement)
        return is_unread and is_free and len(statement.block.statements) > 1

    def write_function(self) -> None:
        """Write the function above the code that it comes from, or the method below."""
        margin = self.layout.margin(self.home) if self.home_class is not None else ""
        unit = margin + self.layout.indent
        pieces: list[Piece] = [self.frame.head]
        if self.handover.shared:
            pieces += self.writer.sharing([symbol.name for symbol in self.handover.shared], unit)
        if self.handover.undeclared:
            names = [symbol.name for symbol in self.handover.undeclared]
            pieces += [unit, *self.writer.declaration(self.writer.declares, names), "\n"]
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
        """What stands around the body."""
        names = [*(symbol.name for symbol in self.inputs), *self.move.values]
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
        """Whether a comment stands in a statement."""
        return any(statement.start <= comment.start < statement.end for comment in self.module.comments)

    def body(self, unit: str) -> list[Piece]:
        """The lines of the run, indented anew."""
        margin = self.layout.margin(self.run[0])
        first = self.layout.own_lines(self.run[0]) if self.says_its_name else self.layout.lines(self.run[0])
        lines = Span(first.start, self.layout.own_lines(self.run[-1]).end)
        return self.rewriter.lines_taken(lines, dedent=margin, indent=unit)

    @property
    def says_its_name(self) -> bool:
        """Whether the comment above the run is one line, and says no more than its name and what it changes."""
        above = Span(self.layout.lines(self.run[0]).start, self.layout.own_lines(self.run[0]).start)
        said = {singular(word) for word in plain_words(self.layout.comment_above(self.run[0]))}
        changed = (words_of(symbol.name) for symbol in writes(self.run))
        named = {singular(word) for word in plain_words(self.move.function)}
        known = named | {singular(word) for words in changed for word in words}
        is_one = len(self.module.source.slice(above).strip().splitlines()) == 1
        return is_one and bool(said & named) and said <= known

    def call_from_twins(self) -> None:
        """What is written alike elsewhere, and needs and sets the same, becomes the same call."""
        if self.exits != ControlExits() or self.home_class is not None:
            return
        for found in self.twins:
            run = found.run
            made, passed = replace(self.move, values=()), self.places_passed(run)
            twin = Carving(made, self.program, self.module, found.routine, run, passed)
            if not twin.is_like(self):
                continue
            lines = Span(self.layout.own_lines(run[0]).start, self.layout.own_lines(run[-1]).end)
            self.rewriter.insert(lines.start, f"{self.layout.margin(run[0])}{twin.call_with(self.values_in(run))}\n")
            self.rewriter.remove(lines)
            self.rewriting.dropped.update(self.module.references_within(twin.handover.span))

    def is_like(self, other: Carving) -> bool:
        """Whether this run could be the same function as another: the same names, with the same meaning."""
        self.find_objections()
        is_alike = self.meaning == other.meaning and self.exits == other.exits
        return not self.objections.found and is_alike

    @property
    def meaning(self) -> list[str | Symbol]:
        """What each name of the run means, and what comes out of it in which order.

        One that comes in goes by its name, one of its own by its number, whether or not it goes out.
        """
        crossing = set(self.handover.inputs)
        numbers: dict[Symbol, str] = {}
        found: list[str | Symbol] = [symbol.name for symbol in self.inputs]
        for reference in [*self.handover.references, *(s.references[0] for s in self.handover.outputs)]:
            symbol = reference.symbol
            if symbol in crossing:
                found.append(symbol.name)
            elif symbol in self.handover.own or self.is_inner(symbol):
                found.append(numbers.setdefault(symbol, str(len(numbers))))
            else:
                found.append(symbol)
        return found

    def is_inner(self, symbol: Symbol) -> bool:
        """Whether a variable belongs to a routine inside of this one."""
        return symbol.scope is not self.handover.scope and symbol.scope.within(self.handover.scope)

    def put_parameters_in(self) -> None:
        """Each value that differs becomes the parameter for it; names in it stand in the call from now on."""
        shape = self.shape_of(self.run) if self.holes else None
        if shape is None:
            return
        for name, hole in zip(self.move.values, self.holes, strict=True):
            for place in hole:
                span = shape.values[place]
                if self.module.source.slice(span) == name:
                    self.rewriting.destinations[self.module.reference_at[span.start]] = Local(self.move.function, name)
                    continue
                self.rewriting.changes.replace(self.module.path, span, name)
                self.rewriting.dropped.update(self.module.references_within(span))

    @property
    def call(self) -> str:
        """The call that stands in the run's place."""
        return self.call_with(self.values_in(self.run))

    def call_with(self, values: Sequence[str]) -> str:
        """The call with such plain values."""
        outputs = self.handover.outputs
        names = [symbol.name for symbol in outputs]
        return self.writer.result(names, self.question_with(values), self.keyword_for(outputs))

    def question_with(self, values: Sequence[str]) -> str:
        """The call alone, as part of a statement."""
        target = self.move.function
        if self.home_class is not None:
            target = self.writer.member(self.writer.receiver, target)
        return self.writer.call(target, [*(symbol.name for symbol in self.inputs), *values])

    def keyword_for(self, outputs: Sequence[Symbol]) -> str:
        """The word that declares what the run declares and hands back."""
        declaring = [r.statement for s in outputs for r in s.references if r.declares and s in self.handover.declared]
        words = {self.module.source.slice(s.keyword) for s in declaring if s is not None and s.keyword is not None}
        return words.pop() if len(words) == 1 else self.writer.declares if words else ""

    def write_call(self) -> None:
        """Put the call where the run was."""
        margin, question = self.layout.margin(self.run[0]), self.question_with(self.values_in(self.run))
        line: list[Piece] = [margin, self.call, "\n"]
        if self.exits.answer is ExitSignal.SAME:
            line = [margin, *self.writer.returning([question]), "\n"]
        elif self.exits.way is not None:
            line = [self.writer.unless(question, self.exits.action, margin, self.layout.indent)]
        lines = Span(self.layout.lines(self.run[0]).start, self.layout.own_lines(self.run[-1]).end)
        start = self.end_of_call_above(lines.start)
        self.rewriter.insert(start, *line)
        self.rewriter.remove(Span(start, lines.end))
        behind = self.run[0].block.statements[self.run[-1].index + 1 :]
        apart = self.writer.beginning(self.module.source.slice(behind[0].span)) if behind else Frame("", "")
        if apart.head and not apart.tail:
            self.rewriter.insert(behind[0].start, apart.head)

    def end_of_call_above(self, start: int) -> int:
        """Where the statement above ends, if blank lines part this call from a paragraph of nothing but such calls."""
        first = self.run[0]
        above = first.block.statements[: first.index] if first.block.owner is not None else []
        source, told = self.module.source, False
        for statement in reversed(above):
            if told and not source.line(source.lines_of(statement.span)[1] + 1).strip():
                break
            if not self.is_told(statement):
                return start
            told = True
        end = self.layout.own_lines(above[-1]).end if told else start
        return end if not source.data[end:start].strip() else start

    def is_told(self, statement: Statement) -> bool:
        """Whether a statement is one line, and no more than a call of the script's."""
        called = max(statement.calls, key=lambda call: call.end - call.start, default=None)
        is_own = called is not None and called.callee is not None and Form.ROUTINE in called.callee.symbol.forms
        is_short = len(set(self.module.source.lines_of(statement.span))) == 1
        is_plain = statement.kind in (Kind.EXPRESSION, Kind.ASSIGN) and self.layout.stands_alone(statement)
        return is_own and is_short and is_plain and not self.layout.comment_above(statement)


def _parted(pieces: Sequence[Piece]) -> tuple[Sequence[Piece], Sequence[Piece]]:
    at = next(number for number, piece in enumerate(pieces) if isinstance(piece, Taken))
    return pieces[:at], pieces[at + 1 :]
