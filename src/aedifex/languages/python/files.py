"""Files of Python: reading and checking them, and how imports lead from one to another."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from aedifex.languages.python.imports import linking, neighbours, package
from aedifex.languages.python.imports.stars import StarImports
from aedifex.languages.python.library import standard
from aedifex.languages.python.reader import grammar
from aedifex.languages.python.reader.expression_trees import expression_trees
from aedifex.languages.python.reader.modules import read_module
from aedifex.program.dialect.testing import Standing
from aedifex.program.model.expressions import Expression
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.edits import Changes
from aedifex.source.text import SourceText

if TYPE_CHECKING:
    from aedifex.languages.python.dialect import PythonDialect


class PythonFiles:
    """Python's files."""

    suffixes: tuple[str, ...] = (".py", ".pyw")

    def __init__(self, dialect: PythonDialect, stars: StarImports) -> None:
        self.dialect = dialect
        self.stars = stars

    def opened(self, source: SourceText) -> SourceText:
        """A file is all code."""
        return source

    def read(self, source: SourceText) -> Module:
        """Read one file."""
        return read_module(source, self.dialect, self.stars)

    def expressions(self, module: Module) -> Sequence[Expression]:
        """Its expressions as trees."""
        return expression_trees(module)

    def check(self, source: SourceText) -> None:
        """Have this Python compile a text, without running it."""
        grammar.check(source)

    def of_interpreter(self, command: str) -> PythonDialect:
        """The same, for scripts that another Python runs."""
        return type(self.dialect)(command)

    def link(self, modules: Mapping[Path, Module]) -> None:
        """Follow imports between files."""
        linking.link(modules)

    def neighbours(self, module: Module) -> Sequence[Path]:
        """The files below the script's folder that it imports, directly or through one another."""
        return neighbours.find(module, self)

    def users(self, path: Path) -> Sequence[Path]:
        """The files beside a script that import it."""
        return neighbours.users(path, self)

    def started_by(self, path: Path) -> Path:
        """Scripts are started as they are."""
        return path

    def module_name(self, path: Path, importer: Path, script: Module) -> str:
        """The dotted name of a file: from the script's folder, or in its package where the script's imports say so."""
        return package.module_name(path, importer, script)

    def takes_class_files(self, program: Program) -> bool:
        """Each script can import others."""
        return True

    def is_part_of_file(self, script: Module) -> bool:
        """A script is a file."""
        return False

    def shares_names(self, script: Module) -> bool:
        """Names of other files are imported."""
        return False

    def load_before(self, program: Program, paths: Sequence[Path], changes: Changes) -> None:
        """No script needs it."""

    def class_suffix(self, script: Module) -> str:
        """All are alike."""
        return self.suffixes[0]

    def is_found_by_one_name(self, script: Module) -> bool:
        """Whether a file beside the script has one name, however the script is started."""
        return package.is_found_by_one_name(script)

    def standing(self, folder: Path, script: Module) -> Standing:
        """Where the modules of a script stand when they are in a folder."""
        return package.standing(folder, script)

    def is_from_own_folder(self, module: str) -> bool:
        """Whether an import is relative."""
        return module.startswith(".")

    def is_taken(self, name: str, folder: Path | None = None) -> bool:
        """Whether a file of this name would hide a module, of the standard library or installed, or a package it."""
        if folder is not None and (folder / name / "__init__.py").exists():
            return True
        return name in standard.STANDARD_MODULES or self.stars.is_module(name)
