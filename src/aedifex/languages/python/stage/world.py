"""The scripted outside world of one run: its turns, what happens in each, and the trace of what the program did."""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from _aedifex_stage.plan import Plan

from _aedifex_stage.trace_file import ScenarioEnd, TraceFile

_SLEEPS_A_TURN = 20


class World:
    """What recorders share. A *turn* is one round of a main loop, or one timer or event of a window's queue."""

    def __init__(self, plan: Plan) -> None:
        self.plan = plan
        self.trace = TraceFile(plan.trace, plan.folder, plan.entries)
        self.turn = 0
        self.turns = plan.turns
        self.sleeps = 0
        self.outside = ""
        self.events: dict[int, list] = {}
        for event in plan.events:
            self.events.setdefault(event["turn"], []).append(event)

    @property
    def is_over(self) -> bool:
        """Whether all turns have been played."""
        return self.turn >= self.turns

    def next_turn(self) -> list:
        """Begin the next turn; return what happens in it."""
        self.turn += 1
        self.sleeps = 0
        return self.events.get(self.turn, [])

    def slept(self) -> None:
        """Note that the program slept. One that does nothing but sleep is stopped."""
        self.sleeps += 1
        if self.sleeps > self.turns * _SLEEPS_A_TURN:
            raise ScenarioEnd("the scenario ends while the program sleeps")

    def stop(self) -> None:
        """Stop the program."""
        raise ScenarioEnd(f"the scenario ends after {self.turns} turns")
