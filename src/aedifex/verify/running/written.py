"""What a run did to the files of its folder."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Mapping
from pathlib import Path

_MOST_SHOWN = 2000


def snapshot(folder: Path) -> dict[str, str]:
    """What is in every file below a folder, by its path from there: a short text itself, else a digest."""
    return {
        path.relative_to(folder).as_posix(): _content(path)
        for path in sorted(folder.rglob("*"))
        if path.is_file() and not path.is_symlink()
    }


def written(before: Mapping[str, str], after: Mapping[str, str]) -> Iterator[str]:
    """In words, each file that is new, changed or gone."""
    for name in sorted(before.keys() | after.keys()):
        if name not in after:
            yield f"deletes the file {name}"
        elif before.get(name) != after[name]:
            yield f"writes the file {name}: {after[name]}"


def _content(path: Path) -> str:
    data = path.read_bytes()
    if len(data) <= _MOST_SHOWN:
        return repr(data)
    return f"{len(data)} bytes, {hashlib.sha256(data).hexdigest()[:16]}"
