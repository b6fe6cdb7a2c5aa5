"""The child process in which a program runs, and its end."""

from __future__ import annotations

import contextlib
import marshal
import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from enum import Enum
from pathlib import Path
from select import select
from typing import IO, Any

from aedifex.source.errors import Place, RunError, StoppedError
from aedifex.verify.running.copying import size_of

_KEEPER = Path(__file__).with_name("keeper.py")
_MOST_WRITTEN = 600_000_000
_LOOK_EVERY = 0.5
_LOOKS_OF_ALL_TIME = 0.1
_KEPT = ("PATH", "LANG", "SYSTEMROOT", "VIRTUAL_ENV")
_SIGNALLED = 128


class Walls(Enum):
    """What keeps a program from changing the world outside its folder, besides what runs in its own process."""

    NAMESPACES = "namespaces"
    LANDLOCK = "landlock"
    THIN = "thin"


@dataclass
class Child:
    """A keeper and the program that it runs in `work`, a temporary folder which goes when the keeper goes.

    `walls` tells, once the program has been run, what stood around it.
    """

    work: Path
    control: IO[bytes]
    report: IO[bytes]
    papers: Sequence[IO[bytes]]
    walls: Walls = Walls.THIN

    @classmethod
    @contextlib.contextmanager
    def started(cls, papers: Sequence[IO[bytes]], *, network: bool = False) -> Iterator[Child]:
        """A keeper that waits for orders; the program will find `papers` open under their own numbers.

        The first three are its standard streams.

        Raises:
            RunError: no process can be started, or no temporary folder be made.
        """
        theirs, control = os.pipe()
        report, told = os.pipe()
        numbers = [paper.fileno() for paper in papers]
        reach = "network" if network else "none"
        command = [sys.executable, "-I", "-S", str(_KEEPER), str(theirs), str(told), tempfile.gettempdir(), reach]
        try:
            keeper = subprocess.Popen(
                command,
                pass_fds=[theirs, told, *numbers],
                stdin=subprocess.DEVNULL,
                stdout=subprocess.DEVNULL,
                stderr=subprocess.DEVNULL,
                start_new_session=True,
            )
        except OSError as error:
            os.close(control)
            os.close(report)
            raise RunError(f"no process can be started: {error.strerror}") from None
        finally:
            os.close(theirs)
            os.close(told)
        with open(report, "rb", buffering=0) as reports:
            try:
                with open(control, "wb", buffering=0) as orders:
                    words = _line(reports)
                    if words is None:
                        raise RunError("no temporary folder can be made", None, "Make room, or set TMPDIR.")
                    yield cls(Path(words["folder"]), orders, reports, papers)
            finally:
                keeper.wait()

    def run(
        self,
        command: Sequence[str],
        environment: Mapping[str, str],
        folder: Path,
        seconds: int,
        idle: int,
        original: Path,
    ) -> int:
        """Start the program and wait for its end; whatever it started is ended with it.

        It is stopped when it has computed for so many seconds, which is its own limit, or at `idle` times that.
        Returns its exit code, or 128 and the number of the signal that ended it.

        Raises:
            StoppedError: it does not come to an end, or writes too much, or ends what watches it.
        """
        surroundings = {**self._surroundings(), **environment}
        order = {
            "command": list(command),
            "environment": surroundings,
            "folder": str(folder),
            "streams": [paper.fileno() for paper in self.papers[:3]],
        }
        self.control.write(marshal.dumps(order).hex().encode() + b"\n")
        until, looked = time.monotonic() + seconds * idle, 0.0
        while True:
            wait = max(_LOOK_EVERY, looked / _LOOKS_OF_ALL_TIME)
            if select([self.report], [], [], max(0.0, min(wait, until - time.monotonic())))[0]:
                words = _line(self.report)
                if words is None:
                    reason = "was stopped: it ended the process that watched it"
                    raise StoppedError(reason, Place(original), "Run it by hand to see more.")
                if "walls" in words:
                    self.walls = Walls(words["walls"])
                if "status" in words:
                    return int(words["status"])
                continue
            began = time.monotonic()
            if size_of(self.work, _MOST_WRITTEN) > _MOST_WRITTEN:
                raise StoppedError(
                    f"wrote more than {_MOST_WRITTEN // 1_000_000} MB", Place(original), "Let it write less."
                )
            looked = time.monotonic() - began
            if time.monotonic() >= until:
                raise StoppedError(
                    f"did not come to an end within {seconds} seconds",
                    Place(original),
                    "Give a scenario whose typed lines or turns end the program, or more --seconds.",
                )

    @property
    def home(self) -> Path:
        """The home of the run, which is its folder for temporary files too."""
        home = self.work / "home"
        home.mkdir(exist_ok=True)
        return home

    def _surroundings(self) -> dict[str, str]:
        kept = {name: os.environ[name] for name in _KEPT if name in os.environ}
        own = dict.fromkeys(("HOME", "USERPROFILE", "TMPDIR", "XDG_RUNTIME_DIR"), str(self.home))
        return {**kept, **own, "TZ": "UTC", "COLUMNS": "80", "LINES": "24"}


def signal_in(code: int) -> int:
    """The number of the signal that ended a process, by its exit code; 0 for none."""
    return code - _SIGNALLED if code > _SIGNALLED else 0


def _line(report: IO[bytes]) -> Mapping[str, Any] | None:
    """The next words of the keeper; None where it is gone."""
    line = report.readline()
    found: Mapping[str, Any] | None = marshal.loads(bytes.fromhex(line.decode())) if line else None
    return found
