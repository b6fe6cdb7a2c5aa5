"""Which objects may be others inside once a statement has run."""

from __future__ import annotations

from collections.abc import Iterable

from aedifex.program.analysis.aliases import Aliases
from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Function, Lambda, Routine, Statement


class Alterations(Analysis):
    """What the top-level statements of a module do to objects, by whatever name these are reached."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.effects = Effects.of(module)
        self.aliases = Aliases.of(module)
        self._during: dict[Statement, set[Symbol]] = {}

    def during(self, statement: Statement) -> set[Symbol]:
        """The symbols whose objects may be others inside once a top-level statement has run.

        Counted are all names that may lead to an object that it changes, by a path or by what it calls; and, where code
        outside of the program may run, the objects that this was given.
        """
        found = self._during.get(statement)
        if found is None:
            found = self._during[statement] = self._found_during(statement)
        return found

    def _found_during(self, statement: Statement) -> set[Symbol]:
        changed: set[Symbol] = set()
        is_outside = self.effects.is_lazy
        running = self.effects.may_run_during(statement)
        for inner in [*statement.walk(), *(i for routine in running for i in _statements_of(routine))]:
            changed.update(self.aliases.changed_by(inner))
            is_outside |= any(map(self.effects.is_outside, inner.calls))
        if is_outside:
            changed |= self.aliases.escaped
        return self.aliases.with_aliases(changed)


def _statements_of(routine: Routine) -> Iterable[Statement]:
    if isinstance(routine, Function | Lambda) and routine.body is not None:
        return routine.body.walk()
    return [routine.statement] if isinstance(routine, Lambda) and routine.statement is not None else []
