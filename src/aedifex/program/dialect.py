"""What the upper layers ask of a language."""

from __future__ import annotations

from typing import Protocol

from aedifex.program.program import Module
from aedifex.source.text import SourceText


class Dialect(Protocol):
    """One language: how its files are read and how its code is written."""

    name: str
    suffixes: tuple[str, ...]

    def read(self, source: SourceText) -> Module:
        """Read one file.

        Raises:
            UnreadableError: it does not follow the language's grammar.
        """
        ...
