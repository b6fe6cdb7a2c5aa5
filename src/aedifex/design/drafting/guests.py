"""Which variables of a group are only guests in it: they stay with the owner."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from aedifex.design.drafting.group import Group
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.values import only_value
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Shape
from aedifex.survey.evidence import Evidence


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

    def containers_alone(self, group: Group) -> list[Symbol]:
        """The containers of objects after which nothing else in a group is called."""
        nouns = self.evidence.nouns
        things = [v for v in group.variables if v in self.containers]
        return [v for v in things if not any(set(nouns[v]) & set(nouns[o]) for o in group.variables if o is not v)]

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
        routines = [routine.scope for routine in group.routines]
        found: list[Symbol] = []
        for variable in group.variables:
            only = only_value(variable)
            is_of_group = group.noun in self.evidence.nouns[variable]
            if only is None or only.value.shape not in (Shape.NAME, Shape.CALL, Shape.OTHER) or is_of_group:
                continue
            uses = [r for r in variable.references if r is not only.pair.target]
            own = [r for r in uses if any(r.scope is scope or r.scope.within(scope) for scope in routines)]
            if group.routines and 2 * len(own) < len(uses):
                found.append(variable)
        return found
