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
    """A divergence in the shortest scenario found within so many seconds, or in a few tries where these take longer.

    What may only be chance is not asked for each try, but of the last; where it is chance, for each try.
    """
    until = time.monotonic() + seconds
    tried = _Shortener(comparison.seems_different, found.scenario, until).shorten()
    if tried == found.scenario:
        return found
    if sure := _divergence(comparison, tried):
        return sure
    slowly = _Shortener(lambda scenario: _divergence(comparison, scenario) is not None, found.scenario, until)
    return _divergence(comparison, slowly.shorten()) or found


def _divergence(comparison: Comparison, scenario: Scenario) -> Divergence | None:
    try:
        return comparison.differs(scenario)
    except RunError:
        return None


class _Shortener:
    def __init__(self, differs: Callable[[Scenario], bool], scenario: Scenario, until: float) -> None:
        self.differs = differs
        self.best = scenario
        self.until = until
        self.tries = 0

    def shorten(self) -> Scenario:
        scenario = self.best
        self.least(scenario.lines, lambda lines: replace(self.best, lines=lines))
        self.least(scenario.events, lambda events: replace(self.best, events=events))
        self.fewer_turns()
        return self.best

    def still_differs(self, scenario: Scenario) -> bool:
        if self.tries >= TRIES_AT_LEAST and time.monotonic() > self.until:
            return False
        self.tries += 1
        if self.differs(scenario):
            self.best = scenario
        return self.best is scenario

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
        """One turn, where that is enough, or half as many again and again."""
        turns = self.best.turns
        if turns > 1 and not self.still_differs(replace(self.best, turns=1)):
            while turns > 2 and self.still_differs(replace(self.best, turns=turns // 2)):
                turns //= 2
