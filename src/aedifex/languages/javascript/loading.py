"""The files that a script or a page loads, itself or by what it loads."""

from __future__ import annotations

import json
import posixpath
import re
from collections.abc import Iterator, Sequence
from itertools import islice
from pathlib import Path

from aedifex.languages.javascript import pages

_MOST = 300
_LOADED = re.compile(rb"""\b(?:from|import|require\s*\(|import\s*\()\s*(["'])(\.{1,2}(?:/[^"'\n]*)?)\1""")
_PACKAGE_FILE = "package.json"
_PACKAGES = "node_modules"
_ABOVE = "../"
_MOST_BESIDE = 1000
_ENDINGS = ("", ".js", ".cjs", ".mjs", ".json", "/index.js")


def loaded(script: str, folders: Sequence[Path]) -> list[str]:
    """Their names as seen from the folder of a script: those from above begin with `../`.

    The program is in one of the folders, or partly in several; what is in the last counts.
    """
    waiting, known = [script], {script}
    while waiting and len(known) < _MOST:
        name = waiting.pop()
        for other in _loaded_by(name, folders):
            spelled = posixpath.normpath(posixpath.join(posixpath.dirname(name), other))
            found = [name for name in _meant(spelled, folders) if name not in known]
            known.update(found)
            waiting += found
    return sorted(known - {script})


def loaded_from_above(script: str, folders: Sequence[Path]) -> list[str]:
    """Those of the files that stand above a script's folder.

    With them comes what else is in their folders, unless these hold the script too: some files name others only when
    they run.
    """
    found = [name for name in loaded(script, folders) if name.startswith(_ABOVE)]
    around = {place for name in found if (place := _folder_around(name, folders)) is not None}
    return sorted({*found, *(inner for folder, base in around for inner in _files_in(folder, base))})


def _folder_around(name: str, folders: Sequence[Path]) -> tuple[Path, str] | None:
    """The highest folder that a file from above is in and the script is not, and the way up to what has it."""
    inside, file = name.rpartition(_ABOVE)[2], _file(name, folders)
    depth = inside.count("/")
    return (file.parents[depth - 1], name.removesuffix(inside)) if file is not None and depth else None


def _files_in(folder: Path, base: str) -> list[str]:
    """The files in a folder from above, and further in; none where they are too many."""
    files = (path for path in sorted(folder.rglob("*")) if path.is_file() and _PACKAGES not in path.parts)
    found = [base + path.relative_to(folder.parent).as_posix() for path in islice(files, _MOST_BESIDE + 1)]
    return found if len(found) <= _MOST_BESIDE else []


def _meant(spelled: str, folders: Sequence[Path]) -> Iterator[str]:
    """The file that is loaded by such a name; a folder may have a package file that tells which."""
    package = f"{spelled}/{_PACKAGE_FILE}"
    file = _file(package, folders)
    if file is not None and (begins := _first_of(file)):
        yield package
        spelled = posixpath.normpath(posixpath.join(spelled, begins))
    yield from [spelled + ending for ending in _ENDINGS if _file(spelled + ending, folders)][:1]


def _first_of(package: Path) -> str:
    """The file with which a package begins, as its package file has it; empty where that says nothing."""
    try:
        told = json.loads(package.read_bytes())
    except ValueError:
        return ""
    first = told.get("main") if isinstance(told, dict) else None
    return first if isinstance(first, str) else ""


def _loaded_by(name: str, folders: Sequence[Path]) -> Iterator[str]:
    file = _file(name, folders)
    data = b"" if file is None else file.read_bytes()
    if pages.is_page(Path(name)):
        yield from (source for source in pages.sources_of(data) if "//" not in source)
    yield from (match[2].decode("utf-8", "replace") for match in _LOADED.finditer(data))


def _file(name: str, folders: Sequence[Path]) -> Path | None:
    return next((folder / name for folder in reversed(folders) if (folder / name).is_file()), None)
