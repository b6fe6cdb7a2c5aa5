"""Python as a `Dialect`."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from aedifex.languages.python.files import PythonFiles
from aedifex.languages.python.imports.stars import StarImports, search_path_of
from aedifex.languages.python.library_facts import PythonLibrary
from aedifex.languages.python.naming import PythonNaming
from aedifex.languages.python.rules import PythonRules

if TYPE_CHECKING:
    from aedifex.languages.python.runner import PythonRunner
    from aedifex.languages.python.testing import PythonTesting
    from aedifex.languages.python.writer import PythonWriter


class PythonDialect:
    """How Python is read, written, run and tested: by the Python that runs us, or by another, named by a `command`.

    What only some commands need is loaded when it is asked for.
    """

    name = "python"
    title = "Python"

    def __init__(self, command: str | None = None) -> None:
        self.command = command
        found = StarImports(search_path_of(command) if command is not None else None)
        self.files = PythonFiles(self, found)
        self.rules = PythonRules()
        self.library = PythonLibrary(found)
        self.naming = PythonNaming()

    @cached_property
    def writer(self) -> PythonWriter:
        """How its code is written."""
        from aedifex.languages.python.writer import PythonWriter

        return PythonWriter()

    @cached_property
    def runner(self) -> PythonRunner:
        """How its programs are run."""
        from aedifex.languages.python.runner import PythonRunner

        return PythonRunner() if self.command is None else PythonRunner().using(self.command)

    @cached_property
    def testing(self) -> PythonTesting:
        """How its tests are written."""
        from aedifex.languages.python.testing import PythonTesting

        return PythonTesting()

    def allows(self, move: str) -> bool:
        """All can."""
        return True


DIALECT = PythonDialect()
