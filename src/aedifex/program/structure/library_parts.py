"""Shorter names for things of libraries, given before a script does anything: they are what imports are."""

from __future__ import annotations

from collections.abc import Collection, Sequence

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
        self.symbols: Collection[Symbol] = self._found()

    def _found(self) -> set[Symbol]:
        """The variables that get something of a library before a statement does something."""
        found: set[Symbol] = set()
        for statement in self.module.block.statements:
            if statement.kind in BRINGING or statement.kind in _DEFINING or statement.is_text:
                continue
            given = statement.assignment
            if statement.kind is not Kind.ASSIGN or given is None or statement.keyword is None or statement.calls:
                break
            taken = self._taken(statement, found)
            found |= taken
            if not taken and (not given.pairs or any(pair.value.shape not in _STILL for pair in given.pairs)):
                break
        return found

    def _taken(self, statement: Statement, known: Collection[Symbol]) -> set[Symbol]:
        """The names to which a statement gives things of libraries; none where it does not only that."""
        given = [r for r in statement.references if r.declares]
        asked = [r for r in statement.references if not r.declares]
        values = self._values(statement)
        if not given or len(asked) != len(values) or any(self._is_changed(r.symbol) for r in given):
            return set()
        found: set[Symbol] = set()
        for reference, (target, value) in zip(asked, values, strict=True):
            named = [target] if target is not None else given
            is_of_library = self._is_library(reference.symbol, named, {*known, *found})
            if not self._is_way(reference) or reference.reach != value or not is_of_library:
                return set()
            found |= {r.symbol for r in named}
        return found

    @staticmethod
    def _values(statement: Statement) -> list[tuple[Reference | None, Span]]:
        """The values in a statement, in order, each with the name that alone gets it; none of a pattern's does."""
        given = statement.assignment
        if given is None:
            return []
        whole: list[tuple[Reference | None, Span]] = [(None, given.value.span)] if given.value is not None else []
        return [(pair.target, pair.value.span) for pair in given.pairs] or whole

    def _is_way(self, reference: Reference) -> bool:
        """Whether nothing but names lead from a name to what is asked for."""
        text = self.module.source.slice(reference.reach)
        plain = all(step.kind is AccessKind.ATTRIBUTE for step in reference.path)
        return plain and reference.mode is Mode.READ and "?" not in text

    @staticmethod
    def _is_changed(symbol: Symbol) -> bool:
        return len([r for r in symbol.references if r.mode.writes]) != 1

    def _is_library(self, asked: Symbol, given: Sequence[Reference], known: Collection[Symbol]) -> bool:
        """Whether a name leads to a library, or to something that a script has of one already."""
        if asked in known or asked.imported is not None:
            return True
        waiting = self.module.waiting_names
        if asked.scope is not self.module.outside or (waiting is not None and asked.name not in waiting):
            return False
        is_called = all(any(r.mode is Mode.CALL and not r.path for r in g.symbol.references) for g in given)
        return asked.origin is not Origin.BUILTIN or is_called
