"""The files that a script imports from its own folder."""

from __future__ import annotations

import os
import re
from pathlib import Path
from typing import TYPE_CHECKING

from aedifex.languages.python.imports.linking import STARTED, loads_by_name
from aedifex.program.model.module import Module
from aedifex.source.errors import UnreadableError
from aedifex.source.text import SourceText

if TYPE_CHECKING:
    from aedifex.languages.python.files import PythonFiles


def find(module: Module, files: PythonFiles) -> list[Path]:
    """The files below the script's folder that it imports, directly or through one another; packages whole."""
    root = module.path.parent
    found: dict[Path, None] = {}
    waiting = [module]
    while waiting:
        current = waiting.pop()
        for name in _imported(current):
            path = files.stars.find(name, current.path.parent if name.startswith(".") else root)
            if path is None or not path.is_relative_to(root) or path == module.path:
                continue
            for file in sorted(path.parent.rglob("*.py")) if path.name == "__init__.py" else [path]:
                if file not in found:
                    found[file] = None
                    waiting += _read(file, files)
    return list(found)


def users(path: Path, files: PythonFiles) -> list[Path]:
    """The files around a script that import it, or reach into what is started: beside, right below and right above.

    A folder with a file of the same name, such as one that was built into, means its own.
    """
    folder = path.resolve().parent
    above = Path(os.path.normpath(path.parent / ".."))
    around = [*path.parent.glob("*.py"), *path.parent.glob("*/*.py"), *above.glob("*.py")]
    names = re.compile(rf"\b({re.escape(path.stem)}|{STARTED})\b")
    found: dict[Path, Path] = {}
    for other in sorted(around):
        place = other.resolve()
        is_own = place == folder / path.name
        if is_own or (place.parent != folder and (place.parent / path.name).exists()):
            continue
        named = set(names.findall(_text(other)))
        modules = _read(other, files) if named else []
        if modules and (_imports_any(modules[0], named) or (path.stem in named and loads_by_name(modules[0]))):
            found.setdefault(place, other)
    return list(found.values())


def _imports_any(module: Module, names: set[str]) -> bool:
    """Whether any of some names is a part of what a file imports."""
    return any(part in names for name in _imported(module) for part in name.split("."))


def _text(path: Path) -> str:
    try:
        return path.read_text("utf-8", "replace")
    except OSError:
        return ""


def _imported(module: Module) -> list[str]:
    imported = {s.imported for scope in module.scope.walk() for s in scope.symbols.values() if s.imported is not None}
    names = {name for name, _ in imported} | {name for name, _ in module.unknown_stars}
    names |= {f"{name.rstrip('.')}.{what}" for name, what in imported if what is not None}
    names |= {brought.module for statement in module.walk() for brought in statement.imports}
    return sorted(names)


def _read(path: Path, files: PythonFiles) -> list[Module]:
    try:
        return [files.read(SourceText.read(path))]
    except UnreadableError:
        return []
