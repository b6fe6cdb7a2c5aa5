"""Which variables of a group are only guests in it: they stay with the owner."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from aedifex.design.drafting.group import Group
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.names import Symbol
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
            guests = self.looked_at(group)
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
