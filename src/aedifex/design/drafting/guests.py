"""Which variables of a group are only guests in it: they stay with the owner."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence

from aedifex.design.drafting.group import Group
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.values import only_value
from aedifex.program.model.names import Mode, Scope, Symbol
from aedifex.program.model.statements import Routine, Shape
from aedifex.survey.evidence import Evidence

_FAR_MORE = 3


class Guests:
    """Tells members of groups from guests; `containers` hold objects of classes that there are already."""

    def __init__(self, evidence: Evidence, effects: Effects, containers: Collection[Symbol]) -> None:
        self.evidence = evidence
        self.effects = effects
        self.containers = containers

    def send_home(self, groups: Sequence[Group]) -> bool:
        """Take the guests out of groups that have their routines, and answer whether there were any."""
        before = [list(group.variables) for group in groups]
        for group in groups:
            alone = self.containers_alone(group)
            group.variables = [v for v in group.variables if v not in alone]
            guests = [*self.looked_at(group), *self.handles(group)]
            group.variables = [v for v in group.variables if v not in guests]
        return before != [group.variables for group in groups]

    def send_strangers_home(self, groups: Sequence[Group]) -> bool:
        """Take out of groups what only a routine of theirs holds to them, and answer whether there was any."""
        before = [list(group.variables) for group in groups]
        for group in groups:
            strangers = {*self.handles(group), *self.used_elsewhere(group)} & {*self.called_alone(group)}
            group.variables = [v for v in group.variables if v not in strangers]
        return before != [group.variables for group in groups]

    def containers_alone(self, group: Group) -> list[Symbol]:
        """The containers of objects after which nothing else in a group is called."""
        return [variable for variable in self.called_alone(group) if variable in self.containers]

    def called_alone(self, group: Group) -> list[Symbol]:
        """The variables of a group that have no word in common with another of them."""
        words = {variable: set(self.evidence.nouns[variable]) for variable in group.variables}
        return [v for v in words if not any(words[v] & words[other] for other in words if other is not v)]

    def looked_at(self, group: Group) -> list[Symbol]:
        """What a group only looks at, other code uses and changes, and the group's noun does not name."""
        written = {s for routine in group.routines for s in self.effects.transitive[routine].writes}
        others = [effect for routine, effect in self.effects.direct.items() if routine not in group.routines]
        used = {s for effect in others for s in effect.writes} & {s for effect in others for s in effect.reads}
        called = [v for v in group.variables if group.noun in self.evidence.nouns[v]]
        if not called or not group.routines:
            return []
        changed = [v for v in group.variables if len(v.bindings) > 1 and v in used]
        return [v for v in changed if v not in written and v not in called]

    def handles(self, group: Group) -> list[Symbol]:
        """What the program has from elsewhere, once and for all, and others use more than a group of another name."""
        found: list[Symbol] = []
        inside = _scopes_of(group.routines)
        for variable in group.variables:
            only = only_value(variable)
            is_of_group = group.noun in self.evidence.nouns[variable]
            if only is None or only.value.shape not in (Shape.NAME, Shape.CALL, Shape.OTHER) or is_of_group:
                continue
            uses = [r for r in variable.references if r is not only.pair.target and r.mode is not Mode.DECLARE]
            if group.routines and 2 * _count(variable, inside) < len(uses):
                found.append(variable)
        return found

    def used_elsewhere(self, group: Group) -> list[Symbol]:
        """What other routines use far more often than those of a group."""
        own = _scopes_of(group.routines)
        outside = _scopes_of(r for r in self.effects.direct if r is not None and r not in group.routines)
        used = {v: (_count(v, own), _count(v, outside)) for v in group.variables if group.routines}
        return [variable for variable, (here, elsewhere) in used.items() if elsewhere > _FAR_MORE * here]


def _scopes_of(routines: Iterable[Routine]) -> set[Scope]:
    """The scopes of routines, with all inside them."""
    return {scope for routine in routines for scope in routine.scope.walk()}


def _count(variable: Symbol, scopes: Collection[Scope]) -> int:
    """How often a variable is named in some scopes."""
    return sum(reference.scope in scopes for reference in variable.references)
