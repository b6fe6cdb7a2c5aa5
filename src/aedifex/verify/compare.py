"""Comparing two programs, scenario by scenario."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from aedifex.source.errors import RunError
from aedifex.verify.run import Limits, run
from aedifex.verify.scenario import Scenario
from aedifex.verify.trace import Entry, Trace

_SHOWN_BEFORE = 3


@dataclass(frozen=True)
class Divergence:
    """The first place where two programs went different ways: what each did there, and what both did just before."""

    scenario: Scenario
    index: int
    leading: tuple[Entry, ...]
    before: Entry | None
    after: Entry | None


@dataclass(frozen=True)
class Verdict:
    """What a comparison found. `entries` counts the trace entries that were compared."""

    scenarios: tuple[Scenario, ...]
    entries: int
    divergence: Divergence | None = None

    @property
    def same(self) -> bool:
        """Whether no difference was seen."""
        return self.divergence is None


def compare(before: Path, after: Path, scenarios: Sequence[Scenario], limits: Limits | None = None) -> Verdict:
    """Run two scripts in the same scenarios and compare what they did, up to the first difference.

    Raises:
        UnreadableError: one of the scripts is not there.
        RunError: the first script could not be run to its end.
    """
    entries = 0
    for number, scenario in enumerate(scenarios, 1):
        one, two = _run_both(before, after, scenario, limits)
        index = one.first_difference(two)
        if index is not None:
            return Verdict(tuple(scenarios[:number]), entries + index, _divergence(scenario, one, two, index))
        entries += len(one.entries)
    return Verdict(tuple(scenarios), entries)


def _run_both(before: Path, after: Path, scenario: Scenario, limits: Limits | None) -> tuple[Trace, Trace]:
    with ThreadPoolExecutor(2) as pool:
        first = pool.submit(run, before, scenario, limits)
        second = pool.submit(run, after, scenario, limits, before.parent)
        one = first.result()
        try:
            return one, second.result()
        except RunError as error:
            return one, Trace((Entry("exit", error.reason),))


def _divergence(scenario: Scenario, one: Trace, two: Trace, index: int) -> Divergence:
    return Divergence(
        scenario,
        index,
        one.entries[max(0, index - _SHOWN_BEFORE) : index],
        one.entries[index] if index < len(one.entries) else None,
        two.entries[index] if index < len(two.entries) else None,
    )
