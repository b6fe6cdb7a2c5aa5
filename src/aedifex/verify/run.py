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
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from aedifex.source.errors import Place, RunError, UnreadableError
from aedifex.verify.scenario import Scenario
from aedifex.verify.trace import Trace, read_trace

_STAGE = Path(__file__).with_name("stage")
_LEFT_OUT = shutil.ignore_patterns(
    ".git", ".hg", ".svn", ".venv", "venv", "__pycache__", "node_modules", ".aedifex", "*.pyc", ".tox", ".mypy_cache"
)
_MOST_COPIED = 200_000_000
_MEMORY = 2_000_000_000
_LARGEST_FILE = 50_000_000


@dataclass(frozen=True)
class Limits:
    """What one run may use: seconds of real time, and entries of the trace."""

    seconds: int = 30
    entries: int = 1_000_000


def run(script: Path, scenario: Scenario, limits: Limits | None = None, around: Path | None = None) -> Trace:
    """Run a script once in a scenario and return its trace.

    It runs in a copy of its folder. Where `around` names another folder, that one is copied first: a program built
    elsewhere then finds the data files that the original has beside it.

    Raises:
        UnreadableError: there is no such script.
        RunError: the script did not come to an end, used too much, or could not be started.
    """
    limits = limits or Limits()
    if not script.is_file():
        raise UnreadableError("there is no such script", Place(script), "Check the path.")
    folders = [around, script.parent] if around is not None else [script.parent]
    with _copy_of(folders) as (copy, work):
        return _play(copy / script.name, script, scenario, limits, work)


@contextlib.contextmanager
def _copy_of(folders: Sequence[Path]) -> Iterator[tuple[Path, Path]]:
    """A temporary folder with copies of folders laid over one another, and a folder for our own files around it."""
    for folder in folders:
        _check_size(folder)
    with tempfile.TemporaryDirectory(prefix="aedifex-") as work:
        copy = Path(os.path.realpath(work)) / "program"
        for folder in folders:
            shutil.copytree(folder, copy, ignore=_LEFT_OUT, symlinks=True, dirs_exist_ok=True)
        yield copy, Path(os.path.realpath(work))


def _check_size(folder: Path) -> None:
    size = 0
    for path in folder.rglob("*"):
        with contextlib.suppress(OSError):
            size += path.stat().st_size if path.is_file() and not path.is_symlink() else 0
        if size > _MOST_COPIED:
            raise RunError(
                f"the script's folder holds more than {_MOST_COPIED // 1_000_000} MB, too much to copy",
                Place(folder),
                "Put the script and what it needs into a folder of their own.",
            )


def _play(script: Path, original: Path, scenario: Scenario, limits: Limits, work: Path) -> Trace:
    trace_path, plan_path = work / "trace", work / "plan"
    home = work / "home"
    home.mkdir()
    plan = {
        "script": str(script),
        "folder": str(script.parent),
        "seed": scenario.seed,
        "arguments": list(scenario.arguments),
        "lines": list(scenario.lines),
        "trace": str(trace_path),
        "limits": {
            "memory": _MEMORY,
            "file": _LARGEST_FILE,
            "seconds": limits.seconds,
            "entries": limits.entries,
        },
    }
    plan_path.write_text(json.dumps(plan), encoding="utf-8")
    out, err = work / "stdout", work / "stderr"
    with out.open("wb") as out_file, err.open("wb") as err_file:
        child = subprocess.Popen(
            [sys.executable, "-B", "-X", "utf8", str(_STAGE), str(plan_path)],
            cwd=script.parent,
            stdin=subprocess.DEVNULL,
            stdout=out_file,
            stderr=err_file,
            env=_environment(home),
            start_new_session=True,
        )
        try:
            child.wait(limits.seconds)
        except subprocess.TimeoutExpired:
            raise RunError(
                f"did not come to an end within {limits.seconds} seconds",
                Place(original),
                "Give a scenario whose typed lines end the program.",
            ) from None
        finally:
            _end(child)
    trace = None
    if trace_path.exists():
        raw = {"standard output": out.read_bytes(), "standard error": err.read_bytes()}
        trace = read_trace(trace_path, str(script.parent), raw)
    if trace is None:
        raise RunError(_how_it_died(child.returncode, err), Place(original), "Run it by hand to see more.")
    return trace


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


def _end(child: subprocess.Popen[bytes]) -> None:
    """End the child and everything that it started in its session."""
    with contextlib.suppress(ProcessLookupError, PermissionError):
        os.killpg(child.pid, signal.SIGKILL)
    child.wait()


def _how_it_died(code: int | None, err: Path) -> str:
    last = err.read_bytes().decode("utf-8", "replace").strip().splitlines()[-1:] or [""]
    if code is not None and code < 0:
        return f"was ended by the signal {signal.Signals(-code).name}"
    return f"stopped without a word{': ' + last[0] if last[0] else ''}"
