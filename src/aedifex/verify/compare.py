"""Comparing two programs, scenario by scenario."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field, replace
from pathlib import Path

from aedifex.program.dialect.runner import Runner
from aedifex.source.errors import Place, RunError, StoppedError
from aedifex.verify.answers import AnswersMeant
from aedifex.verify.running.child import Walls
from aedifex.verify.running.lines import LinesRun
from aedifex.verify.running.run import Limits, Options, Run, run
from aedifex.verify.running.trace import Ending, Entry, Trace
from aedifex.verify.scenarios.improvised import Improvised
from aedifex.verify.scenarios.scenario import Scenario

_SHOWN_BEFORE = 3
_ENOUGH = 0.7
_PATIENCE = 2
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
    scenario: that is not compared. `endings` says how the first program ended in each scenario, `walls` what kept both
    from changing the world outside. `meant` counts the requests that failed before and say now that there is no such
    thing, as the design asks for.
    """

    scenarios: tuple[Scenario, ...]
    entries: int
    divergence: Divergence | None = None
    lines: dict[str, LinesRun] = field(default_factory=dict)
    unstable: tuple[Entry, ...] = ()
    endings: tuple[Ending, ...] = ()
    walls: Walls = Walls.NAMESPACES
    meant: int = 0

    @property
    def same(self) -> bool:
        """Whether no difference was seen."""
        return self.divergence is None

    @property
    def share(self) -> float:
        """The share of all lines of the first program that ran, from 0 to 1; 1 where that is not known."""
        statements = sum(len(found.statements) for found in self.lines.values())
        return sum(len(found.ran) for found in self.lines.values()) / statements if statements else 1.0

    @property
    def warnings(self) -> list[str]:
        """What stands against trusting the answer, in words: what a reader must know first."""
        found: list[str] = []
        if not self.lines:
            found.append("how many lines ran is not known")
        elif self.share < _ENOUGH:
            found.append(f"only {self.share:.0%} of the lines ran")
        early = [ending for ending in self.endings if ending.is_early]
        if early:
            every = "every run" if len(early) == len(self.endings) else f"{len(early)} of {len(self.endings)} runs"
            found.append(f"{every} ended early, with {early[0]}")
        made_up = sorted({name for ending in self.endings for name in ending.made_up})
        if made_up:
            found.append(
                f"with {'a made-up stand-in' if len(made_up) == 1 else 'made-up stand-ins'} for {', '.join(made_up)}, "
                f"which {'is' if len(made_up) == 1 else 'are'} not here"
            )
        if self.walls is Walls.THIN:
            found.append("the walls are thin here: what native code and children do elsewhere is not stopped")
        if self.walls is Walls.LANDLOCK:
            found.append("the walls are thin here: what native code and children ask of the network is not stopped")
        return found


@dataclass(frozen=True)
class Comparison:
    """Two scripts to compare, and what runs programs of their language; `users` finds the files that import one."""

    before: Path
    after: Path
    runner: Runner
    limits: Limits = field(default_factory=Limits)
    stand_ins: tuple[str, ...] = ()
    network: bool = False
    answers_missing: bool = False
    users: Callable[[Path], Sequence[Path]] = lambda path: ()

    def compare(self, scenarios: Sequence[Scenario], tell: Progress = lambda text: None) -> Verdict:
        """Run both in the same scenarios and compare what they did, up to the first difference.

        Raises:
            UnreadableError: one of the scripts is not there.
            StoppedError: the first script could not be run to its end.
            RunError: one of them could not be started.
        """
        entries, meant = 0, 0
        lines: dict[str, LinesRun] = {}
        unstable: list[Entry] = []
        endings: list[Ending] = []
        hollow: list[bool] = []
        walls = Walls.NAMESPACES
        for number, scenario in enumerate(scenarios, 1):
            tell(f"scenario {number} of {len(scenarios)}")
            one, two = self.run_both(scenario)
            join_lines(lines, one.lines)
            endings.append(one.trace.ending)
            hollow.append(one.trace.is_hollow)
            walls = one.walls
            found = self.contrast(scenario, one.trace, two.trace)
            unstable += found.unstable
            if found.index is not None:
                done = tuple(scenarios[:number])
                divergence = _divergence(scenario, found.one, found.two, found.index)
                counted = entries + found.index
                return Verdict(done, counted, divergence, lines, tuple(unstable), tuple(endings), walls, meant)
            entries += found.compared
            meant += found.meant
        verdict = Verdict(tuple(scenarios), entries, None, lines, tuple(unstable), tuple(endings), walls, meant)
        if all(hollow):
            self.refuse_hollow(verdict)
        return verdict

    def contrast(self, scenario: Scenario, one: Trace, two: Trace) -> _Contrast:
        """Where two runs first differ, what is not stable left out."""
        answers = self.meant_between(one, two)
        view: _View = answers.left_out_of
        one, two = view(one), view(two)
        index = one.first_difference(two)
        if index is not None and (one.threads or two.threads) and not self.differ_in_order(scenario, one, two):
            view = _by_thread
            one, two = view(one), view(two)
            index = one.first_difference(two)
        if index is None:
            return _Contrast(one, two, None, len(one.entries), meant=len(answers.numbers))
        again = [view(trace) for trace in self.run_again(scenario)]
        shaky = set().union(*(one.unlike(other) for other in again))
        unstable = [one.entries[at] for at in sorted(shaky)]
        index, compared = one.first_difference(two, shaky), len(one.entries)
        partings = [at for other in again if (at := one.parting(other)) is not None]
        if partings:
            # The first program goes another way each time: what comes behind that says nothing.
            compared = min(partings)
            index = index if index is not None and index < compared else None
        if index is not None and self.may_agree(scenario, one, shaky, index, view):
            # The second does what the first did, only not each time: no run tells them apart for sure.
            unstable += one.entries[index : index + 1]
            compared, index = min(compared, index), None
        return _Contrast(one, two, index, compared, unstable, len(answers.numbers))

    def differ_in_order(self, scenario: Scenario, one: Trace, two: Trace) -> bool:
        """Whether each program does all in an order of its own, again and again, that the other never has."""
        if one.by_thread().first_difference(two.by_thread()) is not None:
            return False
        firsts, seconds = [one, *self.run_again(scenario)], [two, *_twice(self.run_after, scenario)]
        is_stable = all(each == firsts[0] for each in firsts) and all(each == seconds[0] for each in seconds)
        return is_stable and firsts[0] != seconds[0]

    def refuse_hollow(self, verdict: Verdict) -> None:
        """Refuse to call programs the same that did nothing that anyone could see.

        Raises:
            StoppedError: they did nothing, or both ended with an error before they did anything.
        """
        first = verdict.endings[0]
        if first.missing:
            advice = self.runner.missing_advice(first.missing)
            raise StoppedError(f"cannot be compared: both stop at once with {first}", Place(self.before), advice)
        if first.error and verdict.share < 1.0:
            reason = f"cannot be compared: both stop with {first} before they do anything"
            raise StoppedError(reason, Place(self.before), "Give a scenario in which the program runs.")
        if not first.error:
            reason = "cannot be compared: it ends without having done anything that can be seen from outside"
            advice = "Give a scenario in which it prints, draws or writes something."
            users = self.users(self.before)
            if users:
                advice = f"{users[0].name} uses it: compare that, with the new file beside it."
            raise StoppedError(reason, Place(self.before), advice)

    def differs(self, scenario: Scenario) -> Divergence | None:
        """The first difference in one scenario."""
        return self.compare([scenario]).divergence

    def seems_different(self, scenario: Scenario) -> bool:
        """Whether one run of each differs in a scenario, be it by chance."""
        try:
            one, two = (found.trace for found in self.run_both(scenario))
        except RunError:
            return False
        view: _View = self.meant_between(one, two).left_out_of
        return view(one).by_thread().first_difference(view(two).by_thread()) is not None

    def meant_between(self, one: Trace, two: Trace) -> AnswersMeant:
        """The answers in which two runs differ as the second is meant to."""
        return AnswersMeant.between(one, two) if self.answers_missing else AnswersMeant()

    def options(self, *, watch_lines: bool = False) -> Options:
        """How both are run."""
        return Options(self.stand_ins, watch_lines, network=self.network)

    def run_before(self, scenario: Scenario, improvised: Improvised | None = None) -> Run:
        """Run the first script once, watching its lines; more may be typed than the scenario has."""
        options = replace(self.options(watch_lines=True), improvised=improvised)
        return run(self.before, scenario, self.runner, self.limits, options)

    def run_again(self, scenario: Scenario) -> list[Trace]:
        """What the first script does in two more runs, unwatched: where they differ, it is not stable."""
        return _twice(lambda s: run(self.before, s, self.runner, self.limits, self.options()), scenario)

    def may_agree(self, scenario: Scenario, trace: Trace, shaky: set[int], index: int, view: _View) -> bool:
        """Whether the second script, run twice more, does at least once what the first did up to an index."""
        found = [trace.first_difference(view(other), shaky) for other in _twice(self.run_after, scenario)]
        return any(at is None or at > index for at in found)

    def run_after(self, scenario: Scenario) -> Run:
        """Run the second script once, in no hurry; what it does not survive is told by its trace."""
        limits = replace(self.limits, seconds=self.limits.seconds * _PATIENCE)
        try:
            return run(self.after, scenario, self.runner, limits, self.options(), self.before.parent)
        except StoppedError as error:
            return Run(Trace((Entry("exit", error.reason),)), {})

    def run_both(self, scenario: Scenario) -> tuple[Run, Run]:
        """Run both scripts at the same time; one that the second does not survive is told by its trace."""
        with ThreadPoolExecutor(2) as pool:
            first = pool.submit(self.run_before, scenario)
            second = pool.submit(self.run_after, scenario)
            return first.result(), second.result()


_View = Callable[[Trace], Trace]


def _by_thread(trace: Trace) -> Trace:
    return trace.by_thread()


@dataclass(frozen=True)
class _Contrast:
    """Two runs as they were compared, the first difference, how many entries were compared, and what is not stable."""

    one: Trace
    two: Trace
    index: int | None
    compared: int
    unstable: Sequence[Entry] = ()
    meant: int = 0


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
