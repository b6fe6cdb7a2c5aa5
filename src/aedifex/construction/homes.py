"""Where the classes of a design go, and what several of their files need."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from aedifex.moves.house import House, NewHome
from aedifex.program.model.module import Module
from aedifex.source.errors import RefusedError


def new_homes(module: Module, files: Mapping[str, str]) -> House:
    """The move that takes classes into files, given by class name, relative to the script's folder.

    Raises:
        RefusedError: no free file name is left for what several of them need.
    """
    folder = module.path.parent
    homes = tuple(NewHome(name, folder / file) for name, file in files.items())
    taken = {Path(file).stem for file in files.values()}
    return House(module.path, homes, _free_file(module, "common", taken), _free_file(module, "constants", taken))


def _free_file(module: Module, name: str, taken: set[str]) -> Path:
    """A file for what several classes need, under a name that is still free."""
    for candidate in (name, f"{module.path.stem}_{name}", f"{module.path.stem}_{name}_2"):
        path = module.path.with_name(candidate + module.path.suffix)
        if candidate not in taken and not path.exists() and not module.dialect.files.is_taken(candidate):
            return path
    raise RefusedError(
        f"no file name like {name}{module.path.suffix} is left for what several classes need",
        advice="Let the classes stay in the script: give each `file` the script's own name.",
    )
