"""Why a variable or a routine is where the draft put it, and how sure the draft is."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from aedifex.program.analysis.effects import Effects
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Routine
from aedifex.program.structure.state import is_state
from aedifex.survey.evidence import Evidence, Ground, Node

UNSURE = 0.55
"""A member that the draft is less sure of than this is among those to look at first."""

_MOST_GROUNDS = 2
_MOST_NAMED = 2


@dataclass(frozen=True)
class Reasons:
    """Words for what put the members of a class there.

    `groups` are the variables and routines of each class, and those of none; `written` tells how the script writes a
    variable.
    """

    groups: Sequence[Sequence[Node]]
    evidence: Evidence
    effects: Effects
    written: Callable[[Symbol], str]

    def sure(self, node: Node, group: Sequence[Node]) -> float:
        """How sure it is that a node goes with a group rather than with the next best: ½ for a tie, 1 for no rival."""
        ties = self.evidence.edges.get(node, {})
        pulls = [sum(ties.get(other, 0.0) for other in nodes) for nodes in self.groups]
        own = sum(ties.get(other, 0.0) for other in group)
        rival = max((p for p, nodes in zip(pulls, self.groups, strict=True) if nodes != group), default=0.0)
        return own / (own + rival) if own else 0.0

    def of_field(self, variable: Symbol, group: Sequence[Node], noun: str) -> str:
        """What ties a variable to its class, the strongest first."""
        return "; ".join(self._phrases(variable, group, noun))

    def of_method(self, routine: Routine, group: Sequence[Node], passed: Sequence[Symbol]) -> str:
        """What a routine does with the fields of its class, and what else it is given."""
        effect = self.effects.transitive[routine]
        writes = [n for n in group if isinstance(n, Symbol) and n in effect.writes and is_state(n)]
        reads = [n for n in group if isinstance(n, Symbol) and n in effect.reads]
        does = f"changes {self.named(writes)}, nothing else" if writes else f"only reads {self.named(reads)}"
        return does + (f"; is given {self.named(passed)}" if passed else "")

    def of_class(self, variables: Sequence[Symbol], leaning: Sequence[Routine], noun: str) -> str:
        """What put the variables of a class together."""
        sharing = [s for s in variables if noun in self.evidence.nouns.get(s, ())]
        others = [s for s in variables if s not in sharing]
        parts = []
        if len(sharing) > 1:
            parts.append(f"{self.named(sharing, 4)} share the word {noun}")
        own = set(variables)
        together = [r for r in leaning if len(own & self.effects.direct[r].touches) > 1]
        if together:
            verb = "use" if len(together) > 1 else "uses"
            what = "it and others" if len(own) < 2 else "several of them together"
            parts.append(f"{self.named(together, 4)} {verb} {what}")
        elif len(own) == 1:
            parts.append(f"{self.named(variables)} has routines of its own")
        if others and sharing:
            verb = "is" if len(others) == 1 else "are"
            parts.append(f"{self.named(others, 4)} {verb} used where these are")
        return "; ".join(parts) or "they stand together, in the text and in its statements"

    def _phrases(self, node: Node, group: Sequence[Node], noun: str) -> list[str]:
        by_ground: dict[Ground, list[tuple[float, Node]]] = {}
        for other in group:
            for ground, weight in self.evidence.grounds(node, other).items():
                by_ground.setdefault(ground, []).append((weight, other))
        strongest = sorted(by_ground, key=lambda ground: (-sum(w for w, _ in by_ground[ground]), ground.value))
        found = []
        for ground in strongest[:_MOST_GROUNDS]:
            ties = sorted(by_ground[ground], key=lambda tie: -tie[0])
            if ground is Ground.WORD and noun in self.evidence.nouns.get(node, ()):
                found.append(f"has the word {noun}")
            else:
                found.append(f"{ground.value} {self.named([other for _, other in ties])}")
        return found

    def named(self, nodes: Sequence[Node], most: int = _MOST_NAMED) -> str:
        """The names of some nodes in a row, the first few of many."""
        names = [self.written(node) if isinstance(node, Symbol) else node.name for node in nodes]
        shown = names if len(names) <= most else [*names[: most - 1], f"{len(names) - most + 1} more"]
        if not shown:
            return "no field"
        *most_of_them, last = shown
        return f"{', '.join(most_of_them)} and {last}" if most_of_them else last
