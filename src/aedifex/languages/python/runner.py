"""How Python programs are run in a scripted world: by the stage, which stands in the folder beside."""

from __future__ import annotations

import sys
from collections.abc import Mapping, Sequence
from pathlib import Path

_HERE = Path(__file__).parent


class PythonRunner:
    """Runs scripts with this Python."""

    def command(self, plan: Path) -> Sequence[str]:
        """This Python, writing no caches, with texts in UTF-8."""
        return [sys.executable, "-B", "-X", "utf8", str(_HERE / "stage"), str(plan)]

    def environment(self) -> Mapping[str, str]:
        """Sets and tables come in the same order in each run."""
        return {"PYTHONHASHSEED": "0", "PYTHONDONTWRITEBYTECODE": "1"}

    def left_out(self) -> Sequence[str]:
        """Environments, caches and compiled files."""
        return (".venv", "venv", "__pycache__", "*.pyc", ".tox", ".mypy_cache")

    def replay_script(self) -> Path:
        """The driver of recorded calls."""
        return _HERE / "replay_driver.py"

    def uncovered_advice(self, what: str) -> tuple[str, str]:
        """Only windows have a stand-in."""
        return f"uses {what}, which the stand-in for tkinter does not cover", "Its windows cannot be checked here."
