"""unfold: code behind the guard, or in the one function that is the program, comes to the top level.

A script whose state is the locals of one function is so turned into one whose state is module variables, which all
other moves understand. It is the first half of `lift`, which puts a guard back.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import declare_at_top
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Leave, Statement, final_name
from aedifex.program.structure.main_function import MainFunction, guard_with_state, main_function_of
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span


@dataclass(frozen=True)
class Unfold:
    """Bring the program's code to the top level."""

    name: ClassVar[str] = "unfold"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        whole, guard = main_function_of(module), guard_with_state(module)
        if whole is not None and whole.caller.block.owner is not None:
            guard = whole.caller.block.owner
        if whole is None and guard is None:
            raise RefusedError(f"{module.path.name} has no function that is the whole program")
        return _Unfolding(module, whole, guard).plan()


def unfolds(module: Module) -> bool:
    """Whether there is something to bring to the top level."""
    return main_function_of(module) is not None or guard_with_state(module) is not None


class _Unfolding(Planner):
    def __init__(self, module: Module, whole: MainFunction | None, guard: Statement | None) -> None:
        super().__init__(module)
        self.whole = whole
        self.guard = guard

    def find_objections(self) -> None:
        if self.whole is None or self.whole.caller.outermost is self.module.block.statements[-1]:
            return
        for statement in self.whole.function.body.walk():
            if statement.kind is Kind.ASSIGN and self.stays_open(self.whole, statement):
                self.object(
                    statement.start,
                    "this is closed when its function ends, and the script goes on after that",
                    "Close it by a call, or open it in a `with`.",
                )

    def stays_open(self, whole: MainFunction, statement: Statement) -> bool:
        """Whether a statement of the function keeps something open in a name of its own, never to close it itself."""
        opens = self.module.dialect.library.opens
        if not any(opens(final_name(call.callee)) for call in statement.calls if call.callee is not None):
            return False
        names = [r.symbol for r in statement.references if r.binds and r.symbol.scope is whole.function.scope]
        closes = self.module.dialect.library.closes
        closed = {r.symbol for r in self.module.references if r.path and closes(r.path[-1].name or "")}
        return any(name not in closed for name in names)

    def write(self) -> None:
        if self.guard is not None:
            self.rewriter.drop(self.guard.references)
            self.put_in_place_of(self.guard, self.guard.blocks[0].statements)
        elif self.whole is not None:
            self.put_in_place_of(self.whole.caller, [self.whole.caller])
        if self.whole is not None:
            self.take_function_away(self.whole)
            declare_at_top(self.rewriter, self.whole.function.scope)

    def put_in_place_of(self, old: Statement, statements: Sequence[Statement]) -> None:
        lines = self.layout.lines(old)
        pieces: list[Piece] = []
        if self.guard is not None:
            pieces += self.rewriter.comments(lines.start, self.layout.own_lines(old).start, "")
        previous: Span | None = None
        for statement in statements:
            span = self.layout.lines(statement)
            if previous is not None and span.start <= previous.start:
                continue  # shares its line with the one before
            if previous is not None:
                pieces.append(self.module.source.slice(Span(previous.end, span.start)))
            if self.whole is not None and statement is self.whole.caller:
                pieces += self.rewriter.comments(span.start, self.layout.own_lines(statement).start, "")
                pieces += self.body(self.whole)
            else:
                pieces += self.rewriter.lines_taken(span, dedent=self.layout.margin(statement))
            previous = span
        self.rewriting.changes.replace(self.module.path, lines, *pieces)

    def body(self, whole: MainFunction) -> list[Piece]:
        """The function's statements, its parameters set before them."""
        block = whole.function.body
        margin = self.layout.margin(block.statements[0])
        start = self.layout.lines(block.statements[0]).start
        end = self.layout.end_inside(block)
        self.end_without_return(whole)
        for statement in whole.early:
            if whole.is_value_used:
                self.hand_on_early(whole, statement)
            else:
                self.close_early(whole, statement)
        pieces: list[Piece] = []
        if whole.function.doc is not None and whole.given:
            doc_end = self.layout.own_lines(block.statements[0]).end
            pieces += self.rewriter.lines_taken(Span(start, doc_end), dedent=margin)
            start = doc_end
        for name, span in whole.given:
            pieces += self.writer.variable(name, [self.rewriter.taken(span)])
        pieces += self.rewriter.lines_taken(Span(start, end), dedent=margin) if start < end else []
        if whole.is_value_used and whole.last is None:
            pieces += [*self.around(whole, self.writer.no_value()), "\n"]
        return pieces

    def around(self, whole: MainFunction, value: str) -> list[Piece]:
        """The caller with a value in the place of the call."""
        before, after = Span(whole.caller.start, whole.call.start), Span(whole.call.end, whole.caller.end)
        return [self.rewriter.taken(before), value, *([self.rewriter.taken(after)] if after.start < after.end else [])]

    def end_without_return(self, whole: MainFunction) -> None:
        """The final `return` gives its value to what the caller does with it, or goes."""
        last = whole.last
        if last is None:
            return
        changes, path = self.rewriting.changes, self.module.path
        if whole.is_value_used and last.returned is None:
            changes.replace(path, last.span, *self.around(whole, self.writer.no_value()))
        elif whole.is_value_used and last.returned is not None:
            is_argument = whole.call.end < whole.caller.end
            opening, closing = self.grouped(last.returned) if is_argument else ("", "")
            before, *after = self.around(whole, closing)
            changes.replace(path, Span(last.start, last.returned.start), before, opening)
            self.rewriter.insert(last.end, *after)
        elif last.calls and last.returned is not None:
            changes.replace(path, Span(last.start, last.returned.start), "")
        elif len(last.block.statements) > 1:
            self.rewriter.drop(last.references)
            self.rewriter.remove(self.layout.own_lines(last))
        else:
            self.rewriter.drop(last.references)
            changes.replace(path, last.span, self.writer.nothing())

    def grouped(self, value: Span) -> tuple[str, str]:
        return self.writer.grouped(self.module.source.slice(value))

    def hand_on_early(self, whole: MainFunction, statement: Statement) -> None:
        """An early `return` gives its value to what the caller does with it, and then returns."""
        source, changes, path = self.module.source, self.rewriting.changes, self.module.path
        before, after = Span(whole.caller.start, whole.call.start), Span(whole.call.end, whole.caller.end)
        value = statement.returned
        opening, closing = self.grouped(value) if value is not None else ("", "")
        until = value.start if value is not None else statement.end
        changes.replace(path, Span(statement.start, until), f"{source.slice(before)}{opening}")
        missing = self.writer.no_value() if value is None else ""
        leaving = "" if self.ends_program(whole) else f"\n{self.margin(whole, statement)}{self.leaving}"
        self.rewriter.insert(statement.end, f"{missing}{closing}{source.slice(after)}{leaving}")

    @property
    def leaving(self) -> str:
        """A `return` without a value."""
        return self.writer.leave(Leave.RETURN)

    def close_early(self, whole: MainFunction, statement: Statement) -> None:
        """What follows the caller comes before an early `return` too; a value that it gives is worked out first."""
        margin = self.margin(whole, statement)
        closing = "".join(f"{self.module.source.slice(after.span)}\n{margin}" for after in whole.closing)
        if not closing:
            return
        value = statement.returned
        if value is not None:
            self.rewriting.changes.replace(self.module.path, Span(statement.start, value.start), "")
            self.rewriter.insert(statement.end, f"\n{margin}{closing}{self.leaving}")
        else:
            self.rewriting.changes.replace(self.module.path, statement.span, f"{closing}{self.leaving}")

    def margin(self, whole: MainFunction, statement: Statement) -> str:
        """How far in a statement of the function stands once it is at the top level."""
        first = whole.function.body.statements[0]
        return self.layout.margin(statement).removeprefix(self.layout.margin(first))

    def ends_program(self, whole: MainFunction) -> bool:
        """Whether what the caller hands the value to never comes back."""
        outer = next((c.callee for c in whole.caller.calls if c.span == whole.caller.deed), None)
        if outer is None or outer.symbol.imported is None:
            return False
        module, name = outer.symbol.imported
        return self.module.dialect.library.ends_program(
            module, name or (outer.path[-1].name if outer.path else None) or ""
        )

    def take_function_away(self, whole: MainFunction) -> None:
        self.rewriter.remove(self.layout.lines(whole.statement))
        self.rewriter.drop(whole.function.symbol.references)
        self.rewriter.drop(parameter.reference for parameter in whole.function.parameters)


MOVE = Description(
    name="unfold",
    place=1,
    summary=(
        "The one function that is the program, or the code behind the guard, comes to the top level.\n"
        "Its locals become module variables; `lift` then makes them fields."
    ),
    term="Inline Function, of the one that is the program",
)
