"""A program: one or more modules, read as a whole."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import partial
from itertools import product
from pathlib import Path
from typing import TYPE_CHECKING

from aedifex.program.model.enclosed import Enclosed
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Statement
from aedifex.source.edits import Applied
from aedifex.source.errors import Place
from aedifex.source.text import SourceText, Span

if TYPE_CHECKING:
    from aedifex.program.dialect.dialect import Dialect


@dataclass(frozen=True)
class Program:
    """Modules by path, in the order given; the first is the script that is started.

    A program that came of changes knows the `earlier` one, and what was `applied` to it. `spellings` tells, for
    variables made from the parts of an object, how the script itself writes them; `enclosed` what waits around the
    code of its one routine; `kinds` names the classes that were made of things that occur several times, `parts` those
    that were made of parts of others; `beside` are the files of data that moves have made; `answers` keeps what was
    worked out about it.
    """

    modules: Mapping[Path, Module]
    earlier: Program | None = None
    applied: Applied | None = None
    spellings: Mapping[str, str] = field(default_factory=dict)
    enclosed: Enclosed | None = None
    kinds: frozenset[str] = frozenset()
    parts: frozenset[str] = frozenset()
    beside: Mapping[Path, bytes] = field(default_factory=dict)
    answers: dict[type, object] = field(default_factory=dict, init=False, repr=False, compare=False)

    @property
    def main(self) -> Module:
        """The script that is started."""
        return next(iter(self.modules.values()))

    @property
    def gone(self) -> list[Path]:
        """The files that were read, and have nothing left of their own."""
        return [path for path in self.origin.modules if path not in self.modules]

    @property
    def dialect(self) -> Dialect:
        """How the script's language is read and written."""
        return self.main.dialect

    @property
    def imported(self) -> list[str]:
        """The modules that its files import."""
        return sorted({name for module in self.modules.values() for name in module.imported})

    @property
    def origin(self) -> Program:
        """The program as it was read, before all changes."""
        program = self
        while program.earlier is not None:
            program = program.earlier
        return program

    def original_place(self, place: Place) -> Place:
        """Where a line of this program stood in the files as they were read; without a line where it is new."""
        return self._original(place, Applied.old_offset_of)

    def _original(self, place: Place, old: Callable[[Applied, Path, Span], tuple[Path, int] | None]) -> Place:
        program, path, line = self, place.path, place.line
        while program.earlier is not None and program.applied is not None and line is not None:
            module = program.modules.get(path)
            if module is None:
                return place
            start = module.source.line_starts[line - 1]
            found = old(program.applied, path, Span(start, module.source.line_end(start)))
            if found is None:
                return Place(program.origin.main.path)
            program, path = program.earlier, found[0]
            line = program.modules[path].source.line_of(found[1])
        return Place(path, line)

    def original_lines(self, first: int, last: int) -> tuple[int, int] | None:
        """Where lines of the script stood as it was read; None where they were not there in this order.

        The first and the last may be new, if they stand in place of some that were there: a call of what these became.
        """
        of_first, of_last = (partial(Applied.old_edge_of, is_last=is_last) for is_last in (False, True))
        places = [
            self._original(Place(self.main.path, line), old) for line, old in ((first, of_first), (last, of_last))
        ]
        begin, end = (place.line if place.path == self.main.path else None for place in places)
        return (begin, end) if begin is not None and end is not None and begin <= end else None

    def original_lines_of(self, run: Sequence[Statement]) -> tuple[int, int] | None:
        """Where statements of the script stood as it was read; None where they were not there in this form."""
        line_of = self.main.source.line_of
        return self.original_lines(line_of(run[0].start), line_of(max(run[-1].start, run[-1].end - 1)))

    def lines_now(self, path: Path, first: int, last: int) -> tuple[int, int] | None:
        """Where lines of a file as it was read, or what stands in place of the first and the last, stand now."""
        chain, source = self._since_read(path)
        if not 0 < first <= last <= source.line_count:
            return None
        for ends in product(_bytes_of(source, first), _bytes_of(source, last)):
            found: tuple[Path, Span, Span] | None = (path, *ends)
            for later in chain:
                if found is not None and later.applied is not None:
                    found = later.applied.new_range_of(*found)
            if found is not None:
                now = self.modules[found[0]].source
                return now.line_of(found[1].start), now.line_of(found[2].start)
        return None

    def line_now(self, path: Path, line: int) -> int | None:
        """The line on which a line of the files as they were read stands now; None where nothing of it is left."""
        place = self.place_now(path, line)
        return place.line if place is not None else None

    def place_now(self, path: Path, line: int) -> Place | None:
        """The file and line where a line of the files as they were read stands now; None where nothing is left."""
        chain, source = self._since_read(path)
        if not 0 < line <= source.line_count:
            return None
        found = (_followed(path, at, chain) for at in _bytes_of(source, line))
        now = next((place for place in found if place is not None), None)
        return self.modules[now[0]].source.place(now[1].start) if now is not None else None

    def _since_read(self, path: Path) -> tuple[list[Program], SourceText]:
        """The programs that came of changes, the first one first, and a file as it was read."""
        chain: list[Program] = []
        program = self
        while program.earlier is not None:
            chain.insert(0, program)
            program = program.earlier
        return chain, program.modules[path].source

    @property
    def texts(self) -> dict[Path, SourceText]:
        """The files' texts by path."""
        return {path: module.source for path, module in self.modules.items()}


def _bytes_of(source: SourceText, line: int) -> list[Span]:
    """The bytes of a line, one by one, without the blanks around them."""
    text = source.line(line)
    start = source.line_starts[line - 1] + len(text[: len(text) - len(text.lstrip())].encode())
    return [Span(at, at + 1) for at in range(start, start + len(text.strip().encode()))]


def _followed(path: Path, place: Span, chain: Sequence[Program]) -> tuple[Path, Span] | None:
    """Where a byte stands after all changes; None where one took it away."""
    for later in chain:
        assert later.applied is not None
        found = later.applied.new_span_of(path, place)
        if found is None:
            return None
        path, place = found
    return path, place
