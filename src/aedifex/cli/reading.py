"""Reading what the command line names."""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path
from typing import TYPE_CHECKING

import click

from aedifex.languages import dialect_for
from aedifex.program.reading import read_program
from aedifex.program.structure.shared_modules import shared_modules
from aedifex.source.errors import AedifexError, UnreadableError
from aedifex.source.text import SourceText

if TYPE_CHECKING:
    from aedifex.program.model.program import Program


interpreter_option = click.option(
    "--python",
    "interpreter",
    metavar="COMMAND",
    help="The Python that runs the script, where it is another one: with its libraries, and what star imports bring.",
)


def design_file_of(script: Path) -> Path:
    """Where the design of a script is, unless it is told otherwise."""
    return script.with_name(f"{script.stem}.design.toml")


def answers_missing(script: Path) -> bool:
    """Whether the design beside a script, if there is one, asks for answers where requests failed before."""
    from aedifex.design.document.reading import read

    with suppress(AedifexError):
        return read(design_file_of(script)).answers_missing
    return False


def read_program_of(script: Path, interpreter: str | None = None) -> Program:
    """Read a script together with the files beside it that import it, so that what they use is known.

    The files that it imports come along where one of them has state that others change.

    Raises:
        AedifexError: as for `read_scripts`.
    """
    SourceText.read(script)  # what cannot be read has no neighbours
    files = dialect_for(script).files
    paths = [script, *files.users(script)]
    program = read_scripts(paths, interpreter)
    imported = [path for path in files.neighbours(program.main) if path not in program.modules]
    if not imported:
        return program
    with suppress(UnreadableError):
        if shared_modules(whole := read_scripts([*paths, *imported], interpreter)):
            return whole
    return program


def read_scripts(paths: Sequence[Path], interpreter: str | None = None) -> Program:
    """Read scripts as one program, after the language's own compiler has accepted each.

    Raises:
        UnreadableError: one of them is not there, not decodable or does not parse.
        RunError: the interpreter cannot be asked for its library.
    """
    sources = [dialect_for(path).files.opened(SourceText.read(path)) for path in paths]
    dialect = dialect_for(paths[0])
    for source in sources:
        dialect_for(source.path).files.check(source)
    if interpreter is not None:
        dialect = dialect.files.of_interpreter(interpreter)
    return read_program(sources, dialect)
