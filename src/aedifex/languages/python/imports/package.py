"""Names of files inside a package."""

from __future__ import annotations

import os
from pathlib import Path

from aedifex.program.dialect.testing import Standing
from aedifex.program.model.module import Module


def module_name(path: Path, importer: Path, script: Module) -> str:
    """The name by which `importer` imports the file at `path`.

    A script that is started by itself sees the files of its folder by their bare names; one that is part of a package
    names them as it names its neighbours today, by dots or by the package's own name.
    """
    names = {*script.imported, *(name for name, _ in script.stars)}
    if any(name.startswith(".") for name in names):
        up, *down = _steps(path.with_suffix(""), importer.parent)
        return "." * (up + 1) + ".".join(down)
    own = _package(script.path.parent)
    inside = path.relative_to(script.path.parent).with_suffix("").parts
    if own and any(name.split(".")[: len(own)] == own for name in names):
        return ".".join([*own, *inside])
    return ".".join(inside)


def standing(folder: Path, script: Module) -> Standing:
    """Where the modules of a script stand when they are in a folder."""
    own = ".".join(_package(folder))
    names = {*script.imported, *(name for name, _ in script.stars)}
    is_part = any(name.startswith(".") or (own and name.startswith(f"{own}.")) for name in names)
    return Standing(own, is_bare=not is_part)


def last_name(path: Path) -> str:
    """The last part of a file's dotted name: its own without the suffix, or its folder's for the face of a package."""
    return path.resolve().parent.name if path.stem == "__init__" else path.stem


def is_found_by_one_name(script: Module) -> bool:
    """Whether a file beside the script has one name, however the script is started.

    In a package, one that imports relatively is always a part of it; any other may be started by itself too, when its
    folder is where imports begin, or be imported, when the package is.
    """
    names = {*script.imported, *(name for name, _ in script.stars)}
    return not _package(script.path.parent) or any(name.startswith(".") for name in names)


def _steps(path: Path, folder: Path) -> tuple[int, *tuple[str, ...]]:
    """How many folders up, and then the way down."""
    parts = Path(os.path.relpath(path, folder)).parts
    up = parts.count("..")
    return up, *parts[up:]


def _package(folder: Path) -> list[str]:
    """The dotted name of a folder's package; empty where it is none."""
    parts: list[str] = []
    folder = folder.resolve()
    while (folder / "__init__.py").exists():
        parts.insert(0, folder.name)
        folder = folder.parent
    return parts
