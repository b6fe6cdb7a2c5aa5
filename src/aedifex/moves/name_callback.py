"""name_callback: a handler that only its registration knows becomes a function with a name.

What it reads of the main code is the script's, which a function sees just so. What it reads of the function that
registers it is passed in by a lambda that stays there, so that it is looked up when the handler is called, as before.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.handlers import Handler, handlers, is_given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.rewriter import Rewriter, handed_on
from aedifex.moves.kit.rewriting import Parameter, Renamed, Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Leave, Statement, call_of
from aedifex.source.edits import Taken
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.words import words_of


@dataclass(frozen=True)
class NameCallbacks:
    """Name the handlers that are more than one call."""

    name: ClassVar[str] = "name_callback"
    summary: ClassVar[str] = (
        "A handler that only its registration knows becomes a function of the script.\n"
        "A nameless one is called after the key, the text or the event that it answers to."
    )

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        found = list(handlers(module))
        if not found:
            raise RefusedError(f"{module.path.name} has no handler without a name of its own that is more than a call")
        return _Naming(module).plan(found)


class _Naming:
    def __init__(self, module: Module) -> None:
        self.module = module
        self.rewriting = Rewriting()
        self.rewriter = Rewriter(module, self.rewriting)
        self.layout = self.rewriter.layout
        self.taken = set(module.names_in_use)

    def plan(self, found: list[Handler]) -> Rewriting:
        busy: list[Span] = []
        for handler in found:
            span = handler.inner.span if handler.inner is not None else handler.span
            if {Leave.YIELD, Leave.AWAIT} & handler.statement.leaves:
                continue
            if any(span.start < other.end and other.start < span.end for other in busy):
                continue  # one inside another: the next time
            busy.append(span)
            if handler.inner is not None:
                self.bring_out(handler, handler.inner)
            elif handler.body is not None:
                self.write(handler, handler.body)
        self.rewriter.finish()
        return self.rewriting

    # -- a lambda

    def write(self, handler: Handler, body: Span) -> None:
        name = self.free_name(self.module.dialect.member_name(["on", *self.words(handler, body)]))
        unit = self.layout.indent
        head = self.module.dialect.function_head(name, self.signature(handler))
        self.define(handler.statement, head, f"{unit}return ", self.rewriter.taken(body), "\n")
        self.rewriting.changes.replace(self.module.path, handler.span, self.registration(handler, name))
        self.follow(handler, name)

    def define(self, where: Statement, *pieces: str | Taken) -> None:
        """Put a function above the top-level statement in which its handler is registered."""
        top = where
        while (outer := top.outermost.block.owner) is not None:
            top = outer
        at = self.layout.lines(top.outermost).start
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces, "\n\n")

    def signature(self, handler: Handler) -> str:
        own = self.module.source.slice(handler.routine.signature).strip()
        return ", ".join([*(symbol.name for symbol in handler.captured), *([own] if own else [])])

    def registration(self, handler: Handler, name: str) -> str:
        """What is registered: the function, or a lambda that passes on what is captured."""
        if not handler.captured:
            return name
        own = self.module.source.slice(handler.routine.signature).strip()
        given = ", ".join([*(s.name for s in handler.captured), *handed_on(handler.routine.parameters)])
        return f"lambda {own}: {name}({given})" if own else f"lambda: {name}({given})"

    def follow(self, handler: Handler, name: str) -> None:
        for reference in self.module.references_within(handler.span):
            if reference.symbol in handler.captured:
                self.rewriting.went[reference] = Parameter(name, reference.name)
            elif reference.symbol.scope is handler.routine.scope:
                if reference.form is Form.PARAMETER:
                    self.rewriting.dropped.add(reference)
                else:
                    self.rewriting.went[reference] = Parameter(name, reference.name)

    # -- a function inside another

    def bring_out(self, handler: Handler, inner: Statement) -> None:
        routine = handler.routine
        name = routine.name if self.is_own_only(handler) else self.free_name(routine.name)
        lines = self.layout.lines(inner)
        self.define(inner, *self.rewriter.lines_taken(lines, dedent=self.layout.margin(inner)))
        self.rewriter.remove(lines)
        if handler.captured:
            comma = ", " if self.module.source.slice(routine.signature).strip() else ""
            passed = ", ".join(symbol.name for symbol in handler.captured)
            self.rewriter.insert(routine.signature.start, f"{passed}{comma}")
            self.pass_in_calls(handler, passed)
            self.rewriting.changes.replace(self.module.path, handler.span, self.registration(handler, name))
            self.rewriting.dropped.update(self.module.references_within(handler.span))
        if name != routine.name:
            kept = [*handler.uses, *([] if handler.captured else self.module.references_within(handler.span))]
            for reference in [*([routine.named] if routine.named is not None else []), *kept]:
                self.rewriter.replace(reference, name, Renamed(name))
        for reference in self.module.references_within(inner.span):
            if reference.symbol in handler.captured:
                self.rewriting.went[reference] = Parameter(name, reference.name)

    def pass_in_calls(self, handler: Handler, passed: str) -> None:
        for use in handler.uses:
            call = call_of(use)
            if call is not None and call.inside is not None:
                comma = ", " if call.arguments else ""
                self.rewriter.insert(call.inside.start, f"{passed}{comma}")

    def is_own_only(self, handler: Handler) -> bool:
        """Whether a function's name means nothing else anywhere in the file."""
        name, symbol = handler.routine.name, handler.routine.symbol
        others = [s.symbols[name] for s in self.module.scope.walk() if name in s.symbols]
        is_free = all(other is symbol for other in others) and name not in self.module.outside.symbols
        if is_free:
            self.taken.add(name)
        return is_free

    # -- names

    def free_name(self, wish: str) -> str:
        number, name = 1, wish
        while name in self.taken or not self.module.dialect.is_name(name):
            number += 1
            name = f"{wish}_{number}"
        self.taken.add(name)
        return name

    def words(self, handler: Handler, body: Span) -> list[str]:
        """What the handler answers to: the text beside it in the call, or else what it calls first."""
        around = [a for a in handler.call.arguments if not is_given(a, handler.span)]
        texts = [self.module.source.slice(Span(a.start, a.end)) for a in around]
        for text in texts:
            quoted = re.search(r"""["']<?([A-Za-z][\w -]*)>?["']""", text)
            if quoted is not None and words_of(quoted[1]):
                return words_of(quoted[1])[:3]
        inside = [c for c in handler.statement.calls if body.start <= c.start < body.end]
        named = [c.callee.path[-1].name if c.callee.path else c.callee.name for c in inside if c.callee is not None]
        return words_of(named[0])[:3] if named and named[0] else ["event"]
