"""The installed command, run in copies of a process that has read its code before.

Reading the code is most of what a short command takes. Each copy runs the file that is installed, in the folder and with
the environment that it is given, and ends for itself.
"""

from __future__ import annotations

import importlib
import json
import os
import pkgutil
import runpy
import signal
import subprocess
import sys
import tempfile
from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path
from threading import Timer

COMMAND = Path(sys.executable).with_name("aedifex")
READ_BEFORE = (
    "aedifex.cli",
    "aedifex.construction",
    "aedifex.design",
    "aedifex.moves",
    "aedifex.report",
    "aedifex.verify.scenarios",
    "aedifex.languages.javascript",
    "tomlkit",
)


class WarmCommand:
    """A process that copies itself for each call of the command."""

    def __init__(self) -> None:
        self.process = _begun()

    def run(
        self, arguments: Sequence[str], folder: Path, seconds: float, typed: str = ""
    ) -> subprocess.CompletedProcess[str]:
        """What one call says when a text is typed, and the code that it ends with.

        Raises:
            TimeoutError: it takes longer than that.
        """
        if self.process.poll() is not None:
            self.process = _begun()
        assert self.process.stdin is not None and self.process.stdout is not None
        with (
            tempfile.NamedTemporaryFile() as said,
            tempfile.NamedTemporaryFile() as out,
            tempfile.NamedTemporaryFile() as err,
        ):
            Path(said.name).write_text(typed, "utf-8")
            order = {
                "arguments": [str(COMMAND), *arguments],
                "folder": str(folder),
                "environment": dict(os.environ),
                "streams": [said.name, out.name, err.name],
            }
            watch = Timer(seconds, self.stop)
            watch.start()
            self.process.stdin.write(f"{json.dumps(order)}\n")
            self.process.stdin.flush()
            answer = self.process.stdout.readline()
            watch.cancel()
            if not answer:
                raise TimeoutError(f"aedifex {' '.join(arguments)} takes longer than {seconds:.0f} seconds")
            told = [Path(stream.name).read_text("utf-8") for stream in (out, err)]
        return subprocess.CompletedProcess(order["arguments"], int(answer), *told)

    def stop(self) -> None:
        """End the process, and the call that is at work."""
        with suppress(ProcessLookupError):
            os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()


def _begun() -> subprocess.Popen[str]:
    return subprocess.Popen(
        [sys.executable, __file__, str(COMMAND)],
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        text=True,
        start_new_session=True,
    )


def serve(command: str) -> None:
    """Answer each order with the exit code of a copy that carries it out."""
    sys.path[0] = os.path.dirname(command)
    for name in READ_BEFORE:
        package = importlib.import_module(name)
        for module in pkgutil.walk_packages(package.__path__, f"{name}."):
            importlib.import_module(module.name)
    importlib.import_module("aedifex.languages").dialect_for(Path("all.py"))
    orders, answers = os.fdopen(os.dup(0)), os.fdopen(os.dup(1), "w")
    for line in iter(orders.readline, ""):
        copy = os.fork()
        if not copy:
            os.close(orders.fileno())
            os.close(answers.fileno())
            carry_out(json.loads(line))
        _, status = os.waitpid(copy, 0)
        print(os.waitstatus_to_exitcode(status), file=answers, flush=True)


def carry_out(order: dict) -> None:
    """Be the command, up to the end of the process."""
    for number, path in enumerate(order["streams"]):
        stream = os.open(path, os.O_RDWR)
        os.dup2(stream, number)
        os.close(stream)
    os.chdir(order["folder"])
    os.environ.clear()
    os.environ.update(order["environment"])
    sys.argv = order["arguments"]
    runpy.run_path(sys.argv[0], run_name="__main__")
    sys.exit()


if __name__ == "__main__":
    serve(sys.argv[1])
