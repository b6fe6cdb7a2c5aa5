"""Files of a language: reading them, checking them, and how they find one another."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Protocol

from aedifex.program.dialect.testing import Standing
from aedifex.program.model.expressions import Expression
from aedifex.program.model.module import Module
from aedifex.source.edits import Changes
from aedifex.source.text import SourceText

if TYPE_CHECKING:
    from aedifex.program.dialect.dialect import Dialect
    from aedifex.program.model.program import Program


class Files(Protocol):
    """The files of one language. `suffixes` are those that its scripts have, the usual one first."""

    suffixes: tuple[str, ...]

    def opened(self, source: SourceText) -> SourceText:
        """The code in a file as a text that can be rewritten, and knows what stands around it."""
        ...

    def read(self, source: SourceText) -> Module:
        """Read one file.

        Raises:
            UnreadableError: it does not follow the language's grammar.
        """
        ...

    def expressions(self, module: Module) -> Sequence[Expression]:
        """The expressions of a file that was read, statement by statement, in the order of the text."""
        ...

    def check(self, source: SourceText) -> None:
        """Have the language's own compiler check a text, without running it.

        Raises:
            UnreadableError: it finds a mistake.
        """
        ...

    def of_interpreter(self, command: str) -> Dialect:
        """The same language, for scripts that another interpreter runs, with another library.

        Raises:
            RunError: the interpreter cannot be asked for its library.
        """
        ...

    def link(self, modules: Mapping[Path, Module]) -> None:
        """Set the `target` of each imported symbol that another of these modules defines."""
        ...

    def neighbours(self, module: Module) -> Sequence[Path]:
        """The files beside a script that it imports, directly or through one another."""
        ...

    def users(self, path: Path) -> Sequence[Path]:
        """The files beside a script that import it."""
        ...

    def started_by(self, path: Path) -> Path:
        """The file by which a script is started, where that is not the script itself."""
        ...

    def module_name(self, path: Path, importer: Path, script: Module) -> str:
        """The name under which `importer`, a file of a script, imports the file at `path`, as the script does it."""
        ...

    def takes_class_files(self, program: Program) -> bool:
        """Whether classes can be taken into files of their own, which the script imports, or its page loads."""
        ...

    def is_part_of_file(self, script: Module) -> bool:
        """Whether a script is written inside a file of another sort, in which one looks for all of it."""
        ...

    def shares_names(self, script: Module) -> bool:
        """Whether what a script has is known by name to all that is loaded with it, so that nothing is imported."""
        ...

    def load_before(self, program: Program, paths: Sequence[Path], changes: Changes) -> None:
        """Add to changes that files, in this order, are loaded before a script that shares its names with them."""
        ...

    def class_suffix(self, script: Module) -> str:
        """How the names of such files end."""
        ...

    def is_found_by_one_name(self, script: Module) -> bool:
        """Whether a file beside the script has one name, however the script is started."""
        ...

    def is_from_own_folder(self, module: str) -> bool:
        """Whether an import's name counts from the folder of the file that imports."""
        ...

    def standing(self, folder: Path, script: Module) -> Standing:
        """Where the modules of a script stand when they are in a folder."""
        ...

    def is_taken(self, name: str, folder: Path | None = None) -> bool:
        """Whether a file of this name would hide a module of the language's library, or a package of `folder` it."""
        ...
