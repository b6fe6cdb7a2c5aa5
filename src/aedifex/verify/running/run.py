"""Running a program once, in a copy of its folder, in a child process with limits."""

from __future__ import annotations

import contextlib
import json
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import uuid
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from aedifex.source.errors import Place, RunError, UnreadableError
from aedifex.verify.running.lines import LinesRun
from aedifex.verify.running.trace import Trace, read_trace
from aedifex.verify.running.written import snapshot, written
from aedifex.verify.scenarios.scenario import Scenario

_STAGE = Path(__file__).parents[2] / "languages" / "python" / "stage"
_LEFT_OUT = shutil.ignore_patterns(
    ".git", ".hg", ".svn", ".venv", "venv", "__pycache__", "node_modules", ".aedifex", "*.pyc", ".tox", ".mypy_cache"
)
_PREFIX = "aedifex-"
_MOST_COPIED = 200_000_000
_MEMORY = 2_000_000_000
_MARK = "AEDIFEX_RUN"
_LARGEST_FILE = 300_000_000
_MOST_WRITTEN = 600_000_000
_LOOK_EVERY = 0.5


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
    limits: Limits | None = None,
    options: Options | None = None,
    around: Path | None = None,
) -> Run:
    """Run a script once in a scenario.

    It runs in a copy of its folder. Where `around` names another folder, that one is copied first: a program built
    elsewhere then finds the data files that the original has beside it.

    Raises:
        UnreadableError: there is no such script.
        RunError: the script did not come to an end, used too much, or could not be started.
    """
    limits = limits or Limits()
    check_scripts(script)
    folders = [around, script.parent] if around is not None else [script.parent]
    with _copy_of(folders) as (copy, work):
        return _play(copy / script.name, script, scenario, limits, work, options or Options())


def check_scripts(*scripts: Path) -> None:
    """Check that scripts are there.

    Raises:
        UnreadableError: one is not.
    """
    for script in scripts:
        if not script.is_file():
            raise UnreadableError("there is no such script", Place(script), "Check the path.")


@contextlib.contextmanager
def _copy_of(folders: Sequence[Path]) -> Iterator[tuple[Path, Path]]:
    """A temporary folder with copies of folders laid over one another, and a folder for our own files around it."""
    for folder in folders:
        _check_size(folder)
    with tempfile.TemporaryDirectory(prefix=_PREFIX) as work:
        copy = Path(os.path.realpath(work)) / "program"
        for folder in folders:
            _lay_over(folder, copy)
        yield copy, Path(os.path.realpath(work))


def _lay_over(folder: Path, copy: Path) -> None:
    try:
        shutil.copytree(folder, copy, ignore=_left_out, copy_function=_copy_if_there, symlinks=True, dirs_exist_ok=True)
    except OSError as error:
        raise RunError(
            f"the script's folder cannot be copied: {_first_reason(error)}",
            Place(folder),
            "Put the script and what it needs into a folder of their own.",
        ) from None


def _left_out(folder: str, names: list[str]) -> set[str]:
    """What is not copied: caches, and the copies themselves where the script lies in the folder for temporary files."""
    is_temporary = os.path.realpath(folder) == os.path.realpath(tempfile.gettempdir())
    own = {name for name in names if is_temporary and name.startswith(_PREFIX)}
    return own | _LEFT_OUT(folder, names)


def _copy_if_there(source: str, target: str) -> None:
    """Copy a plain file; one that went away in the meantime is none of the program's, nor is a socket or a pipe."""
    if os.path.isfile(source):
        with contextlib.suppress(FileNotFoundError):
            shutil.copy2(source, target)


def _first_reason(error: OSError) -> str:
    """What stood in the way of the first file that could not be copied."""
    if isinstance(error, shutil.Error) and error.args and error.args[0]:
        return f"{error.args[0][0][0]}: {error.args[0][0][2]}"
    return str(error)


def _check_size(folder: Path) -> None:
    if _size(folder) > _MOST_COPIED:
        raise RunError(
            f"the script's folder holds more than {_MOST_COPIED // 1_000_000} MB, too much to copy",
            Place(folder),
            "Put the script and what it needs into a folder of their own.",
        )


def _size(folder: Path) -> int:
    """Bytes in the files below a folder; a little more than enough to tell that it is too much."""
    size = 0
    for path in folder.rglob("*"):
        with contextlib.suppress(OSError):
            size += path.stat().st_size if path.is_file() and not path.is_symlink() else 0
        if size > _MOST_WRITTEN:
            break
    return size


def _play(script: Path, original: Path, scenario: Scenario, limits: Limits, work: Path, options: Options) -> Run:
    trace_path, plan_path, lines_path, calls_path = (work / name for name in ("trace", "plan", "lines", "calls"))
    home = work / "home"
    home.mkdir()
    plan = {
        "script": str(script),
        "folder": str(script.parent),
        "seed": scenario.seed,
        "arguments": list(scenario.arguments),
        "lines": list(scenario.lines),
        "turns": scenario.turns,
        "events": [event.as_plan() for event in scenario.events],
        "stand_ins": list(options.stand_ins),
        "lines_file": str(lines_path) if options.watch_lines else "",
        "calls_file": str(calls_path) if options.watch_classes else "",
        "classes": list(options.watch_classes),
        "trace": str(trace_path),
        "limits": {
            "memory": _MEMORY,
            "file": _LARGEST_FILE,
            "seconds": limits.seconds,
            "entries": limits.entries,
        },
    }
    plan_path.write_text(json.dumps(plan), encoding="utf-8")
    before = snapshot(script.parent)
    out, err = work / "stdout", work / "stderr"
    code = _run_child(plan_path, script.parent, home, (out, err), limits, original)
    trace = None
    if trace_path.exists():
        raw = {"standard output": out.read_bytes(), "standard error": err.read_bytes()}
        trace = read_trace(trace_path, str(script.parent), raw, written(before, snapshot(script.parent)))
    if trace is None:
        raise RunError(_how_it_died(code, err), Place(original), "Run it by hand to see more.")
    _check_trace(trace, original)
    lines = json.loads(lines_path.read_text()) if lines_path.exists() else {}
    calls = json.loads(calls_path.read_text()) if calls_path.exists() else []
    return Run(trace, {name: LinesRun.of(found) for name, found in lines.items()}, tuple(calls))


def _check_trace(trace: Trace, original: Path) -> None:
    for entry in trace.entries:
        if entry.kind == "uncovered":
            raise RunError(
                f"uses {entry.text}, which the stand-in for tkinter does not cover",
                Place(original),
                "Its windows cannot be checked here.",
            )
        if entry.kind == "outside":
            raise RunError(
                f"was stopped: it tried to write outside its folder, to {entry.text}",
                Place(original),
                "Let it write into its own folder or into a temporary one.",
            )


def _run_child(
    plan: Path, folder: Path, home: Path, streams: tuple[Path, Path], limits: Limits, original: Path
) -> int | None:
    """Start the child and wait for its end; whatever it started is ended with it."""
    mark = f"aedifex-{uuid.uuid4().hex}"
    with streams[0].open("wb") as out, streams[1].open("wb") as err:
        child = subprocess.Popen(
            [sys.executable, "-B", "-X", "utf8", str(_STAGE), str(plan)],
            cwd=folder,
            stdin=subprocess.DEVNULL,
            stdout=out,
            stderr=err,
            env={**_environment(home), _MARK: mark},
            start_new_session=True,
        )
        try:
            return _wait(child, limits, plan.parent, original)
        finally:
            _end(child, mark)


def _wait(child: subprocess.Popen[bytes], limits: Limits, work: Path, original: Path) -> int:
    """Wait for the child's end, watching what it writes."""
    until = time.monotonic() + limits.seconds
    while True:
        with contextlib.suppress(subprocess.TimeoutExpired):
            return child.wait(max(0.0, min(_LOOK_EVERY, until - time.monotonic())))
        if _size(work) > _MOST_WRITTEN:
            raise RunError(f"wrote more than {_MOST_WRITTEN // 1_000_000} MB", Place(original), "Let it write less.")
        if time.monotonic() >= until:
            raise RunError(
                f"did not come to an end within {limits.seconds} seconds",
                Place(original),
                "Give a scenario whose typed lines or turns end the program.",
            )


def _environment(home: Path) -> dict[str, str]:
    kept = {name: os.environ[name] for name in ("PATH", "LANG", "SYSTEMROOT", "VIRTUAL_ENV") if name in os.environ}
    return {
        **kept,
        "HOME": str(home),
        "USERPROFILE": str(home),
        "TMPDIR": str(home),
        "PYTHONHASHSEED": "0",
        "PYTHONDONTWRITEBYTECODE": "1",
        "TZ": "UTC",
        "COLUMNS": "80",
        "LINES": "24",
    }


def _end(child: subprocess.Popen[bytes], mark: str) -> None:
    """End the child and everything that it started, also what has left its session."""
    with contextlib.suppress(ProcessLookupError, PermissionError):
        os.killpg(child.pid, signal.SIGKILL)
    child.wait()
    while marked := _marked(mark):
        for number in marked:
            with contextlib.suppress(ProcessLookupError, PermissionError):
                os.kill(number, signal.SIGKILL)
        time.sleep(0.01)


def _marked(mark: str) -> list[int]:
    """The processes whose environment carries a mark; none where the system does not show environments."""
    found = []
    for folder in Path("/proc").glob("[0-9]*"):
        with contextlib.suppress(OSError):
            is_dead = (folder / "stat").read_text().rpartition(")")[2].split()[0] == "Z"
            if not is_dead and mark.encode() in (folder / "environ").read_bytes():
                found.append(int(folder.name))
    return found


def _how_it_died(code: int | None, err: Path) -> str:
    last = err.read_bytes().decode("utf-8", "replace").strip().splitlines()[-1:] or [""]
    if code is not None and code < 0:
        return f"was ended by the signal {signal.Signals(-code).name}"
    return f"stopped without a word{': ' + last[0] if last[0] else ''}"
