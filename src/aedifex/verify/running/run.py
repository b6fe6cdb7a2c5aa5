"""Running a program once, in a copy of its folder, in a child process with limits."""

from __future__ import annotations

import json
import signal
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from aedifex.program.dialect.runner import Runner, RunPlan
from aedifex.source.errors import Place, RunError, UnreadableError
from aedifex.verify.running.child import Child
from aedifex.verify.running.copying import copy_of
from aedifex.verify.running.lines import LinesRun
from aedifex.verify.running.trace import Trace, read_trace
from aedifex.verify.running.written import snapshot, written
from aedifex.verify.scenarios.scenario import Scenario

_MEMORY = 2_000_000_000
_LARGEST_FILE = 300_000_000


@dataclass(frozen=True)
class Limits:
    """What one run may use: seconds of real time, and entries of the trace."""

    seconds: int = 30
    entries: int = 200_000


@dataclass(frozen=True)
class Options:
    """How a program is run besides its scenario.

    `stand_ins` names modules to replace by doubles; `watch_lines` asks for the lines that ran, `watch_classes` for the
    calls of the methods of some classes.
    """

    stand_ins: tuple[str, ...] = ()
    watch_lines: bool = False
    watch_classes: tuple[str, ...] = ()


@dataclass(frozen=True)
class Run:
    """What came of one run: its trace; the lines that ran, by file, and the calls, as the stage wrote them down."""

    trace: Trace
    lines: dict[str, LinesRun]
    calls: tuple[Mapping[str, Any], ...] = ()


def run(
    script: Path,
    scenario: Scenario,
    runner: Runner,
    limits: Limits | None = None,
    options: Options | None = None,
    around: Path | None = None,
) -> Run:
    """Run a script once in a scenario, as its language's runner does it.

    It runs in a copy of its folder. Where `around` names another folder, that one is copied first: a program built
    elsewhere then finds the data files that the original has beside it.

    Raises:
        UnreadableError: there is no such script.
        RunError: the script did not come to an end, used too much, or could not be started.
    """
    check_scripts(script)
    folders = [around, script.parent] if around is not None else [script.parent]
    with copy_of(folders, runner.left_out()) as (copy, work):
        play = _Play(copy / script.name, script, runner, limits or Limits(), options or Options(), work)
        return play.play(scenario)


def check_scripts(*scripts: Path) -> None:
    """Check that scripts are there.

    Raises:
        UnreadableError: one is not.
    """
    for script in scripts:
        if not script.is_file():
            raise UnreadableError("there is no such script", Place(script), "Check the path.")


@dataclass(frozen=True)
class _Play:
    """One run: the copy of a script, the script itself, and the folder for our own files."""

    script: Path
    original: Path
    runner: Runner
    limits: Limits
    options: Options
    work: Path

    def play(self, scenario: Scenario) -> Run:
        folder, plan = self.script.parent, self.plan(scenario)
        plan_path, out, err = (self.work / name for name in ("plan", "stdout", "stderr"))
        plan_path.write_text(json.dumps(plan.as_json()), encoding="utf-8")
        before = snapshot(folder)
        child = Child(self.runner.command(plan_path), self.runner.environment(), folder, self.work, out, err)
        code = child.run(self.limits.seconds, self.original)
        trace = None
        if Path(plan.trace).exists():
            raw = {"standard output": out.read_bytes(), "standard error": err.read_bytes()}
            trace = read_trace(Path(plan.trace), str(folder), raw, written(before, snapshot(folder)))
        if trace is None:
            raise RunError(_how_it_died(code, err), Place(self.original), "Run it by hand to see more.")
        self.check(trace)
        lines, calls = _read_json(plan.lines_file, {}), _read_json(plan.calls_file, [])
        return Run(trace, {name: LinesRun.of(found) for name, found in lines.items()}, tuple(calls))

    def plan(self, scenario: Scenario) -> RunPlan:
        options = self.options
        return RunPlan(
            script=str(self.script),
            folder=str(self.script.parent),
            seed=scenario.seed,
            arguments=scenario.arguments,
            lines=scenario.lines,
            turns=scenario.turns,
            events=tuple(event.as_plan() for event in scenario.events),
            stand_ins=options.stand_ins,
            trace=str(self.work / "trace"),
            lines_file=str(self.work / "lines") if options.watch_lines else "",
            calls_file=str(self.work / "calls") if options.watch_classes else "",
            classes=options.watch_classes,
            memory=_MEMORY,
            file=_LARGEST_FILE,
            seconds=self.limits.seconds,
            entries=self.limits.entries,
        )

    def check(self, trace: Trace) -> None:
        """See that the run did nothing that says it cannot be compared."""
        for entry in trace.entries:
            if entry.kind == "uncovered":
                reason, advice = self.runner.uncovered_advice(entry.text)
                raise RunError(reason, Place(self.original), advice)
            if entry.kind == "outside":
                raise RunError(
                    f"was stopped: it tried to write outside its folder, to {entry.text}",
                    Place(self.original),
                    "Let it write into its own folder or into a temporary one.",
                )


def _read_json(path: str, otherwise: Any) -> Any:
    return json.loads(Path(path).read_text()) if path and Path(path).exists() else otherwise


def _how_it_died(code: int, err: Path) -> str:
    last = err.read_bytes().decode("utf-8", "replace").strip().splitlines()[-1:] or [""]
    if code < 0:
        return f"was ended by the signal {signal.Signals(-code).name}"
    return f"stopped without a word{': ' + last[0] if last[0] else ''}"
