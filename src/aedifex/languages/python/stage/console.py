"""The console recorder: typed lines come from the scenario, everything printed goes to the trace.

Both are bytes below and text above, as the real streams are, so that a program may take them apart or wrap them anew.
Typed lines come in one at a time, as from a terminal, out of the real standard input, which children share.
"""

from __future__ import annotations

import io
import os
import sys
import warnings

_ENDS_ASKED = 100


class Printed(io.RawIOBase):
    """A stream of bytes that writes into the trace."""

    mode = "wb"

    def __init__(self, trace: object, kind: str, number: int) -> None:
        self.trace = trace
        self.kind = kind
        self.number = number
        self.name = f"<std{kind}>"

    @property
    def raw(self) -> Printed:
        """There is no buffer in between."""
        return self

    def write(self, data: bytes) -> int:
        """Write bytes, which are meant to be text."""
        text = bytes(data).decode("utf-8", "backslashreplace")
        if text:
            self.trace.add(self.kind, text)
        return len(data)

    def writable(self) -> bool:
        """Always."""
        return True

    def isatty(self) -> bool:
        """Never a terminal."""
        return False

    def fileno(self) -> int:
        """The real descriptor, for those who must have one."""
        return self.number


class Typed(io.RawIOBase):
    """Standard input: the scenario's lines, then its end."""

    mode = "rb"
    name = "<stdin>"

    def __init__(self, world: object) -> None:
        self.world = world
        self.ends = 0

    def readinto(self, target: bytearray) -> int:
        """The next line, or as much of it as there is room for."""
        at = os.lseek(0, 0, os.SEEK_CUR)
        data = os.pread(0, len(target), at)
        if not data and self.world.improviser is not None:
            os.pwrite(0, self.world.improviser.made(), at)
            data = os.pread(0, len(target), at)
        data = data[: data.find(b"\n") + 1] or data
        if self.world.improviser is not None:
            self.world.improviser.note(data)
        os.lseek(0, at + len(data), os.SEEK_SET)
        target[: len(data)] = data
        self.world.trace.add("typed", data.decode("utf-8", "backslashreplace"))
        if not data:
            self.ends += 1
            self.world.asked_for_more = True
            if self.ends > _ENDS_ASKED:
                self.world.end("the scenario ends: all lines are typed, and the program keeps asking")
        return len(data)

    def readable(self) -> bool:
        """Always."""
        return True

    def isatty(self) -> bool:
        """Never a terminal."""
        return False

    def fileno(self) -> int:
        """The real descriptor, for those who must have one."""
        return 0


def _warn_without_source() -> None:
    """A warning tells what it warns of; how the line is written that caused it is no part of what a program does."""
    real = warnings._formatwarnmsg_impl

    def formatted(message: object) -> str:
        message.line = message.line or ""
        return real(message)

    warnings._formatwarnmsg_impl = formatted


def install(world: object) -> None:
    """Put streams that write into the trace in place of the standard ones."""
    for name, number, errors in (("out", 1, "strict"), ("err", 2, "backslashreplace")):
        stream = io.TextIOWrapper(Printed(world.trace, name, number), "utf-8", errors, newline="\n", write_through=True)
        stream.mode = "w"
        for place in (f"std{name}", f"__std{name}__"):  # the second keeps it open while a program wraps it anew
            setattr(sys, place, stream)
    _warn_without_source()
    sys.stdin = sys.__stdin__ = io.TextIOWrapper(io.BufferedReader(Typed(world)), "utf-8", "strict")
    sys.stdin.mode = "r"
