"""The project's own errors. Each says where, what and what to do; `cli` gives each its exit code."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path


@dataclass(frozen=True, slots=True)
class Place:
    """A file and, where known, a line counted from 1."""

    path: Path
    line: int | None = None

    def __str__(self) -> str:
        return f"{self.path}:{self.line}" if self.line else str(self.path)


class AedifexError(Exception):
    """Base of everything that Aedifex raises on purpose.

    `place` is where the trouble lies, `advice` what the user can do next.
    """

    def __init__(self, reason: str, place: Place | None = None, advice: str = "") -> None:
        super().__init__(reason)
        self.reason = reason
        self.place = place
        self.advice = advice

    def __str__(self) -> str:
        where = f"{self.place}: " if self.place else ""
        return f"{where}{self.reason}"


class UnreadableError(AedifexError):
    """An input cannot be read: not found, not decodable, or it does not parse."""


class DesignError(AedifexError):
    """A design or scenario file has a mistake in it."""


class RefusedError(AedifexError):
    """Something cannot be done safely. Nothing has been written.

    `others` holds further refusals found in the same go. Where the reason says `{line}`, it speaks of the line of the
    place that it `mentions`.
    """

    def __init__(
        self,
        reason: str,
        place: Place | None = None,
        advice: str = "",
        others: tuple[RefusedError, ...] = (),
        mentions: Place | None = None,
    ) -> None:
        line = f"line {mentions.line}" if mentions is not None and mentions.line else "other code"
        super().__init__(reason.replace("{line}", line), place, advice)
        self.others = others
        self.mentions = mentions
        self._said = reason

    def moved(self, whence: Callable[[Place], Place]) -> RefusedError:
        """The same about other places, each found by `whence`."""
        place = whence(self.place) if self.place is not None else None
        mentions = whence(self.mentions) if self.mentions is not None else None
        others = tuple(other.moved(whence) for other in self.others)
        return RefusedError(self._said, place, self.advice, others, mentions)


class UsageError(AedifexError):
    """What was asked for cannot be understood."""


class RunError(AedifexError):
    """A program could not be run."""


class StoppedError(RunError):
    """A program was started, and did not come to an end that could be compared."""
