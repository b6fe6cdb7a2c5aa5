"""A program: one or more modules, read as a whole."""

from __future__ import annotations

import bisect
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from aedifex.program.names import Hindrance, Reference, Scope, ScopeKind, Symbol
from aedifex.program.statements import Block, Routine, Statement
from aedifex.source.edits import Applied
from aedifex.source.errors import Place
from aedifex.source.text import SourceText, Span

if TYPE_CHECKING:
    from aedifex.program.dialect import Dialect


@dataclass(frozen=True, slots=True)
class Comment:
    """A comment. `alone` tells whether nothing else stands on its line."""

    start: int
    end: int
    alone: bool


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
    `unknown_stars` the star imports whose names could not be found out, as module name and star; `used_elsewhere` what
    other files of the program use of this one, with the first place where they do. `answers` keeps what was asked
    about the file.
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
    guard: Statement | None = None
    doc: Statement | None = None
    used_elsewhere: dict[str, Place] = field(default_factory=dict)
    unknown_stars: list[tuple[str, Reference]] = field(default_factory=list)
    answers: dict[type, object] = field(default_factory=dict, repr=False)

    @property
    def path(self) -> Path:
        """The file's path."""
        return self.source.path

    @property
    def postpones_annotations(self) -> bool:
        """Whether annotations are not evaluated where they stand."""
        return self.dialect.postpones_annotations(self)

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

    def echo_around(self, reference: Reference) -> Echo | None:
        """The template place that shows its own text in which a reference stands."""
        for echo in self.echoes:
            if echo.expression.start <= reference.start < echo.expression.end:
                return echo
        return None

    @cached_property
    def names_in_use(self) -> frozenset[str]:
        """All names that any scope binds, and those that come from outside."""
        return frozenset(name for scope in self.scope.walk() for name in scope.symbols) | self.outside.symbols.keys()

    def routine(self, qualified_name: str) -> Routine | None:
        """The routine of that qualified name; the last one where there are several."""
        return self._routines_by_name.get(qualified_name)

    @cached_property
    def _routines_by_name(self) -> dict[str, Routine]:
        named = (r for r in self.routines if r.scope.kind is ScopeKind.ROUTINE)
        return {routine.qualified_name: routine for routine in named}

    def walk(self) -> Iterator[Statement]:
        """All statements of the file, those of routines too."""
        waiting = list(reversed(self.block.statements))
        while waiting:
            statement = waiting.pop()
            yield statement
            for block in reversed(statement.blocks):
                waiting.extend(reversed(block.statements))


def _start(reference: Reference) -> int:
    return reference.start


@dataclass(frozen=True)
class Program:
    """Modules by path, in the order given; the first is the script that is started.

    A program that came of changes knows the `earlier` one, and what was `applied` to it. `spellings` tells, for
    variables made from the parts of an object, how the script itself writes them; `answers` keeps what was worked out
    about it.
    """

    modules: Mapping[Path, Module]
    earlier: Program | None = None
    applied: Applied | None = None
    spellings: Mapping[str, str] = field(default_factory=dict)
    answers: dict[type, object] = field(default_factory=dict, init=False, repr=False, compare=False)

    @property
    def main(self) -> Module:
        """The script that is started."""
        return next(iter(self.modules.values()))

    @property
    def dialect(self) -> Dialect:
        """How the script's language is read and written."""
        return self.main.dialect

    @property
    def imported(self) -> list[str]:
        """The modules that its files import."""
        references = (reference for module in self.modules.values() for reference in module.references)
        return sorted({r.symbol.brought[0] for r in references if r.symbol.brought is not None})

    @property
    def origin(self) -> Program:
        """The program as it was read, before all changes."""
        program = self
        while program.earlier is not None:
            program = program.earlier
        return program

    def original_place(self, place: Place) -> Place:
        """Where a line of this program stood in the files as they were read; without a line where it is new."""
        program, path, line = self, place.path, place.line
        while program.earlier is not None and program.applied is not None and line is not None:
            module = program.modules.get(path)
            if module is None:
                return place
            start = module.source.line_starts[line - 1]
            found = program.applied.whence(path, Span(start, module.source.line_end(start)))
            if found is None:
                return Place(program.origin.main.path)
            program, path = program.earlier, found[0]
            line = program.modules[path].source.line_of(found[1])
        return Place(path, line)

    def line_now(self, path: Path, line: int) -> int | None:
        """The line on which a line of the files as they were read begins now; None where its beginning is gone."""
        chain: list[Program] = []
        program = self
        while program.earlier is not None:
            chain.append(program)
            program = program.earlier
        source = program.modules[path].source
        if not 0 < line <= source.line_count:
            return None
        text = source.line(line)
        start = source.line_starts[line - 1] + len(text[: len(text) - len(text.lstrip())].encode())
        place = Span(start, start + 1)
        for later in reversed(chain):
            assert later.applied is not None
            found = later.applied.whereabouts(path, place)
            if found is None:
                return None
            path, place = found
        return self.modules[path].source.line_of(place.start)

    @property
    def texts(self) -> dict[Path, SourceText]:
        """The files' texts by path."""
        return {path: module.source for path, module in self.modules.items()}
