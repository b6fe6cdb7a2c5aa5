"""name_callback: an anonymous handler with a body becomes a function named after what it answers to.

Only handlers of the main code are named: what they see are the variables of the script, which a function sees just so,
late binding in loops included.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.move import Parameter, Rewriting, module_of
from aedifex.moves.text import Rewriter
from aedifex.program.names import Form, ScopeKind
from aedifex.program.obstacles import is_hard_to_echo
from aedifex.program.program import Module, Program
from aedifex.program.statements import Argument, Call, Leave, Routine, Statement
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.words import words_of


@dataclass(frozen=True)
class NameCallbacks:
    """Name the handlers of the main code that are more than one call."""

    name: ClassVar[str] = "name_callback"
    summary: ClassVar[str] = (
        "An anonymous handler that is more than one call becomes a named function.\n"
        "It is called after the key, the text or the event that it answers to."
    )

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        found = list(handlers(module))
        if not found:
            raise RefusedError(f"{module.path.name} has no anonymous handler in its main code that is more than a call")
        return _Naming(module).plan(found)


@dataclass(frozen=True)
class Handler:
    """A lambda that is registered: the call that it is given to, and the spans of itself and of its body."""

    routine: Routine
    statement: Statement
    call: Call
    span: Span
    body: Span


def handlers(module: Module) -> Iterator[Handler]:
    """The lambdas of the main code that are given to a call and are more than one call themselves."""
    for routine in module.routines:
        scope, statement = routine.scope, routine.statement
        if scope.kind is not ScopeKind.LAMBDA or statement is None or scope.parent is not module.scope:
            continue
        span = Span(scope.start, scope.end)
        text = module.source.slice(span)
        given = next((c for c in statement.calls for a in c.arguments if _is_given(a, span)), None)
        if given is None or any(p.default is not None for p in routine.parameters) or not _is_simple(module, span):
            continue
        at = scope.start + len(text[: text.index(":") + 1].encode())
        body = Span(
            at + len(module.source.slice(Span(at, scope.end))) - len(text.partition(":")[2].lstrip()), scope.end
        )
        is_call = any((call.start, call.end) == (body.start, body.end) for call in statement.calls)
        is_name = re.fullmatch(r"[\w.]+", module.source.slice(body)) is not None
        if not is_call and not is_name:
            yield Handler(routine, statement, given, span, body)


def _is_given(argument: Argument, span: Span) -> bool:
    return argument.end == span.end and argument.start <= span.start


def _is_simple(module: Module, span: Span) -> bool:
    """Whether the text of a lambda can be carried elsewhere: on one line, without comments, binding nothing."""
    if "\n" in module.source.slice(span) or any(span.start <= c.start < span.end for c in module.comments):
        return False
    return not any(r.form is Form.WALRUS or is_hard_to_echo(module, r) for r in module.references_within(span))


class _Naming:
    def __init__(self, module: Module) -> None:
        self.module = module
        self.rewriting = Rewriting()
        self.rewriter = Rewriter(module, self.rewriting)
        self.layout = self.rewriter.layout
        self.taken = {name for scope in module.scope.walk() for name in scope.symbols} | module.outside.symbols.keys()

    def plan(self, found: list[Handler]) -> Rewriting:
        for handler in found:
            if {Leave.YIELD, Leave.AWAIT} & handler.statement.leaves:
                continue
            self.write(handler, self.free_name(handler))
        self.rewriter.finish()
        return self.rewriting

    def write(self, handler: Handler, name: str) -> None:
        dialect, unit = self.module.dialect, self.layout.indent
        signature = self.module.source.slice(handler.routine.signature)
        at = self.layout.lines(handler.statement.outermost).start
        head = dialect.function_head(name, signature)
        body = self.rewriter.taken(handler.body)
        self.rewriter.insert(at, self.layout.gap_before(at), head, f"{unit}return ", body, "\n\n\n")
        self.rewriting.changes.replace(self.module.path, handler.span, name)
        for reference in self.module.references_within(handler.span):
            if reference.symbol.scope is handler.routine.scope:
                if reference.form is Form.PARAMETER:
                    self.rewriting.dropped.add(reference)
                else:
                    self.rewriting.went[reference] = Parameter(name, reference.name)

    def free_name(self, handler: Handler) -> str:
        wish = self.module.dialect.member_name(["on", *self.words(handler)])
        number, name = 1, wish
        while name in self.taken or not self.module.dialect.is_name(name):
            number += 1
            name = f"{wish}_{number}"
        self.taken.add(name)
        return name

    def words(self, handler: Handler) -> list[str]:
        """What the handler answers to: the text beside it in the call, or else what it calls first."""
        around = [a for a in handler.call.arguments if not _is_given(a, handler.span)]
        texts = [self.module.source.slice(Span(a.start, a.end)) for a in around]
        for text in texts:
            quoted = re.search(r"""["']<?([A-Za-z][\w -]*)>?["']""", text)
            if quoted is not None and words_of(quoted[1]):
                return words_of(quoted[1])[:3]
        inside = [c for c in handler.statement.calls if handler.body.start <= c.start < handler.body.end]
        named = [c.callee.path[-1].name if c.callee.path else c.callee.name for c in inside if c.callee is not None]
        return words_of(named[0])[:3] if named and named[0] else ["event"]
