"""The files that a script or a page loads, itself or by what it loads."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Iterator, Sequence
from pathlib import Path

from aedifex.languages.javascript import pages

_MOST = 300
_LOADED = re.compile(rb"""\b(?:from|import|require\s*\(|import\s*\()\s*(["'])(\.{1,2}/[^"'\n]+)\1""")
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
            found = next((spelled + ending for ending in _ENDINGS if _file(spelled + ending, folders)), None)
            if found is not None and found not in known:
                known.add(found)
                waiting.append(found)
    return sorted(known - {script})


def _loaded_by(name: str, folders: Sequence[Path]) -> Iterator[str]:
    file = _file(name, folders)
    data = b"" if file is None else file.read_bytes()
    if pages.is_page(Path(name)):
        yield from (source for source in pages.sources_of(data) if "//" not in source)
    yield from (match[2].decode("utf-8", "replace") for match in _LOADED.finditer(data))


def _file(name: str, folders: Sequence[Path]) -> Path | None:
    return next((folder / name for folder in reversed(folders) if (folder / name).is_file()), None)
