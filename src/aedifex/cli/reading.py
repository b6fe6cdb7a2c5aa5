"""Reading what the command line names."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from aedifex.languages import dialect_for
from aedifex.program.reading import read_program
from aedifex.source.text import SourceText

if TYPE_CHECKING:
    from aedifex.program.program import Program


def read_scripts(paths: Sequence[Path]) -> Program:
    """Read scripts as one program, after the language's own compiler has accepted each.

    Raises:
        UnreadableError: one of them is not there, not decodable or does not parse.
    """
    sources = [SourceText.read(path) for path in paths]
    dialect = dialect_for(paths[0])
    for source in sources:
        dialect_for(source.path).check(source)
    return read_program(sources, dialect)
