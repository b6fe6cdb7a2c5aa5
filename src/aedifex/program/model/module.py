"""One file, read: its scopes, its statements, and what else the reader found in it."""

from __future__ import annotations

import bisect
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from aedifex.program.model.hindrance import Hindrance
from aedifex.program.model.names import Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.statements import Block, Function, Lambda, Routine, Statement
from aedifex.source.errors import Place
from aedifex.source.text import SourceText, Span

if TYPE_CHECKING:
    from aedifex.program.dialect.dialect import Dialect


@dataclass(frozen=True, slots=True)
class Comment:
    """A comment. `alone` tells whether nothing else stands on its line, `text` is what stands behind its mark."""

    start: int
    end: int
    alone: bool
    text: str = ""

    @property
    def span(self) -> Span:
        """Where it stands."""
        return Span(self.start, self.end)


@dataclass(frozen=True, slots=True)
class Echo:
    """A place in a text template that shows an expression's own text before its value, as `{x=}` does.

    `brace` is where the place begins, `expression` spans the text that is shown, its `=` included; `formats` tells
    whether something says how the value is formatted.
    """

    brace: int
    expression: Span
    formats: bool


@dataclass(eq=False)
class Module:
    """One file, read.

    `fixed` holds the spans of strings that run over several lines, whose inside must never be indented anew; `echoes`
    the template places that show their own text, `identities` the operands of which it is asked whether they are the
    same object, `strings` the spans of plain text literals, quotes included. `guard` is the statement that runs only
    when the file is started as a script. `outside` holds the names that the file uses and does not bind;
    `stars` are the star imports, as module name and star, `unknown_stars` those whose names could not be found out;
    `used_elsewhere` what other files of the program use of this one, with the first place where they do, and
    `starters` the same for those that only call its entry, given nothing, to start the program, and
    `is_imported` that one of them imports it, by which it runs. `found_by_name` holds what something that runs or loads
    the file looks for by its name, with who does. `answers` keeps what was asked about the file.
    `only_outside` holds the places whose code would mean something else inside a class, each with a plain sentence.
    `shares_globals` tells that the variables of its top level are those of other files too, `set_elsewhere` which of
    them these set or declare; `is_left_to_others` tells that it does nothing itself, and that what calls its functions
    is not known; `postpones_annotations` that annotations are not evaluated where they stand. The first
    `header_lines` of the file say how it is to be read, and stay where they are. `waiting_names` are those that the
    code mentions which waits to be put around the file's own; None where none waits.
    """

    source: SourceText
    dialect: Dialect
    scope: Scope
    outside: Scope
    block: Block
    routines: list[Routine] = field(default_factory=list)
    comments: list[Comment] = field(default_factory=list)
    fixed: tuple[Span, ...] = ()
    echoes: tuple[Echo, ...] = ()
    identities: tuple[tuple[Span, Span], ...] = ()
    strings: tuple[Span, ...] = ()
    hindrances: list[Hindrance] = field(default_factory=list)
    only_outside: list[tuple[int, str]] = field(default_factory=list)
    guard: Statement | None = None
    doc: Statement | None = None
    used_elsewhere: dict[str, Place] = field(default_factory=dict)
    starters: dict[str, Place] = field(default_factory=dict)
    is_imported: bool = False
    found_by_name: dict[str, str] = field(default_factory=dict)
    stars: list[tuple[str, Reference]] = field(default_factory=list)
    unknown_stars: list[tuple[str, Reference]] = field(default_factory=list)
    shares_globals: bool = False
    is_left_to_others: bool = False
    set_elsewhere: set[str] = field(default_factory=set)
    postpones_annotations: bool = False
    header_lines: int = 0
    waiting_names: frozenset[str] | None = None
    answers: dict[type, object] = field(default_factory=dict, repr=False)

    @property
    def path(self) -> Path:
        """The file's path."""
        return self.source.path

    @cached_property
    def functions(self) -> list[Function]:
        """The functions of its top level, in the order of the text."""
        return [r for r in self.routines if isinstance(r, Function) and r.symbol.is_module_level]

    @cached_property
    def classes(self) -> list[Scope]:
        """The scopes of the classes of its top level, in the order of the text."""
        scopes = (statement.defines for statement in self.block.statements)
        return [scope for scope in scopes if scope is not None and scope.kind is ScopeKind.CLASS]

    @cached_property
    def all_functions(self) -> list[Function]:
        """All functions and methods, those inside others too."""
        return [routine for routine in self.routines if isinstance(routine, Function)]

    def nameless_at(self, span: Span) -> Lambda | None:
        """The nameless routine that is all of a stretch of the text."""
        found = (r for r in self.routines if isinstance(r, Lambda) and Span(r.scope.start, r.scope.end) == span)
        return next(found, None)

    @cached_property
    def references(self) -> list[Reference]:
        """All references, in the order of the text."""
        found = [reference for scope in self.scope.walk() for reference in scope.uses]
        found.sort(key=lambda reference: reference.start)
        return found

    def references_within(self, span: Span) -> list[Reference]:
        """The references that stand in a stretch of the text."""
        first = bisect.bisect_left(self.references, span.start, key=_start)
        return self.references[first : bisect.bisect_left(self.references, span.end, key=_start)]

    @cached_property
    def references_by_first_step(self) -> Mapping[str, list[Reference]]:
        """The references with an access path, by the name of its first step."""
        found: dict[str, list[Reference]] = {}
        for reference in self.references:
            if reference.path and reference.path[0].name is not None:
                found.setdefault(reference.path[0].name, []).append(reference)
        return found

    @cached_property
    def reference_at(self) -> Mapping[int, Reference]:
        """References by the offset at which they start."""
        return {reference.start: reference for reference in self.references}

    @cached_property
    def symbols(self) -> list[Symbol]:
        """The symbols of the module's own scope, in the order of their first reference."""
        return list(self.scope.symbols.values())

    @cached_property
    def imported(self) -> set[str]:
        """The names of the modules that the file imports, anywhere."""
        return {r.symbol.imported.module for r in self.references if r.symbol.imported is not None}

    def is_known_outside(self, name: str) -> bool:
        """Whether other files, or what runs this one, use a top-level name of it."""
        return name in self.used_elsewhere or name in self.found_by_name or name in self.starters

    def echo_at(self, offset: int) -> Echo | None:
        """The template place that shows its own text in which an offset lies."""
        for echo in self.echoes:
            if echo.expression.start <= offset < echo.expression.end:
                return echo
        return None

    @cached_property
    def names_in_use(self) -> frozenset[str]:
        """All names that any scope binds, and those that come from outside."""
        return frozenset(name for scope in self.scope.walk() for name in scope.symbols) | self.outside.symbols.keys()

    def function(self, qualified_name: str) -> Function | None:
        """The function of that qualified name; the last one where there are several."""
        return self._functions_by_name.get(qualified_name)

    @cached_property
    def _functions_by_name(self) -> dict[str, Function]:
        return {function.qualified_name: function for function in self.all_functions}

    def walk(self) -> Iterator[Statement]:
        """All statements of the file, those of routines too."""
        waiting = list(reversed(self.block.statements))
        while waiting:
            statement = waiting.pop()
            yield statement
            for block in reversed([*statement.bodies, *statement.blocks]):
                waiting.extend(reversed(block.statements))


def _start(reference: Reference) -> int:
    return reference.start
