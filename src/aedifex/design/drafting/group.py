"""What the search finds: state and routines that describe one thing."""

from __future__ import annotations

from dataclasses import dataclass, field

from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Routine
from aedifex.survey.evidence import Node


@dataclass(eq=False)
class Group:
    """Variables that describe one thing, the routines that lean to them, and those that can become its methods.

    `noun` names it, `second` are other words that would; `passed` are the variables of others that a method is
    given. `is_mixed` says that nothing holds it together but who needs it, so that no variable gives it its name;
    `came_from` is the file that its routines stood in, where that was another one.
    """

    noun: str = ""
    second: list[str] = field(default_factory=list)
    variables: list[Symbol] = field(default_factory=list)
    leaning: list[Routine] = field(default_factory=list)
    routines: list[Routine] = field(default_factory=list)
    passed: dict[Routine, list[Symbol]] = field(default_factory=dict)
    is_mixed: bool = False
    came_from: str = ""

    @property
    def nodes(self) -> list[Node]:
        """All that is in it."""
        return list(dict.fromkeys([*self.variables, *self.leaning, *self.routines]))
