"""The files that a script imports from its own folder."""

from __future__ import annotations

import re
from pathlib import Path
from typing import TYPE_CHECKING

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
    """The files beside a script that import it."""
    found = []
    for other in sorted(path.parent.glob("*.py")):
        if other.name != path.name and re.search(rf"\b{re.escape(path.stem)}\b", other.read_text("utf-8", "replace")):
            modules = _read(other, files)
            if modules and path.stem in {name.partition(".")[0] for name in _imported(modules[0])}:
                found.append(other)
    return found


def _imported(module: Module) -> list[str]:
    imported = {s.imported for scope in module.scope.walk() for s in scope.symbols.values() if s.imported is not None}
    names = {name for name, _ in imported} | {name for name, _ in module.unknown_stars}
    names |= {f"{name.rstrip('.')}.{what}" for name, what in imported if what is not None and name.strip(".")}
    return sorted(names)


def _read(path: Path, files: PythonFiles) -> list[Module]:
    try:
        return [files.read(SourceText.read(path))]
    except UnreadableError:
        return []
