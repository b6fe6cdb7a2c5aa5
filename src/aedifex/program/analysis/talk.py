"""What talks to the user at a terminal: what prints and reads typed lines, itself or by what it calls."""

from __future__ import annotations

from bisect import bisect_left
from collections import defaultdict
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import Origin, Reference, ScopeKind
from aedifex.program.model.statements import Function, Routine, Statement, final_name
from aedifex.source.text import Span


class Talk(Analysis):
    """Tells the statements and routines of a module that talk from those that are silent."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.effects = Effects.of(module)
        library = module.dialect.library
        self._talking = frozenset({library.says, library.asks})
        self._places = [r.start for r in module.references if self._is_talk(r)]
        streams = (s for s in module.walk() if any(map(library.is_standard_stream, s.attributes)))
        self._places = sorted([*self._places, *(statement.start for statement in streams)])
        direct = {routine for routine in module.routines if self._is_spoken_by(routine)}
        self.routines = {r for r in module.routines if not direct.isdisjoint(self.effects.reached_from([r]))}

    @property
    def asks(self) -> bool:
        """Whether the program reads typed lines."""
        return self.module.dialect.library.asks in self.module.outside.symbols

    @cached_property
    def speakers(self) -> set[Routine]:
        """The routines that talk themselves or call one that does; to make an object that could talk is silent."""
        callers: defaultdict[str, set[Routine]] = defaultdict(set)
        for function in self.module.all_functions:
            for statement in function.body.walk():
                for call in statement.calls:
                    callers[final_name(call.callee)].add(function)
        found, waiting = set[Routine](), [r for r in self.module.routines if self._is_spoken_by(r)]
        while waiting:
            routine = waiting.pop()
            if routine not in found:
                found.add(routine)
                waiting += callers[routine.name]
        return found

    def talks(self, statement: Statement) -> bool:
        """Whether a statement may print or read a typed line."""
        return self._is_spoken_in(statement.span) or not self.routines.isdisjoint(self.effects.may_run_in(statement))

    def _is_talk(self, reference: Reference) -> bool:
        symbol = reference.symbol
        if symbol.imported is not None:
            return self.module.dialect.library.is_standard_stream(symbol.imported.name or "")
        is_library = symbol.scope.kind is ScopeKind.OUTSIDE and symbol.origin is Origin.BUILTIN
        return is_library and reference.name in self._talking

    def _is_spoken_by(self, routine: Routine) -> bool:
        if isinstance(routine, Function):
            return self._is_spoken_in(routine.statement.span)
        return any(self._is_talk(use) for scope in routine.scope.walk() for use in scope.uses)

    def _is_spoken_in(self, span: Span) -> bool:
        place = bisect_left(self._places, span.start)
        return place < len(self._places) and self._places[place] < span.end
