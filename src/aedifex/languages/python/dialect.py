"""Python as a `Dialect`."""

from __future__ import annotations

from aedifex.languages.python.files import PythonFiles
from aedifex.languages.python.imports.stars import StarImports
from aedifex.languages.python.library_facts import PythonLibrary
from aedifex.languages.python.naming import PythonNaming
from aedifex.languages.python.rules import PythonRules
from aedifex.languages.python.runner import PythonRunner
from aedifex.languages.python.testing import PythonTesting
from aedifex.languages.python.writer import PythonWriter


class PythonDialect:
    """How Python is read, written, run and tested. `stars` tells what the modules of an interpreter bring."""

    name = "python"

    def __init__(self, stars: StarImports | None = None) -> None:
        found = stars or StarImports()
        self.files = PythonFiles(self, found)
        self.rules = PythonRules()
        self.library = PythonLibrary(found)
        self.naming = PythonNaming()
        self.writer = PythonWriter()
        self.runner = PythonRunner()
        self.testing = PythonTesting()


DIALECT = PythonDialect()
