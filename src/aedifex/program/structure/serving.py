"""What stands around the statements of a route file that tell an application of its handlers."""

from __future__ import annotations

from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.statements import BRINGING, Function, Kind, Statement
from aedifex.program.structure.routes import Routes
from aedifex.program.structure.state import is_used_in_routine

_DEFINING = BRINGING | {Kind.ALIAS, Kind.NOTHING}


class Serving(Analysis):
    """Sorts the top-level statements by what they have to do with the applications that are told of handlers."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.routes = Routes.of(module)
        self.effects = Effects.of(module)

    @cached_property
    def handlers(self) -> list[Function]:
        """The functions that applications are told of; those with decorators of their own are left to these."""
        return [function for function in self.routes.handlers if not function.statement.decorators]

    @cached_property
    def closing(self) -> list[Statement]:
        """What comes behind all that an application is told and has to do with it, and what follows that.

        What gives a value to a variable of routines does not belong to it, nor what stands before that.
        """
        if not self.routes.registrations:
            return []
        last = self.routes.registrations[-1]
        behind = [s for s in self.module.block.statements if s.start > last.start and s.kind not in _DEFINING]
        fixing = [number for number, statement in enumerate(behind) if self._sets_variable_of_routines(statement)]
        behind = behind[max(fixing, default=-1) + 1 :]
        is_first = (s is self.module.guard or self.routes.is_about_application(s) for s in behind)
        return behind[next((number for number, found in enumerate(is_first) if found), len(behind)) :]

    def _sets_variable_of_routines(self, statement: Statement) -> bool:
        set_here = [r.symbol for inner in statement.walk() for r in inner.references if r.mode.writes and not r.path]
        return any(is_used_in_routine(s) and s not in self.routes.applications for s in set_here)

    def stands_between(self, statement: Statement) -> bool:
        """Whether an application is told of handlers before and behind a statement that concerns it."""
        first, last = self.routes.registrations[0], self.routes.registrations[-1]
        return first.start < statement.start < last.start and self.concerns_application(statement)

    def concerns_application(self, statement: Statement) -> bool:
        """Whether it makes a difference if an application is told of handlers before a statement, or behind it.

        What is only defined concerns it where a decorator, or a default value, names it; what makes another
        application, where that is given this one.
        """
        applications = self.routes.applications
        makes_one = any(r.mode.writes and not r.path and r.symbol in applications for r in statement.references)
        if statement.kind in BRINGING or makes_one:
            return any(r.symbol in applications and not r.mode.writes for r in statement.references)
        return self.is_about_application(statement)

    def is_about_application(self, statement: Statement) -> bool:
        """Whether a statement, or what runs with it, has to do with an application."""
        running = self.effects.may_run_during(statement)
        used = {symbol for routine in running for symbol in self.effects.direct[routine].touches}
        return self.routes.is_about_application(statement) or not used.isdisjoint(self.routes.applications)
