"""name_callback: a handler that only its registration knows becomes a function with a name.

What it reads of the main code is the script's, which a function sees just so. What it reads of the function that
registers it is passed in by a lambda that stays there, so that it is looked up when the handler is called, as before.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.handlers import Handler, handlers, words_beside
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Parameter, Renamed, Rewriting
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Kind, Leave, Statement, call_of, final_name
from aedifex.program.structure.obstacles import is_bound_again
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.words import words_of

_MOST_WORDS = 3
_ROWS = frozenset({Sense.LIST, Sense.TUPLE})


@dataclass(frozen=True)
class NameCallbacks:
    """Name the handlers that are more than one call, or that a text beside them names."""

    name: ClassVar[str] = "name_callback"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        found = list(handlers(module))
        if not found:
            raise RefusedError(
                f"{module.path.name} has no handler that lacks a name and is more than a call, or that a text names"
            )
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
        only = self.only_function(handler)
        if only is not None:
            self.rewriting.changes.replace(self.module.path, handler.span, self.rewriter.taken(only.span))
            return
        name = self.free_name(self.dialect.naming.member_name(["on", *self.words(handler)]))
        frame = self.writer.function_frame(name, self.signature(handler))
        self.define(handler.statement, frame.head, *self.body(handler), frame.tail)
        self.rewriting.changes.replace(self.module.path, handler.span, self.registration(handler, name))
        self.follow(handler, name)

    def only_function(self, handler: Handler) -> Reference | None:
        """The function of the script that a handler calls with nothing, and does nothing else: it serves as well."""
        call = next((c for c in handler.statement.calls if c.span == handler.body), None)
        callee = call.callee if call is not None and not call.arguments else None
        if callee is None or callee.path or handler.routine.parameters:
            return None
        function = next((f for f in self.module.functions if f.symbol is callee.symbol), None)
        is_kept = function is not None and callee.symbol.is_module_level and not is_bound_again(callee.symbol)
        is_above = function is not None and function.statement.index < handler.statement.outermost.index
        return callee if is_kept and is_above and function in self.settled else None

    @cached_property
    def settled(self) -> list[Function]:
        """The functions that are defined at the top level, whatever happens."""
        functions = self.module.functions
        return [f for f in functions if f.statement.block is self.module.block and not f.statement.decorators]

    def body(self, handler: Handler) -> list[Piece]:
        """What the function does: gives back what the nameless one gave, or does several things for their own sake."""
        unit = self.layout.indent
        deeds = self.deeds(handler)
        if deeds:
            return [piece for deed in deeds for piece in (unit, self.rewriter.taken(deed.span), "\n")]
        return [unit, *self.writer.returning([self.rewriter.taken(handler.body)]), "\n"]

    def deeds(self, handler: Handler) -> list[Expression]:
        """The calls in a row that a handler of a part of a window lists, whose library looks at no such list."""
        if not self.dialect.library.makes_widget(final_name(handler.call.callee)):
            return []
        trees = (tree for tree in Surroundings.of(self.module).trees if tree.start <= handler.body.start < tree.end)
        listed = (e for tree in trees for e in tree.walk() if e.span == handler.body and e.sense in _ROWS)
        parts = next(listed, Expression(Sense.LIST, 0, 0)).parts
        return parts if len(parts) > 1 and all(part.sense is Sense.CALL for part in parts) else []

    def define(self, where: Statement, *pieces: Piece) -> None:
        """Put a function behind the last one above the top-level statement in which its handler is registered."""
        top = where
        while (outer := top.outermost.block.owner) is not None:
            top = outer
        above = self.module.block.statements[: top.outermost.index]
        last = next((s for s in reversed(above) if s.kind is Kind.ROUTINE), None)
        if last is None:
            at = self.layout.lines(top.outermost).start
            self.rewriter.insert(at, self.layout.gap_before(at), *pieces, self.layout.gap)
        else:
            self.rewriter.insert(self.layout.own_lines(last).end, self.layout.gap, *pieces)

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
        beside = words_beside(self.module, handler.call, handler.span)
        if beside:
            return beside[:_MOST_WORDS]
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
    help="Name the handlers that are more than one call, or that a text beside them names.",
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


def on_space():
    return (height.append(1), print("up"))


height = [0]
on("space", on_space)
handlers["space"]()
print(height)
""",
        },
    ),
)
