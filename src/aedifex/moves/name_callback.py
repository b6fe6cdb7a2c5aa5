"""name_callback: a handler that only its registration knows becomes a function with a name.

What it reads of the main code is the script's, which a function sees just so. What it reads of the function that
registers it is passed in by a lambda that stays there, so that it is looked up when the handler is called, as before.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.handlers import Handler, handlers, is_given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Parameter, Renamed, Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Leave, Statement, call_of, final_name
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.words import words_of

_QUOTED_WORDS = re.compile(r"""["']<?([A-Za-z][\w -]*)>?["']""")
_MOST_WORDS = 3


@dataclass(frozen=True)
class NameCallbacks:
    """Name the handlers that are more than one call."""

    name: ClassVar[str] = "name_callback"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        found = list(handlers(module))
        if not found:
            raise RefusedError(f"{module.path.name} has no handler without a name of its own that is more than a call")
        return _Naming(module, found).plan()


class _Naming(Planner):
    def __init__(self, module: Module, found: list[Handler]) -> None:
        super().__init__(module)
        self.found = found
        self.taken = set(module.names_in_use)

    def write(self) -> None:
        busy: list[Span] = []
        for handler in self.found:
            routine = handler.routine
            span = routine.statement.span if isinstance(routine, Function) else handler.span
            if {Leave.YIELD, Leave.AWAIT} & handler.statement.leaves:
                continue
            if any(span.start < other.end and other.start < span.end for other in busy):
                continue  # one inside another: the next time
            busy.append(span)
            if isinstance(routine, Function):
                self.bring_out(handler, routine)
            else:
                self.write_function(handler)

    # -- one without a name

    def write_function(self, handler: Handler) -> None:
        name = self.free_name(self.dialect.naming.member_name(["on", *self.words(handler)]))
        frame = self.writer.function_frame(name, self.signature(handler))
        value = self.writer.returning([self.rewriter.taken(handler.body)])
        self.define(handler.statement, frame.head, self.layout.indent, *value, "\n", frame.tail)
        self.rewriting.changes.replace(self.module.path, handler.span, self.registration(handler, name))
        self.follow(handler, name)

    def define(self, where: Statement, *pieces: Piece) -> None:
        """Put a function above the top-level statement in which its handler is registered."""
        top = where
        while (outer := top.outermost.block.owner) is not None:
            top = outer
        at = self.layout.lines(top.outermost).start
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces, self.layout.gap)

    def signature(self, handler: Handler) -> str:
        own = self.module.source.slice(handler.routine.signature).strip()
        return ", ".join([*(symbol.name for symbol in handler.captured), *([own] if own else [])])

    def registration(self, handler: Handler, name: str) -> str:
        """What is registered: the function, or what passes on what is captured."""
        if not handler.captured:
            return name
        own = self.module.source.slice(handler.routine.signature).strip()
        given = [*(s.name for s in handler.captured), *self.writer.handed_on(handler.routine.parameters)]
        return self.writer.handler(own, self.writer.call(name, given))

    def follow(self, handler: Handler, name: str) -> None:
        for reference in self.module.references_within(handler.span):
            if reference.symbol in handler.captured:
                self.rewriting.destinations[reference] = Parameter(name, reference.name)
            elif reference.symbol.scope is handler.routine.scope:
                if reference.form is Form.PARAMETER:
                    self.rewriting.dropped.add(reference)
                else:
                    self.rewriting.destinations[reference] = Parameter(name, reference.name)

    # -- a function inside another

    def bring_out(self, handler: Handler, function: Function) -> None:
        inner = function.statement
        name = function.name if self.is_own_only(function) else self.free_name(function.name)
        lines = self.layout.lines(inner)
        self.define(inner, *self.rewriter.lines_taken(lines, dedent=self.layout.margin(inner)))
        self.rewriter.remove(lines)
        if handler.captured:
            passed = [symbol.name for symbol in handler.captured]
            comma = ", " if self.module.source.slice(function.signature).strip() else ""
            self.rewriter.insert(function.signature.start, f"{', '.join(passed)}{comma}")
            for use in handler.uses:
                if (call := call_of(use)) is not None:
                    self.rewriter.prepend_arguments(call, passed)
            self.rewriting.changes.replace(self.module.path, handler.span, self.registration(handler, name))
            self.rewriting.dropped.update(self.module.references_within(handler.span))
        if name != function.name:
            kept = [*handler.uses, *([] if handler.captured else self.module.references_within(handler.span))]
            for reference in [function.named, *kept]:
                self.rewriter.replace(reference, name, Renamed(name))
        for reference in self.module.references_within(inner.span):
            if reference.symbol in handler.captured:
                self.rewriting.destinations[reference] = Parameter(name, reference.name)

    def is_own_only(self, function: Function) -> bool:
        """Whether a function's name means nothing else anywhere in the file."""
        name, symbol = function.name, function.symbol
        others = [s.symbols[name] for s in self.module.scope.walk() if name in s.symbols]
        is_free = all(other is symbol for other in others) and name not in self.module.outside.symbols
        if is_free:
            self.taken.add(name)
        return is_free

    # -- names

    def free_name(self, wish: str) -> str:
        number, name = 1, wish
        while name in self.taken or not self.dialect.rules.is_name(name):
            number += 1
            name = self.dialect.naming.joined(wish, str(number))
        self.taken.add(name)
        return name

    def words(self, handler: Handler) -> list[str]:
        """What the handler answers to: the text beside it in the call, or else what it calls first."""
        around = [a for a in handler.call.arguments if not is_given(a, handler.span)]
        for argument in around:
            quoted = _QUOTED_WORDS.search(self.module.source.slice(argument.span))
            if quoted is not None and words_of(quoted[1]):
                return words_of(quoted[1])[:_MOST_WORDS]
        body = handler.body
        inside = [c for c in handler.statement.calls if c.callee is not None and body.start <= c.start < body.end]
        name = final_name(inside[0].callee) if inside else ""
        return words_of(name)[:_MOST_WORDS] if name else ["event"]


def _by_hand(program: Program, script: Path, given: Given) -> list[NameCallbacks]:
    return [NameCallbacks(script)]


MOVE = Description(
    name="name_callback",
    place=30,
    summary=(
        "A handler that only its registration knows becomes a function of the script.\n"
        "A nameless one is called after the key, the text or the event that it answers to."
    ),
    term="Replace Anonymous Function with Named Function",
    help="Name the handlers that are more than one call, after what they answer to.",
    make=_by_hand,
    example=Example(
        language="python",
        words="",
        before="""\
handlers = {}


def on(key, do):
    handlers[key] = do


height = [0]
on("space", lambda: (height.append(1), print("up")))
handlers["space"]()
print(height)
""",
        after={
            "harbour.py": """\
handlers = {}


def on(key, do):
    handlers[key] = do


height = [0]


def on_space():
    return (height.append(1), print("up"))


on("space", on_space)
handlers["space"]()
print(height)
""",
        },
    ),
)
