"""Python as a `Dialect`."""

from __future__ import annotations

from aedifex.languages.python.reader import read_module
from aedifex.languages.python.stars import StarImports
from aedifex.program.program import Module
from aedifex.source.text import SourceText


class PythonDialect:
    """How Python is read and written."""

    name = "python"
    suffixes = (".py", ".pyw")

    def __init__(self, stars: StarImports | None = None) -> None:
        self.stars = stars or StarImports()

    def read(self, source: SourceText) -> Module:
        """Read one file."""
        return read_module(source, self, self.stars)


DIALECT = PythonDialect()
