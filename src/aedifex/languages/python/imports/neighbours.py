"""The files that a script imports from its own folder."""

from __future__ import annotations

import ast
import os
import re
from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING

from aedifex.languages.python.imports.linking import STARTED, loads_by_name
from aedifex.languages.python.imports.package import last_name
from aedifex.program.model.module import Module
from aedifex.source.errors import UnreadableError
from aedifex.source.text import SourceText

if TYPE_CHECKING:
    from aedifex.languages.python.files import PythonFiles


_PROJECT_FILES = ("pyproject.toml", "setup.cfg", "setup.py")
_NOT_OURS = frozenset({"venv", "env", "build", "dist", "node_modules", "site-packages", "__pycache__"})
_LEVELS = 3
_MOST_FILES = 4_000


def find(module: Module, files: PythonFiles) -> list[Path]:
    """The files below the script's folder that it imports, directly or through one another; packages whole."""
    root = module.path.parent
    found: dict[Path, None] = {}
    waiting = [(module.path, _imported(module))]
    while waiting:
        importer, names = waiting.pop()
        for name in names:
            place = files.stars.find(name, importer.parent if name.startswith(".") else root)
            path = Path(os.path.normpath(place)) if place is not None else None
            if path is None or not path.is_relative_to(root) or path == module.path:
                continue
            for file in sorted(path.parent.rglob("*.py")) if path.name == "__init__.py" else [path]:
                if file not in found and file.is_file():
                    found[file] = None
                    waiting.append((file, _imported_by(file)))
    return list(found)


def _imported_by(path: Path) -> list[str]:
    """What a file imports, by the names of modules; nothing of one that cannot be read."""
    try:
        tree = ast.parse(path.read_bytes())
    except (OSError, SyntaxError, ValueError, RecursionError):
        return []
    names: set[str] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            names.update(alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom):
            home = "." * node.level + (node.module or "")
            joint = "" if home.endswith(".") else "."
            names |= {home, *(f"{home}{joint}{alias.name}" for alias in node.names if alias.name != "*")}
    return sorted(names)


def users(path: Path, files: PythonFiles) -> list[Path]:
    """The files around a script that import it, or reach into what is started.

    Looked at are those beside it, right below and right above; and in a package, or a folder with a project file above,
    all that is in there. A folder with a file of the same name, such as one that was built into, means its own.
    """
    folder = path.resolve().parent
    above = Path(os.path.normpath(path.parent / ".."))
    around = {*path.parent.glob("*.py"), *path.parent.glob("*/*.py"), *above.glob("*.py"), *_of_project(path)}
    own = last_name(path)
    names = re.compile(rf"\b({re.escape(own)}|{STARTED})\b")
    found: dict[Path, Path] = {}
    for other in sorted(file for file in around if file.is_file()):
        place = other.resolve()
        is_own = place == folder / path.name
        has_its_own = path.stem == own and place.parent != folder and (place.parent / path.name).exists()
        if is_own or has_its_own:
            continue
        named = set(names.findall(_text(other)))
        if not place.is_relative_to(folder):
            named.discard(
                STARTED
            )  # what lies elsewhere is loaded for other scripts, too: that says nothing of this one
        modules = _read(other, files) if named else []
        if modules and (_imports_any(modules[0], named) or (own in named and loads_by_name(modules[0]))):
            found.setdefault(place, other)
    return list(found.values())


def _of_project(path: Path) -> Iterator[Path]:
    """The files of the project, or else of the outermost package, that a script is part of; not what is installed."""
    folder = path.resolve().parent
    outermost = folder
    while (outermost / "__init__.py").exists():
        outermost = outermost.parent
    projects = [outermost, *list(outermost.parents)[:_LEVELS]]
    root = next((each for each in projects if any((each / name).exists() for name in _PROJECT_FILES)), None)
    tops = [root] if root is not None else [p for p in [folder, *folder.parents] if p.parent == outermost]
    count = 0
    for top in tops:
        for inside, folders, files in os.walk(top):
            folders[:] = sorted(f for f in folders if not f.startswith(".") and f not in _NOT_OURS)
            for name in sorted(files):
                if name.endswith(".py") and (count := count + 1) <= _MOST_FILES:
                    file = Path(inside, name)
                    yield file if path.is_absolute() else Path(os.path.relpath(file))


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
    imported |= {brought for statement in module.walk() for brought in statement.imports}
    names = {name for name, _ in imported} | {name for name, _ in module.stars}
    names |= {f"{name.rstrip('.')}.{what}" for name, what in imported if what is not None}
    return sorted(names)


def _read(path: Path, files: PythonFiles) -> list[Module]:
    try:
        return [files.read(SourceText.read(path))]
    except UnreadableError:
        return []
