"""How Python programs are run in a scripted world: by the stage, which stands in the folder beside."""

from __future__ import annotations

import re
import shutil
import subprocess
import sys
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from importlib.util import find_spec
from pathlib import Path

from aedifex.source.errors import Place, RunError

_HERE = Path(__file__).parent
_OLDEST = (3, 10)
_TRACEBACK = re.compile(r"^[ |+-]*((Exception Group )?Traceback|Stack) \(most recent call last\):$|^Call stack:$")
_WARNING_PLACE = re.compile(r"^(?:<folder>|<string>|/)[^:\n]*:\d+: (?=\w*(?:Warning|Error)\b)")
_ADDRESS = re.compile(r" at 0x[0-9a-fA-F]+>")
_BESIDE_GROUPS = "|+- "


@dataclass(frozen=True)
class PythonRunner:
    """Runs scripts with a Python: the one that runs us, unless another is named."""

    interpreter: str = sys.executable

    def using(self, command: str) -> PythonRunner:
        """One that runs scripts with another Python, by its path or its name.

        Raises:
            RunError: it cannot be started, or is too old.
        """
        found = shutil.which(command) or command
        asked = [found, "-c", "import sys; print(*sys.version_info[:2])"]
        try:
            done = subprocess.run(
                asked, capture_output=True, text=True, timeout=20, check=True, stdin=subprocess.DEVNULL
            )
            version = tuple(map(int, done.stdout.split()))
        except (OSError, ValueError, subprocess.SubprocessError):
            raise RunError("this is no Python that can be started", Place(Path(command)), "Check the path.") from None
        if version < _OLDEST:
            said = ".".join(map(str, version))
            raise RunError(f"Python {said} is too old to be watched", Place(Path(command)), "Name 3.10 or a later one.")
        return replace(self, interpreter=str(Path(found).absolute()))

    def command(self, plan: int) -> Sequence[str]:
        """A Python, writing no caches, with texts in UTF-8."""
        return [self.interpreter, "-B", "-X", "utf8", str(_HERE / "stage" / "__main__.py"), str(plan)]

    def environment(self) -> Mapping[str, str]:
        """Sets and tables come in the same order in each run."""
        return {"PYTHONHASHSEED": "0", "PYTHONDONTWRITEBYTECODE": "1"}

    def helpers(self) -> Sequence[str]:
        """Where the coverage package is installed."""
        found = find_spec("coverage") if self.interpreter != sys.executable else None
        return [str(Path(found.origin).parents[1])] if found is not None and found.origin is not None else []

    def left_out(self) -> Sequence[str]:
        """Environments, caches and compiled files."""
        return (".venv", "venv", "__pycache__", "*.pyc", ".tox", ".mypy_cache", ".pytest_cache", ".ruff_cache")

    def linked(self) -> Sequence[str]:
        """Python finds its libraries by itself."""
        return ()

    def from_above(self, script: str, folders: Sequence[Path]) -> Sequence[str]:
        """What is imported from above is found by the path."""
        return ()

    def replay_scripts(self) -> Sequence[Path]:
        """The driver of recorded calls, and what stands in for libraries."""
        return [_HERE / "replay" / name for name in ("aedifex_replay.py", "aedifex_stand_ins.py")]

    def package_mark(self) -> str:
        """What makes a folder a package."""
        return "__init__.py"

    def watch(self, script: Path, classes: Sequence[str]) -> None:
        """The interpreter tells of all calls."""

    def trial(self, root: Path, tests: Path, *, backwards: bool) -> Sequence[str]:
        """The driver that runs tests."""
        module = ".".join(tests.relative_to(root).with_suffix("").parts)
        order = "back" if backwards else "forth"
        return [self.interpreter, "-B", str(_HERE / "trial_driver.py"), str(root), module, order]

    def trial_environment(self, number: int) -> Mapping[str, str]:
        """Another order of sets in each run."""
        return {"PYTHONHASHSEED": str(number)}

    def uncovered_advice(self, what: str) -> tuple[str, str]:
        """Windows and terminal screens have a stand-in."""
        return f"uses {what}, which the stand-in does not cover", "What it shows cannot be checked here."

    def in_browser(self) -> None:
        """No page is written in Python."""

    def missing_advice(self, library: str) -> str:
        """Another Python may have it."""
        return f"Install {library} beside aedifex, or name a Python that has it: --python COMMAND."

    def without_places(self, lines: Iterable[str]) -> Iterator[str | None]:
        """Printed lines without frames of tracebacks, places and code that warnings quote, and addresses of objects."""
        frames, quotes_code = 0, False  # the column that all text of a traceback's frames stands behind, if any
        for line in lines:
            column = len(line) - len(line.lstrip(_BESIDE_GROUPS))
            if _TRACEBACK.match(line):
                frames, quotes_code = column + 1, False
                yield line
            elif frames and column >= frames and line.strip(_BESIDE_GROUPS + "\n"):
                yield None
            elif quotes_code and line[:2] == "  ":
                quotes_code = False
                yield None
            else:
                frames = 0
                told = _WARNING_PLACE.sub("<place>: ", line)
                quotes_code = told != line
                yield _ADDRESS.sub(" at 0x…>", told)
