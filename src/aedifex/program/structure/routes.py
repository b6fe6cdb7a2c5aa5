"""The handlers of a route file: which functions an application calls on requests, and how it is told of them."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Iterator
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.values import only_value
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.statements import Call, Function, Kind, Shape, Statement
from aedifex.program.structure.registrars import Registrars
from aedifex.program.structure.state import is_state
from aedifex.source.text import Span

_PATH = re.compile(r"""["'](/[^"']*)["']""")
AS_IT_STANDS = "{decorator}({handler})"
"""The statement that does what a decorator does, whatever that is."""
_STEP = re.compile(r"[a-z][a-z_-]*")


@dataclass(frozen=True, slots=True)
class Hook:
    """One decorator that tells an application of a function, or notes it in a container.

    `span` is where it stands, `written` its form as a statement; `call` is None for a decorator that is given nothing.
    """

    span: Span
    decorator: Reference
    call: Call | None
    written: str


class Routes(Analysis):
    """What a module tells applications that answer requests."""

    def __init__(self, module: Module) -> None:
        self.module = module
        self.library = module.dialect.library

    @cached_property
    def applications(self) -> dict[Symbol, str]:
        """The variables that hold an application, or a part of one, all the time, each with what made it."""
        found: dict[Symbol, str] = {}
        for symbol in self.module.scope.symbols.values():
            only = only_value(symbol)
            if only is None or only.value.shape is not Shape.CALL:
                continue
            made = only.call
            name = full_name(made.callee) if made is not None and made.callee is not None else ""
            if self.library.makes_application(name):
                found[symbol] = name
        return found

    @cached_property
    def hooks(self) -> dict[Function, list[Hook]]:
        """The functions at the top level that decorators only tell an application of, or note in a container."""
        found = {function: list(self._hooks_of(function)) for function in self.module.functions}
        return {function: hooks for function, hooks in found.items() if hooks}

    def _hooks_of(self, function: Function) -> Iterator[Hook]:
        """The outermost decorators, as long as they only tell an application of the function."""
        for span in function.statement.decorators:
            hook = self._hook(function.statement, span)
            if hook is None:
                return
            yield hook

    def _hook(self, statement: Statement, span: Span) -> Hook | None:
        inside = self.module.references_within(span)
        if not inside:
            return None
        name = inside[0]
        call = max(
            (c for c in statement.calls if c.callee is name and span.start <= c.start and c.end <= span.end),
            key=lambda c: c.end,
            default=None,
        )
        if any(step.name is None for step in name.path) or (call is None and len(inside) > 1):
            return None
        keywords = [argument.keyword or argument.stars for argument in (call.arguments if call is not None else ())]
        written = self.library.written_hook(self._name_of(name), keywords, is_called=call is not None)
        if written is None and Registrars.of(self.module).only_notes(statement, span):
            written = AS_IT_STANDS
        return Hook(span, name, call, written) if written is not None else None

    def _name_of(self, reference: Reference) -> str:
        """The full name of what a reference leads to: through an application, by what made that."""
        made = self.applications.get(reference.symbol)
        if made is None:
            return full_name(reference)
        return ".".join([made, *(step.name or "" for step in reference.path)])

    @cached_property
    def registrations(self) -> list[Statement]:
        """The statements of the top level that hand functions of the module, or methods, to applications.

        What gives a part to an application is among them where it does not come last.
        """
        alone = [s for s in self.module.block.statements if s.kind is Kind.EXPRESSION and s.references]
        handing = [s for s in alone if self._hands_over(s)]
        return [s for s in alone if s in handing or (handing and s.start < handing[-1].start and self._joins(s))]

    def telling(self, statement: Statement) -> Call | None:
        """The call by which a statement tells an application something."""
        first = min(statement.references, key=lambda r: r.start, default=None)
        call = next((c for c in statement.calls if first is not None and c.callee is first), None)
        is_told = first is not None and first.path and self.library.tells_application(self._name_of(first))
        return call if call is not None and call.start == statement.start and is_told else None

    def _hands_over(self, statement: Statement) -> bool:
        """Whether an application is told of a function of the module, or of a method of an object that it has."""
        first = told_by(statement)
        is_told = any(call.callee is first and call.start == statement.start for call in statement.calls)
        if not is_told or not self.library.tells_application(self._name_of(first)):
            return False
        functions = {function.symbol for function in self.module.functions}
        others = [r for r in statement.references if r is not first]
        return any(r.symbol in functions or (r.path and is_state(r.symbol)) for r in others)

    def _joins(self, statement: Statement) -> bool:
        """Whether it has to do with two applications, and no other variables."""
        used = {r.symbol for r in statement.references}
        return len(used) > 1 and used <= set(self.applications)

    @property
    def served(self) -> Collection[Symbol]:
        """The applications of a module that tells some of its functions; none where it tells none."""
        return self.applications if self.registrations else ()

    @cached_property
    def paths(self) -> list[str]:
        """The paths of requests that registrations name, where they are written out."""
        texts = (self.module.source.slice(a.span) for s in self.registrations for c in s.calls for a in c.arguments[:1])
        return [found[1] for text in texts if (found := _PATH.fullmatch(text))]

    @property
    def doubled(self) -> list[tuple[str, list[Function]]]:
        """The paths of which an application is told several times in the same way, with the functions for each."""
        found: dict[str, tuple[str, list[Function]]] = {}
        own = {function.symbol: function for function in self.handlers}
        slice_of = self.module.source.slice
        for statement in self.registrations:
            named = [reference for reference in statement.references if reference.symbol in own]
            path = _PATH.search(slice_of(statement.span))
            if path is not None and len(named) == 1:
                around = Span(statement.start, named[0].start), Span(named[0].end, statement.end)
                told = "".join(map(slice_of, around))
                found.setdefault(told, (path[1], []))[1].append(own[named[0].symbol])
        return [(path, functions) for path, functions in found.values() if len(functions) > 1]

    @property
    def told_later(self) -> Iterator[tuple[Function, Reference]]:
        """The functions that tell an application of something while the program runs, and where they name it."""
        for function in self.module.functions:
            for statement in function.body.walk():
                for call in statement.calls:
                    told = call.callee
                    if told is not None and told.symbol in self.applications:
                        if self.library.tells_application(self._name_of(told)):
                            yield function, told

    @property
    def common_step(self) -> str:
        """The first step of all paths, if it is the same for several; empty otherwise."""
        steps = [path.split("/")[1] for path in self.paths]
        return steps[0] if len(steps) > 1 and len(set(steps)) == 1 and _STEP.fullmatch(steps[0]) else ""

    @property
    def usual_step(self) -> str:
        """The first step of most paths; empty where there is none."""
        steps = Counter(path.split("/")[1] for path in self.paths)
        step, count = max(steps.items(), key=lambda item: item[1], default=("", 0))
        return step if 2 * count > len(self.paths) and count > 1 and _STEP.fullmatch(step) else ""

    @property
    def subject(self) -> str:
        """What the routes are about: their first step, or what the part of an application is called that has them."""
        told = {told_by(statement).symbol for statement in self.registrations}
        parts = [s.name for s in told if s in self.applications and not self._can_have_parts(s)]
        return self.common_step or (parts[0] if len(parts) == 1 else "")

    def _can_have_parts(self, application: Symbol) -> bool:
        return self.library.part_of_application(self.applications[application]) is not None

    def is_about_application(self, statement: Statement) -> bool:
        """Whether a statement names an application, or anything of the libraries that have them."""
        return any(self._is_of_library(r.symbol) for inner in statement.walk() for r in inner.references)

    def _is_of_library(self, symbol: Symbol) -> bool:
        is_imported = symbol.imported is not None and symbol.imported.package in self._packages
        return is_imported or symbol in self.applications

    @cached_property
    def _packages(self) -> set[str]:
        """The libraries that the module's applications, and what it tells them by, are from."""
        imports = [told_by(statement).symbol.imported for statement in self.registrations]
        makers = {made.partition(".")[0] for made in self.applications.values()}
        return makers | {imported.package for imported in imports if imported is not None}

    @cached_property
    def handlers(self) -> list[Function]:
        """The functions that registrations hand to applications."""
        handed = {r.symbol for statement in self.registrations for r in statement.references}
        return [function for function in self.module.functions if function.symbol in handed]


def told_by(statement: Statement) -> Reference:
    """The name with which a statement begins: what a registration tells."""
    return min(statement.references, key=lambda reference: reference.start)


def full_name(reference: Reference) -> str:
    """The name of something of a library, with the modules that it is in; empty where it is not from one."""
    imported = reference.symbol.imported
    if imported is None:
        return ""
    steps = [imported.module, *([imported.name] if imported.name is not None else [])]
    return ".".join([*steps, *(step.name or "" for step in reference.path)])
