"""Shorter names for things of libraries, given before a script does anything: they are what imports are."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from aedifex.program.analysis.cached import Analysis
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Mode, Origin, Reference, Symbol
from aedifex.program.model.statements import BRINGING, Kind, Shape, Statement
from aedifex.source.text import Span

_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.DECLARE})
_STILL = frozenset({Shape.LITERAL, Shape.COMPUTED, Shape.DISPLAY, Shape.NAME})


class LibraryParts(Analysis):
    """The variables that are such names.

    Each is declared with its one value: a name of a library's, or what that has under plain names. What a library is
    known for by the language itself is none, unless it is called by its new name; where the script is a routine's body,
    the code around that must have asked for the library before.
    """

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.roots: Mapping[Symbol, Symbol] = dict(self._found())

    def _found(self) -> Iterator[tuple[Symbol, Symbol]]:
        """The variables, each with the name that leads to its library; until a statement does something."""
        roots: dict[Symbol, Symbol] = {}
        for statement in self.module.block.statements:
            if statement.kind in BRINGING or statement.kind in _DEFINING or statement.is_text:
                continue
            given = statement.assignment
            if statement.kind is not Kind.ASSIGN or given is None or statement.keyword is None or statement.calls:
                return
            taken = dict(self._taken(statement, roots))
            roots |= taken
            yield from taken.items()
            if not taken and (not given.pairs or any(pair.value.shape not in _STILL for pair in given.pairs)):
                return

    def _taken(self, statement: Statement, roots: Mapping[Symbol, Symbol]) -> Iterator[tuple[Symbol, Symbol]]:
        """What a statement gives names of, one after the other; nothing where it does not only that."""
        given = [r for r in statement.references if r.declares]
        asked = [r for r in statement.references if not r.declares]
        values = self._values(statement)
        if not given or len(asked) != len(values) or any(self._is_changed(r.symbol) for r in given):
            return
        found: dict[Symbol, Symbol] = {}
        for reference, (target, value) in zip(asked, values, strict=True):
            named = [target] if target is not None else given
            if not self._is_way(reference) or Span(reference.start, self._end(reference)) != value:
                return
            root = self._library(reference, named, {**roots, **found})
            if root is None:
                return
            found |= {r.symbol: root for r in named}
        yield from found.items()

    @staticmethod
    def _values(statement: Statement) -> list[tuple[Reference | None, Span]]:
        """The values in a statement, in order, each with the name that alone gets it; none of a pattern's does."""
        given = statement.assignment
        if given is None:
            return []
        whole: list[tuple[Reference | None, Span]] = [(None, given.value.span)] if given.value is not None else []
        return [(pair.target, pair.value.span) for pair in given.pairs] or whole

    @staticmethod
    def _end(reference: Reference) -> int:
        return reference.path[-1].end if reference.path else reference.end

    def _is_way(self, reference: Reference) -> bool:
        """Whether nothing but names lead from a name to what is asked for."""
        text = self.module.source.slice(Span(reference.start, self._end(reference)))
        plain = all(step.kind is AccessKind.ATTRIBUTE for step in reference.path)
        return plain and reference.mode is Mode.READ and "?" not in text

    @staticmethod
    def _is_changed(symbol: Symbol) -> bool:
        return len([r for r in symbol.references if r.mode.writes]) != 1

    def _library(self, asked: Reference, given: list[Reference], roots: Mapping[Symbol, Symbol]) -> Symbol | None:
        """The name that leads to a library, where one is asked for."""
        symbol = asked.symbol
        if symbol in roots:
            return roots[symbol]
        if symbol.imported is not None:
            return symbol
        waiting = self.module.waiting_names
        if symbol.scope is not self.module.outside or (waiting is not None and symbol.name not in waiting):
            return None
        is_called = all(any(r.mode is Mode.CALL and not r.path for r in g.symbol.references) for g in given)
        return symbol if symbol.origin is not Origin.BUILTIN or is_called else None
