"""Writing down what a program does to the outside world, as it happens."""

from __future__ import annotations

import json
import os
import sys
import threading

_TOGETHER = 1 << 16
_LONGEST = 1 << 20


class ScenarioEnd(BaseException):
    """The scenario is over: the program is stopped where it stands."""


class TraceFile:
    """Lines of JSON, one an entry: what kind, what was done, the source line that caused it, and in which thread.

    A thread goes by its name, but for the function in it; a process that the program forks has the number of the fork.
    """

    def __init__(self, handle: int, folder: str, most: int, too_much: object) -> None:
        self.handle = handle
        self.folder = os.path.join(os.path.realpath(folder), "")
        self.left = most
        self.too_much = too_much
        self.waiting: list[str] = []
        self.size = 0
        self.main = threading.get_ident()
        self.family = ""
        self.forks = 0
        self.is_late = False
        if hasattr(os, "register_at_fork"):
            os.register_at_fork(before=self.fork, after_in_child=self.born)

    def fork(self) -> None:
        """Write everything down before there are two of us."""
        self.flush()
        self.forks += 1

    def born(self) -> None:
        """In the new process: its entries have its own number."""
        self.family, self.forks = f"{self.family}.{self.forks}", 0

    def add(self, kind: str, text: str) -> None:
        """Add an entry."""
        self.left -= 1
        if self.left < 0:
            self.too_much()
        if len(text) > _LONGEST:
            text = shortened(text)
        self.write([kind, text, self.where(), self.thread()])

    def thread(self) -> str:
        """The thread that is at work: empty for the first one of the program."""
        if threading.get_ident() == self.main and not self.family:
            return ""
        return f"{self.family}/{threading.current_thread().name.partition(' (')[0]}"

    def write(self, entry: list) -> None:
        """Write an entry down, some of them together."""
        line = json.dumps(entry) + "\n"
        self.waiting.append(line)
        self.size += len(line)
        if self.size > _TOGETHER or self.is_late or self.family:
            self.flush()

    def flush(self) -> None:
        """Hand on what has been noted."""
        data, self.waiting, self.size = "".join(self.waiting).encode("ascii"), [], 0
        while data:
            data = data[os.write(self.handle, data) :]

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
        """Write down how the program ended; what comes after that is written at once."""
        self.write(["end", json.dumps(ending), ending.get("where", ""), ""])
        self.is_late = True
        self.flush()


def shortened(text: str) -> str:
    """What stands for a very long text: its beginning, its length, its digest."""
    import hashlib

    digest = hashlib.sha256(text.encode("utf-8", "replace")).hexdigest()[:16]
    return f"{text[:80]}… {len(text)} characters, {digest}"
