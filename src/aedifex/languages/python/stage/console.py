"""The console recorder: typed lines come from the scenario, everything printed goes to the trace."""

from __future__ import annotations

import io
import sys


class Printed(io.TextIOBase):
    """A text stream that writes into the trace."""

    encoding = "utf-8"
    errors = "strict"

    def __init__(self, trace: object, kind: str) -> None:
        self.trace = trace
        self.kind = kind
        self.buffer = PrintedBytes(self)

    def write(self, text: str) -> int:
        """Write text."""
        if not isinstance(text, str):
            raise TypeError(f"write() argument must be str, not {type(text).__name__}")
        if text:
            self.trace.add(self.kind, text)
        return len(text)

    def writable(self) -> bool:
        """Always."""
        return True

    def isatty(self) -> bool:
        """Never a terminal."""
        return False

    def fileno(self) -> int:
        """The real descriptor, for those who must have one."""
        return 1 if self.kind == "out" else 2


class PrintedBytes(io.RawIOBase):
    """The byte side of a stream that writes into the trace."""

    def __init__(self, stream: Printed) -> None:
        self.stream = stream

    def write(self, data: bytes) -> int:
        """Write bytes as text."""
        self.stream.write(bytes(data).decode("utf-8", "backslashreplace"))
        return len(data)

    def writable(self) -> bool:
        """Always."""
        return True


class Typed(io.TextIOBase):
    """Standard input: the scenario's lines, then its end."""

    encoding = "utf-8"
    errors = "strict"

    def __init__(self, trace: object, lines: list) -> None:
        self.trace = trace
        self.rest = "".join(line + "\n" for line in lines)

    def readline(self, size: int = -1) -> str:
        """The next line."""
        end = self.rest.find("\n") + 1
        if 0 <= size < end:
            end = size
        return self.take(end)

    def read(self, size: int = -1) -> str:
        """All that is left, or `size` characters of it."""
        return self.take(len(self.rest) if size is None or size < 0 else size)

    def take(self, count: int) -> str:
        """Hand out characters."""
        text, self.rest = self.rest[:count], self.rest[count:]
        self.trace.add("typed", text)
        return text

    def readable(self) -> bool:
        """Always."""
        return True

    def isatty(self) -> bool:
        """Never a terminal."""
        return False

    def fileno(self) -> int:
        """The real descriptor, for those who must have one."""
        return 0


def install(world: object) -> None:
    """Put streams that write into the trace in place of the standard ones."""
    sys.stdout = Printed(world.trace, "out")
    sys.stderr = Printed(world.trace, "err")
    sys.stdin = Typed(world.trace, world.plan.lines)
