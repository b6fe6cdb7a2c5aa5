"""The scripted outside world of one run: its turns, what happens in each, and the trace of what the program did."""

from __future__ import annotations

import os
import sys
import threading

from _aedifex_stage.trace_file import ScenarioEnd, TraceFile

_SLEEPS_A_TURN = 20
_MOST_SWALLOWED = 3


class World:
    """What recorders share. A *turn* is one round of a main loop, or one timer or event of a window's queue."""

    def __init__(self, plan: object) -> None:
        self.plan = plan
        self.trace = TraceFile(plan.trace, plan.folder, plan.entries, self.write_no_more)
        self.turn = 0
        self.turns = plan.turns
        self.sleeps = 0
        self.outside = ""
        self.ended = ""
        self.asked_for_more = False
        self.swallowed = 0
        self.finish = lambda ending: None
        self.become = lambda: None
        self.improviser: object = None
        self.returned = lambda name, value: None
        self.hears: dict[str, object] = {}
        self.events: dict[int, list] = {}
        for event in plan.events:
            self.events.setdefault(event["turn"], []).append(event)

    @property
    def is_over(self) -> bool:
        """Whether all turns have been played."""
        return self.turn >= self.turns

    def listen(self) -> None:
        """Hear from now on what the interpreter tells of everything that it does (PEP 578)."""
        hears = self.hears

        def hear(event: str, args: tuple) -> None:
            if event in hears:
                hears[event](args)

        sys.addaudithook(hear)

    def next_turn(self) -> list:
        """Begin the next turn; return what happens in it."""
        self.turn += 1
        self.sleeps = 0
        return self.events.get(self.turn, [])

    def slept(self) -> None:
        """Note that the program slept. One that does nothing but sleep is stopped."""
        self.sleeps += 1
        if self.sleeps > self.turns * _SLEEPS_A_TURN:
            self.end("the scenario ends while the program sleeps")

    def stop(self) -> None:
        """Stop the program, for all turns are played."""
        self.end(f"the scenario ends after {self.turns} turns")

    def write_no_more(self) -> None:
        """Stop the program, for the trace is full."""
        self.trace.left = 1000  # for what it says as it leaves
        self.end("stopped: it did more than is written down")

    def end(self, why: str) -> None:
        """Stop the program where it stands; at once where it catches even that, or where only a thread would end."""
        self.ended = self.ended or why
        self.swallowed += 1
        if self.swallowed > _MOST_SWALLOWED or threading.current_thread() is not threading.main_thread():
            self.finish({"code": 0, "stopped": self.ended})
        raise ScenarioEnd(self.ended)


def leave_at_once(code: int, real: object = os._exit) -> None:
    """End the process, whatever the program has made of `os._exit`."""
    real(code)
