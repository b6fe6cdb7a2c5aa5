"""Rewriting a program where it stands, through the folder's journal."""

from __future__ import annotations

from pathlib import Path

from aedifex.program.model.program import Program
from aedifex.source.history import Entry, History


def rewrite(history: History, before: Program, after: Program, what: str) -> Entry | None:
    """Write what changed between two states of a program; None if nothing did.

    New files are written first and the started script last, so that it never needs a file that is not there yet.

    Raises:
        RefusedError: a file cannot be written, is there already, or was edited meanwhile. Nothing is changed then.
    """
    old: dict[Path, bytes | None] = {path: module.source.encode() for path, module in before.modules.items()}
    new = {path: module.source.encode() for path, module in after.modules.items()} | dict(after.beside)
    changed = [path for path, data in new.items() if old.get(path) != data]
    if not changed:
        return None
    changed.sort(key=lambda path: (path in old, path == before.main.path))
    return history.record(what, {path: old.get(path) for path in changed}, {path: new[path] for path in changed})
