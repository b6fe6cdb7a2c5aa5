"""The files of a built program, ready to be written elsewhere."""

from __future__ import annotations

from pathlib import Path

from aedifex.construction.build import Built
from aedifex.program.model.program import Program


def new_files(before: Program, built: Built) -> dict[Path, bytes]:
    """The bytes of each file, by its path from the script's folder; neighbours that the script imports come along.

    Files outside of that folder stay what and where they are.
    """
    root = before.main.path.parent
    neighbours = [path for path in before.dialect.files.neighbours(before.main) if path.is_relative_to(root)]
    files = {path.relative_to(root): path.read_bytes() for path in neighbours if path not in built.program.gone}
    made = {path: module.source.encode() for path, module in built.program.modules.items()}
    for path, data in (made | dict(built.program.beside)).items():
        if path.is_relative_to(root) and ".." not in path.relative_to(root).parts:
            files[path.relative_to(root)] = data
    return files
