"""The child process in which a program runs, and its end."""

from __future__ import annotations

import contextlib
import os
import signal
import subprocess
import time
import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path

from aedifex.source.errors import Place, RunError
from aedifex.verify.running.copying import size_of

_MARK = "AEDIFEX_RUN"
_MOST_WRITTEN = 600_000_000
_LOOK_EVERY = 0.5
_KEPT = ("PATH", "LANG", "SYSTEMROOT", "VIRTUAL_ENV")


@dataclass(frozen=True)
class Child:
    """A process to be started: its command, where it runs, its own home, and the files that its streams go to."""

    command: Sequence[str]
    environment: Mapping[str, str]
    folder: Path
    work: Path
    out: Path
    err: Path

    def run(self, seconds: int, original: Path) -> int:
        """Start it and wait for its end; whatever it started is ended with it. Its exit code, or minus a signal.

        Raises:
            RunError: it does not come to an end within so many seconds, or writes too much.
        """
        mark = f"aedifex-{uuid.uuid4().hex}"
        with self.out.open("wb") as out, self.err.open("wb") as err:
            process = subprocess.Popen(
                self.command,
                cwd=self.folder,
                stdin=subprocess.DEVNULL,
                stdout=out,
                stderr=err,
                env={**self._surroundings(), _MARK: mark},
                start_new_session=True,
            )
            try:
                return self._wait(process, seconds, original)
            finally:
                _end(process, mark)

    def _surroundings(self) -> dict[str, str]:
        home = self.work / "home"
        home.mkdir(exist_ok=True)
        kept = {name: os.environ[name] for name in _KEPT if name in os.environ}
        own = dict.fromkeys(("HOME", "USERPROFILE", "TMPDIR"), str(home))
        return {**kept, **own, "TZ": "UTC", "COLUMNS": "80", "LINES": "24", **self.environment}

    def _wait(self, process: subprocess.Popen[bytes], seconds: int, original: Path) -> int:
        """Wait for the end, watching what it writes."""
        until = time.monotonic() + seconds
        while True:
            with contextlib.suppress(subprocess.TimeoutExpired):
                return process.wait(max(0.0, min(_LOOK_EVERY, until - time.monotonic())))
            if size_of(self.work, _MOST_WRITTEN) > _MOST_WRITTEN:
                raise RunError(
                    f"wrote more than {_MOST_WRITTEN // 1_000_000} MB", Place(original), "Let it write less."
                )
            if time.monotonic() >= until:
                raise RunError(
                    f"did not come to an end within {seconds} seconds",
                    Place(original),
                    "Give a scenario whose typed lines or turns end the program.",
                )


def _end(process: subprocess.Popen[bytes], mark: str) -> None:
    """End a process and everything that it started, also what has left its session."""
    with contextlib.suppress(ProcessLookupError, PermissionError):
        os.killpg(process.pid, signal.SIGKILL)
    process.wait()
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
