"""Making a scenario shorter that shows a difference.

The method is delta debugging's `ddmin` (A. Zeller, R. Hildebrandt, "Simplifying and Isolating Failure-Inducing Input",
IEEE Transactions on Software Engineering 28(2), 2002), on the typed lines and then on the events, for a bounded time.
Before it, what comes behind the difference is cut off: for a beginning that shows it, half as long is tried.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import replace
from typing import TypeVar

from aedifex.source.errors import RunError
from aedifex.verify.compare import Comparison, Divergence
from aedifex.verify.scenarios.scenario import Scenario

_Item = TypeVar("_Item")

TRIES_AT_LEAST = 8
"""However slow the machine, so often is a shorter scenario tried."""


def shorten(comparison: Comparison, found: Divergence, seconds: float) -> Divergence:
    """A divergence in the shortest scenario found within so many seconds, or in a few tries where these take longer."""
    return _Shortener(comparison, found, time.monotonic() + seconds).shorten()


class _Shortener:
    def __init__(self, comparison: Comparison, found: Divergence, until: float) -> None:
        self.comparison = comparison
        self.best = found
        self.until = until
        self.tries = 0

    def shorten(self) -> Divergence:
        scenario = self.best.scenario
        self.least(scenario.lines, lambda lines: replace(self.best.scenario, lines=lines))
        self.least(scenario.events, lambda events: replace(self.best.scenario, events=events))
        self.fewer_turns()
        return self.best

    def still_differs(self, scenario: Scenario) -> bool:
        if self.tries >= TRIES_AT_LEAST and time.monotonic() > self.until:
            return False
        self.tries += 1
        try:
            found = self.comparison.differs(scenario)
        except RunError:
            return False
        if found is None:
            return False
        self.best = found
        return True

    def least(self, items: tuple[_Item, ...], made: Callable[[tuple[_Item, ...]], Scenario]) -> None:
        """Cut the end off, then take runs of items out, of half the length and ever shorter, while it differs."""
        while items and self.still_differs(made(items[: len(items) // 2])):
            items = items[: len(items) // 2]
        size = max(1, len(items) // 2)
        while items:
            at = 0
            while at < len(items):
                fewer = items[:at] + items[at + size :]
                if self.still_differs(made(fewer)):
                    items = fewer
                else:
                    at += size
            if size == 1:
                return
            size //= 2

    def fewer_turns(self) -> None:
        turns = self.best.scenario.turns
        while turns > 1 and self.still_differs(replace(self.best.scenario, turns=turns // 2)):
            turns //= 2
