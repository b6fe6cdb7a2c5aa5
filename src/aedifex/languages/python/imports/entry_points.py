"""Functions that a project's files name as the start of a program: `package.module:function`."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from functools import lru_cache
from pathlib import Path

from aedifex.source.errors import Place

_NAMED = re.compile(r"([A-Za-z_][\w.]*)\s*:\s*([A-Za-z_]\w*)")
_FILES = ("pyproject.toml", "setup.cfg", "setup.py", "*.dist-info/entry_points.txt", "*.egg-info/entry_points.txt")
_LEVELS = 6
_LONGEST = 1 << 20


def entry_points(path: Path) -> Mapping[str, Place]:
    """The names of a file that the projects around it start programs with, each with the place that says so."""
    return _entry_points(path.resolve())


@lru_cache(maxsize=64)
def _entry_points(path: Path) -> Mapping[str, Place]:
    found: dict[str, Place] = {}
    folder = path.parent
    parts = list(path.with_suffix("").parts)
    if parts[-1] == "__init__":
        parts.pop()
    for above in [folder, *folder.parents][:_LEVELS]:
        for project_file in (file for pattern in _FILES for file in sorted(above.glob(pattern))):
            for module, name, line in _named_in(project_file):
                dotted = module.split(".")
                if dotted == parts[-len(dotted) :]:
                    found.setdefault(name, Place(project_file, line))
    return found


def _named_in(project_file: Path) -> Iterator[tuple[str, str, int]]:
    """Each module and name in the text of a project file, with its line."""
    try:
        if project_file.stat().st_size > _LONGEST:
            return
        text = project_file.read_text("utf-8", "replace")
    except OSError:
        return
    for number, line in enumerate(text.splitlines(), 1):
        for match in _NAMED.finditer(line):
            yield match[1], match[2], number
