"""Writing down what a program does to the outside world, as it happens."""

from __future__ import annotations

import json
import os
import sys


class ScenarioEnd(BaseException):
    """The scenario is over: the program is stopped where it stands."""


class TraceFile:
    """A file of JSON lines, one entry each: what kind, what was done, and the source line that caused it."""

    def __init__(self, path: str, folder: str, most: int) -> None:
        self.file = open(path, "w", encoding="utf-8", errors="backslashreplace")  # noqa: SIM115
        self.folder = os.path.join(os.path.realpath(folder), "")
        self.left = most

    def add(self, kind: str, text: str) -> None:
        """Add an entry."""
        self.left -= 1
        if self.left < 0:
            raise ScenarioEnd("stopped: it did more than is written down")
        self.file.write(json.dumps([kind, text, self.where()]) + "\n")

    def where(self) -> str:
        """File and line, within the program's folder, of the innermost frame of the program itself."""
        frame = sys._getframe(2)
        while frame is not None:
            name = frame.f_code.co_filename
            if name.startswith(self.folder):
                return f"{name[len(self.folder) :]}:{frame.f_lineno}"
            frame = frame.f_back
        return ""

    def where_of(self, error: BaseException) -> str:
        """File and line, within the program's folder, where an error was raised."""
        found = ""
        entry = error.__traceback__
        while entry is not None:
            name = entry.tb_frame.f_code.co_filename
            if name.startswith(self.folder):
                found = f"{name[len(self.folder) :]}:{entry.tb_lineno}"
            entry = entry.tb_next
        return found

    def close(self, ending: dict) -> None:
        """Write down how the program ended, and close the file."""
        json.dump(["end", json.dumps(ending), ending.get("where", "")], self.file)
        self.file.write("\n")
        self.file.close()
