"""Which routines become methods of which group."""

from __future__ import annotations

from collections.abc import Sequence

from aedifex.design.drafting.group import Group
from aedifex.design.drafting.naming import is_resource
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.parameter_passing import why_not_passed
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, Symbol
from aedifex.program.model.statements import Function, Routine
from aedifex.program.structure.fronts import Fronts
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.obstacles import function_obstacles
from aedifex.program.structure.state import is_state
from aedifex.survey.kinds.objects import class_of_objects, object_parameter
from aedifex.survey.words import nouns_of

_MOST_PASSED = 4


class Giving:
    """Gives routines to groups, and notes in `doubts` why one stays with the owner."""

    def __init__(self, module: Module, doubts: list[str]) -> None:
        self.module = module
        self.main = MainCode.of(module)
        self.constants = self.main.constants
        self.effects = Effects.of(module)
        self.doubts = doubts

    def give(self, groups: Sequence[Group]) -> None:
        """Give each routine to the group that it works on, if that can be done, with what it must be passed."""
        chosen: dict[Function, Group] = {}
        for routine in self.module.functions:
            group = self.group_for(routine, groups)
            if group is not None:
                chosen[routine] = group
        while True:
            unfit = [routine for routine, group in chosen.items() if self.leans_out(routine, group, chosen)]
            if not unfit:
                break
            for routine in unfit:
                del chosen[routine]
        for routine, group in chosen.items():
            group.routines.append(routine)
            group.passed[routine] = self.foreign(routine, group)

    def group_for(self, routine: Function, groups: Sequence[Group]) -> Group | None:
        """The group of which a routine sets the state, and no other; or that it leans to, if it sets none.

        What it draws on, or writes to, is nobody's state: that is passed in.
        """
        effect = self.effects.transitive[routine]
        writes = {s for s in effect.writes if is_state(s) and not is_resource(s)}
        touched = [group for group in groups if not effect.touches.isdisjoint(group.variables)]
        if routine.name == self.module.dialect.rules.entry or function_obstacles(self.module, routine):
            return None
        if routine in self.main.routes.handlers:
            return None  # the owner tells the application of it
        is_behind = routine.name in Fronts.of(self.module).behind
        for group in touched:
            if self.is_about_object(routine, group):
                return None
            if writes:
                fits = writes <= set(group.variables)
            else:
                leans = routine in group.leaning or self.is_only_about(routine, group)
                fits = leans and self.is_mostly_about(routine, group)
            if is_behind and self.foreign(routine, group):
                continue  # what stands in front of it has nothing to give but what it is given itself
            if fits and self.can_be_given(routine, group):
                return group
        return None

    def is_about_object(self, routine: Function, group: Group) -> bool:
        """Whether a routine changes an object that it is given, or has more to do with that than with a group."""
        given = (object_parameter(self.module, routine, scope) for scope in self.module.classes)
        uses = [[r for r in p.reference.symbol.references if r.path] for p in given if p is not None]
        span = routine.statement.span
        own = sum(span.start <= r.start < span.end for v in group.variables for r in v.references)
        return any(len(found) > own or any(map(_is_deed, found)) for found in uses)

    def is_mostly_about(self, routine: Function, group: Group) -> bool:
        """Whether a routine that writes nothing is named after a group, or reads no other's variables."""
        return group.noun in nouns_of(routine.name) or not self.foreign(routine, group)

    def is_only_about(self, routine: Routine, group: Group) -> bool:
        """Whether a routine has to do with a group only, calls what works on that, and has the name of no other."""
        touched = {s for s in self.effects.transitive[routine].touches if s in self.main.variables}
        callees = [callee for callee in self.effects.calls[routine] if callee in self.module.functions]
        works = group.noun in nouns_of(routine.name)
        works |= any(not self.effects.transitive[callee].touches.isdisjoint(group.variables) for callee in callees)
        others = {noun for v in self.main.variables if v not in group.variables for noun in nouns_of(v.name)[:1]}
        return touched <= set(group.variables) and works and others.isdisjoint(nouns_of(routine.name))

    def can_be_given(self, routine: Function, group: Group) -> bool:
        """Whether all that a routine reads of others can be passed in, and its signature needs none of it."""
        foreign = self.foreign(routine, group)
        if len(foreign) > _MOST_PASSED or any(map(self.holds_objects, foreign)):
            return False
        for symbol in foreign:
            reason = why_not_passed(self.effects, routine, symbol)
            if reason is not None:
                self.doubts.append(f"{routine.name} stays with the owner, not {group.noun}: {reason[1]}")
                return False
        return not any(
            reference.form is Form.PLAIN and reference.symbol.is_module_level and is_state(reference.symbol)
            for reference in routine.statement.references
        )

    def holds_objects(self, symbol: Symbol) -> bool:
        """Whether a variable holds a container of objects of the script's classes: who walks over it is their owner."""
        holdings = Holdings.of(self.module)
        element = holdings.of_symbol(symbol).element
        return element is not None and class_of_objects(holdings, element.now) is not None

    def foreign(self, routine: Routine, group: Group) -> list[Symbol]:
        """The changing state that a routine and what it calls read and the group does not own."""
        touches = self.effects.transitive[routine].touches
        own = set(group.variables)
        return [s for s in self.main.variables if s in touches and s not in own]

    def leans_out(self, routine: Function, group: Group, chosen: dict[Function, Group]) -> bool:
        """Whether a routine calls one that works on state and goes elsewhere."""
        return any(
            callee is not routine
            and isinstance(callee, Function)
            and self.constants.changing(self.effects.transitive[callee].touches)
            and chosen.get(callee) is not group
            for callee in self.effects.calls[routine]
        )


def _is_deed(use: Reference) -> bool:
    """Whether an object is given other values, or told to do something by a line of its own."""
    statement = use.statement
    if use.path_mode is not None and use.path_mode.writes:
        return True
    return statement is not None and any(c.callee is use and c.span == statement.deed for c in statement.calls)
