"""Comparing two programs, scenario by scenario."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

from aedifex.program.dialect.runner import Runner
from aedifex.source.errors import RunError
from aedifex.verify.running.lines import LinesRun
from aedifex.verify.running.run import Limits, Options, Run, run
from aedifex.verify.running.trace import Entry, Trace
from aedifex.verify.scenarios.scenario import Scenario

_SHOWN_BEFORE = 3
Progress = Callable[[str], None]


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
    """What a comparison found.

    `entries` counts the trace entries that were compared. `lines` says for each file of the first program which lines
    ran in any scenario. `unstable` holds what the first program did in one run and not in another of the same
    scenario: that is not compared.
    """

    scenarios: tuple[Scenario, ...]
    entries: int
    divergence: Divergence | None = None
    lines: dict[str, LinesRun] = field(default_factory=dict)
    unstable: tuple[Entry, ...] = ()

    @property
    def same(self) -> bool:
        """Whether no difference was seen."""
        return self.divergence is None


@dataclass(frozen=True)
class Comparison:
    """Two scripts to compare, and what runs programs of their language."""

    before: Path
    after: Path
    runner: Runner
    limits: Limits = field(default_factory=Limits)
    stand_ins: tuple[str, ...] = ()

    def compare(self, scenarios: Sequence[Scenario], tell: Progress = lambda text: None) -> Verdict:
        """Run both in the same scenarios and compare what they did, up to the first difference.

        Raises:
            UnreadableError: one of the scripts is not there.
            RunError: the first script could not be run to its end.
        """
        entries = 0
        lines: dict[str, LinesRun] = {}
        unstable: list[Entry] = []
        for number, scenario in enumerate(scenarios, 1):
            tell(f"scenario {number} of {len(scenarios)}")
            one, two = self.run_both(scenario)
            join_lines(lines, one.lines)
            index = one.trace.first_difference(two.trace)
            compared = len(one.trace.entries)
            if index is not None:
                again = self.run_again(scenario)
                shaky = set().union(*(one.trace.unlike(other) for other in again))
                unstable += [one.trace.entries[at] for at in sorted(shaky)]
                index = one.trace.first_difference(two.trace, shaky)
                partings = [at for other in again if (at := one.trace.parting(other)) is not None]
                if partings:
                    # The first program goes another way each time: what comes behind that says nothing.
                    compared = min(partings)
                    index = index if index is not None and index < compared else None
                if index is not None and self.may_agree(scenario, one.trace, shaky, index):
                    # The second does what the first did, only not each time: no run tells them apart for sure.
                    unstable += one.trace.entries[index : index + 1]
                    compared, index = min(compared, index), None
            if index is not None:
                done = tuple(scenarios[:number])
                divergence = _divergence(scenario, one.trace, two.trace, index)
                return Verdict(done, entries + index, divergence, lines, tuple(unstable))
            entries += compared
        return Verdict(tuple(scenarios), entries, None, lines, tuple(unstable))

    def differs(self, scenario: Scenario) -> Divergence | None:
        """The first difference in one scenario."""
        return self.compare([scenario]).divergence

    def run_before(self, scenario: Scenario) -> Run:
        """Run the first script once, watching its lines."""
        return run(self.before, scenario, self.runner, self.limits, Options(self.stand_ins, watch_lines=True))

    def run_again(self, scenario: Scenario) -> list[Trace]:
        """What the first script does in two more runs: where they differ, it is not stable."""
        return _twice(self.run_before, scenario)

    def may_agree(self, scenario: Scenario, trace: Trace, shaky: set[int], index: int) -> bool:
        """Whether the second script, run twice more, does at least once what the first did up to an index."""
        again = _twice(self.run_after, scenario)
        found = [trace.first_difference(other, shaky) for other in again]
        return any(at is None or at > index for at in found)

    def run_after(self, scenario: Scenario) -> Run:
        """Run the second script once; what it does not survive is told by its trace."""
        try:
            return run(self.after, scenario, self.runner, self.limits, Options(self.stand_ins), self.before.parent)
        except RunError as error:
            return Run(Trace((Entry("exit", error.reason),)), {})

    def run_both(self, scenario: Scenario) -> tuple[Run, Run]:
        """Run both scripts at the same time; one that the second does not survive is told by its trace."""
        with ThreadPoolExecutor(2) as pool:
            first = pool.submit(self.run_before, scenario)
            second = pool.submit(self.run_after, scenario)
            return first.result(), second.result()


def _twice(play: Callable[[Scenario], Run], scenario: Scenario) -> list[Trace]:
    """What a script does in two runs of a scenario, at the same time."""
    with ThreadPoolExecutor(2) as pool:
        return [found.trace for found in pool.map(play, [scenario] * 2)]


def join_lines(lines: dict[str, LinesRun], more: dict[str, LinesRun]) -> None:
    """Add the lines that ran in one more run."""
    for name, found in more.items():
        lines[name] = lines[name].joined(found) if name in lines else found


def _divergence(scenario: Scenario, one: Trace, two: Trace, index: int) -> Divergence:
    return Divergence(
        scenario,
        index,
        one.entries[max(0, index - _SHOWN_BEFORE) : index],
        one.entries[index] if index < len(one.entries) else None,
        two.entries[index] if index < len(two.entries) else None,
    )
