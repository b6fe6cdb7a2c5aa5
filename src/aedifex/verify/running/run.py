"""Running a program once, in a copy of its folder, in a child process with limits."""

from __future__ import annotations

import json
import os
import signal
import tempfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from typing import IO, Any

from aedifex.program.dialect.runner import Runner, RunPlan
from aedifex.source.errors import Place, StoppedError, UnreadableError
from aedifex.verify.running.child import Child, Walls, signal_in
from aedifex.verify.running.copying import copy_folders, copy_from_above, link_folders, place_for
from aedifex.verify.running.lines import LinesRun
from aedifex.verify.running.trace import Trace, read_trace
from aedifex.verify.running.written import snapshot, written
from aedifex.verify.scenarios.improvised import Improvised
from aedifex.verify.scenarios.scenario import Scenario

_MEMORY = 2_000_000_000
_LARGEST_FILE = 300_000_000
_IDLE = 3  # how much longer than it may compute a program may take, waiting or on a busy machine


@dataclass(frozen=True)
class Limits:
    """What one run may use: seconds of computing, and entries of the trace."""

    seconds: int = 30
    entries: int = 200_000


@dataclass(frozen=True)
class Options:
    """How a program is run besides its scenario.

    `stand_ins` names modules to replace by doubles; `watch_lines` asks for the lines that ran, `watch_classes` for the
    calls of the methods of some classes. `improvised` types more than the scenario has. `network` lets it reach other
    machines.
    """

    stand_ins: tuple[str, ...] = ()
    watch_lines: bool = False
    watch_classes: tuple[str, ...] = ()
    improvised: Improvised | None = None
    network: bool = False


@dataclass(frozen=True)
class Run:
    """What came of one run: its trace; the lines that ran, by file, and the calls, as the stage wrote them down.

    `heard` is what was asked of the lines that were made up.
    """

    trace: Trace
    lines: dict[str, LinesRun]
    calls: tuple[Mapping[str, Any], ...] = ()
    walls: Walls = Walls.THIN
    heard: Mapping[str, Any] = field(default_factory=dict)


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
        StoppedError: the script did not come to an end, or used too much.
        RunError: it could not be started, or its folder not be copied.
    """
    check_scripts(script)
    options = options or Options()
    with _papers() as papers, Child.started(papers.all(), network=options.network) as child:
        play = _Play(script, around, runner, limits or Limits(), options, papers, child)
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
class _Papers:
    """The files, which have no names, by which we talk with a run: its standard streams, its orders, and its notes."""

    typed: IO[bytes]
    out: IO[bytes]
    err: IO[bytes]
    plan: IO[bytes]
    trace: IO[bytes]
    lines: IO[bytes]
    calls: IO[bytes]
    heard: IO[bytes]

    def all(self) -> list[IO[bytes]]:
        """All of them, the standard streams first."""
        return [self.typed, self.out, self.err, self.plan, self.trace, self.lines, self.calls, self.heard]


@contextmanager
def _papers() -> Iterator[_Papers]:
    with (
        tempfile.TemporaryFile() as typed,
        tempfile.TemporaryFile() as out,
        tempfile.TemporaryFile() as err,
        tempfile.TemporaryFile() as plan,
        tempfile.TemporaryFile() as trace,
        tempfile.TemporaryFile() as lines,
        tempfile.TemporaryFile() as calls,
        tempfile.TemporaryFile() as heard,
    ):
        yield _Papers(typed, out, err, plan, trace, lines, calls, heard)


def _write(paper: IO[bytes], text: str) -> None:
    paper.write(text.encode("utf-8", "surrogateescape"))
    paper.flush()
    os.lseek(paper.fileno(), 0, os.SEEK_SET)


def _read(paper: IO[bytes]) -> bytes:
    paper.seek(0)
    return paper.read()


@dataclass(frozen=True)
class _Play:
    """One run of a script: what it is told on paper, and the child in which it runs."""

    original: Path
    around: Path | None
    runner: Runner
    limits: Limits
    options: Options
    papers: _Papers
    child: Child

    def play(self, scenario: Scenario) -> Run:
        home, papers = self.child.home, self.papers
        sources = [*([self.around] if self.around is not None else []), self.original.parent]
        above = self.runner.from_above(self.original.name, sources)
        folder = place_for(self.child.work, above)
        copy_folders(sources, folder, self.runner.left_out())
        link_folders(sources, folder, self.runner.linked(), above)
        copy_from_above(sources, folder, above)
        if self.options.watch_classes:
            self.runner.watch(folder / self.original.name, self.options.watch_classes)
        _write(papers.plan, json.dumps(self.plan(scenario, folder / self.original.name).as_json()))
        _write(papers.typed, "".join(f"{line}\n" for line in scenario.lines))
        before = snapshot(folder)
        command = self.runner.command(papers.plan.fileno())
        code = self.child.run(command, self.runner.environment(), folder, self.limits.seconds, _IDLE, self.original)
        changes = [*written(folder, before, snapshot(folder), sources)]
        changes += [text.replace(" ", " ~/", 1) for text in written(home, {}, snapshot(home))]
        raw = {"standard output": _read(papers.out), "standard error": _read(papers.err)}
        places = {str(folder): "<folder>", str(home): "<home>", str(self.child.work): "<work>"}
        trace = read_trace(_read(papers.trace), places, raw, changes, self.runner.without_places, code)
        if trace is None:
            reason = _how_it_died(code, raw["standard error"], self.limits.seconds)
            raise StoppedError(reason, Place(self.original), "Run it by hand to see more.")
        self.check(trace)
        lines = {name: LinesRun.of(found) for name, found in _json(papers.lines, {}).items()}
        return Run(trace, lines, tuple(_json(papers.calls, [])), self.child.walls, _json(papers.heard, {}))

    def plan(self, scenario: Scenario, script: Path) -> RunPlan:
        options, papers = self.options, self.papers
        return RunPlan(
            script=str(script),
            folder=str(script.parent),
            home=str(self.child.home),
            seed=scenario.seed,
            arguments=scenario.arguments,
            turns=scenario.turns,
            events=tuple(event.as_plan() for event in scenario.events),
            stand_ins=options.stand_ins,
            trace=papers.trace.fileno(),
            lines_file=papers.lines.fileno() if options.watch_lines else 0,
            calls_file=papers.calls.fileno() if options.watch_classes else 0,
            heard_file=papers.heard.fileno() if options.improvised else 0,
            improvised=options.improvised.as_plan() if options.improvised else None,
            classes=options.watch_classes,
            helpers=tuple(self.runner.helpers()),
            network=options.network,
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
                raise StoppedError(reason, Place(self.original), advice)
            if entry.kind == "outside":
                raise StoppedError(
                    f"was stopped: it tried to write outside its folder, to {entry.text}",
                    Place(self.original),
                    "Let it write into its own folder or into a temporary one.",
                )


def _json(paper: IO[bytes], otherwise: Any) -> Any:
    data = _read(paper)
    return json.loads(data) if data else otherwise


def _how_it_died(code: int, err: bytes, seconds: int) -> str:
    last = err.decode("utf-8", "replace").strip().splitlines()[-1:] or [""]
    number = signal_in(code)
    if number == signal.SIGXCPU:
        return f"did not come to an end within {seconds} seconds of computing"
    if number in set(signal.Signals):
        return f"was ended by the signal {signal.Signals(number).name}"
    return f"stopped without a word{': ' + last[0] if last[0] else ''}"
