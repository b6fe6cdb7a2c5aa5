"""What the search finds: state and routines that describe one thing."""

from __future__ import annotations

from dataclasses import dataclass, field

from aedifex.program.names import Symbol
from aedifex.program.statements import Routine
from aedifex.survey.evidence import Node


@dataclass(eq=False)
class Group:
    """Variables that describe one thing, the routines that lean to them, and those that can become its methods.

    `noun` names it, `second` are other words that would; `passed` are the variables of others that a method is
    given.
    """

    noun: str = ""
    second: list[str] = field(default_factory=list)
    variables: list[Symbol] = field(default_factory=list)
    leaning: list[Routine] = field(default_factory=list)
    routines: list[Routine] = field(default_factory=list)
    passed: dict[Routine, list[Symbol]] = field(default_factory=dict)

    @property
    def nodes(self) -> list[Node]:
        """All that is in it."""
        return list(dict.fromkeys([*self.variables, *self.leaning, *self.routines]))
