"""Files of JavaScript: reading and checking them, and how they find one another."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from aedifex.languages.javascript import linking, pages
from aedifex.languages.javascript.page_code import code_of, opened
from aedifex.languages.javascript.reader import grammar
from aedifex.languages.javascript.reader.declared_twice import first_declared_twice
from aedifex.languages.javascript.reader.expression_trees import expression_trees
from aedifex.languages.javascript.reader.modules import read_module
from aedifex.languages.javascript.script_elements import load_before, loaders
from aedifex.languages.javascript.sharing import Sharing, sharing_of
from aedifex.languages.javascript.style import style_of
from aedifex.languages.tree.grammar import text_of
from aedifex.program.dialect.testing import Standing
from aedifex.program.model.expressions import Expression
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.edits import Changes
from aedifex.source.errors import RunError, UnreadableError
from aedifex.source.text import SourceText

if TYPE_CHECKING:
    from aedifex.languages.javascript.dialect import JavaScriptDialect


class JavaScriptFiles:
    """Scripts, modules, and pages with scripts in them."""

    suffixes: tuple[str, ...] = (".js", ".mjs", ".cjs", *pages.SUFFIXES)

    def __init__(self, dialect: JavaScriptDialect) -> None:
        self.dialect = dialect

    def opened(self, source: SourceText) -> SourceText:
        """The script of a page that has one, as a text of its own."""
        return opened(source)

    def read(self, source: SourceText) -> Module:
        """Read one file."""
        module = read_module(source, self.dialect)
        module.dialect = self.dialect.styled(style_of(module))
        return module

    def expressions(self, module: Module) -> Sequence[Expression]:
        """Its expressions as trees."""
        return expression_trees(module)

    def check(self, source: SourceText) -> None:
        """Have the grammar check a text: what JavaScript's own engine would say is known where there is Node only."""
        root = grammar.parse(source, code_of(source)).root_node
        if (name := first_declared_twice(root)) is not None:
            raise UnreadableError(f"`{text_of(name)}` is declared twice", source.place(name.start_byte))

    def of_interpreter(self, command: str) -> JavaScriptDialect:
        """There is no other library to ask for."""
        raise RunError(f"{command} does not run JavaScript as --python", advice="Leave that option out.")

    def link(self, modules: Mapping[Path, Module]) -> None:
        """Follow imports between files."""
        linking.link(modules, self)

    def neighbours(self, module: Module) -> Sequence[Path]:
        """The files that it imports, or that its page loads, directly."""
        return linking.neighbours(module)

    def users(self, path: Path) -> Sequence[Path]:
        """The files beside a script that import it, and the pages that load it."""
        return linking.users(path, self)

    def started_by(self, path: Path) -> Path:
        """The first page beside a script that loads it."""
        is_script = path.is_file() and not pages.is_page(path)
        using = [other for other in self.users(path) if pages.is_page(other)] if is_script else []
        return using[0] if using else path

    def module_name(self, path: Path, importer: Path, script: Module) -> str:
        """The path of a file as seen from another's folder."""
        return linking.relative(path, importer)

    def takes_class_files(self, program: Program) -> bool:
        """Modules import others; scripts of pages share what they have without, where the page can load others."""
        return not self.shares_names(program.main) or bool(loaders(program))

    def is_part_of_file(self, script: Module) -> bool:
        """A page has its script in it, or beside it."""
        return pages.is_page(script.path)

    def shares_names(self, script: Module) -> bool:
        """So do the scripts of pages."""
        return sharing_of(script) is Sharing.PAGE

    def load_before(self, program: Program, paths: Sequence[Path], changes: Changes) -> None:
        """By elements before that of the script."""
        load_before(program, paths, changes)

    def class_suffix(self, script: Module) -> str:
        """That of the script, which says what sort of module it is."""
        return ".js" if pages.is_page(script.path) else script.path.suffix

    def is_found_by_one_name(self, script: Module) -> bool:
        """A relative path leads to one file, however a script is started."""
        return True

    def standing(self, folder: Path, script: Module) -> Standing:
        """Modules are in no package: they import one another by their paths."""
        return Standing()

    def is_from_own_folder(self, module: str) -> bool:
        """Whether an import is relative."""
        return module.startswith(".")

    def is_taken(self, name: str, folder: Path | None = None) -> bool:
        """A relative path leads to a file, whatever Node's own modules are called."""
        return False
