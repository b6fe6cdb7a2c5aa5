"""What a run did to files, folders and links."""

from __future__ import annotations

import hashlib
import os
import stat
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import NamedTuple

_MOST_SHOWN = 2000
_USUAL = {"file": 0o644, "folder": 0o755}  # what the keeper's mask makes of what is new


class Mark(NamedTuple):
    """What tells whether something in a folder is still what it was; `leads` is where a link leads."""

    mode: int
    size: int
    changed: int
    node: int
    leads: str = ""


def snapshot(folder: Path) -> dict[str, Mark]:
    """The mark of everything below a folder, by its path from there; nothing where the folder is gone."""
    found: dict[str, Mark] = {}
    waiting = [""]
    while waiting:
        inside = waiting.pop()
        try:
            entries = sorted(os.scandir(folder / inside), key=lambda entry: entry.name)
        except OSError:
            continue
        for entry in entries:
            name = f"{inside}{entry.name}"
            about = entry.stat(follow_symlinks=False)
            leads = os.readlink(entry.path) if entry.is_symlink() else ""
            if entry.is_dir(follow_symlinks=False):
                found[name] = Mark(about.st_mode, 0, 0, 0)
                waiting.append(f"{name}/")
            else:
                found[name] = Mark(about.st_mode, about.st_size, about.st_ctime_ns, about.st_ino, leads)
    return found


def written(
    folder: Path, before: Mapping[str, Mark], after: Mapping[str, Mark], originals: Sequence[Path] = ()
) -> Iterator[str]:
    """In words, what is new below a folder, what is changed or gone.

    `originals` are the folders that it was copied from, the last of them on top: a file that was written anew with what
    it had held is not changed.
    """
    for name in sorted(before.keys() | after.keys(), key=os.fsencode):
        old, new = before.get(name), after.get(name)
        if new is None:
            yield f"deletes the {_kind(old)} {_shown(name)}"
        elif old != new:
            yield from _changes(folder, name, old, new, originals)


def _changes(folder: Path, name: str, old: Mark | None, new: Mark, originals: Sequence[Path]) -> Iterator[str]:
    kind, shown = _kind(new), _shown(name)
    if stat.S_ISLNK(new.mode):
        yield f"makes the link {shown}, to {_shown(new.leads)}"
    elif not stat.S_ISREG(new.mode) and (old is None or _kind(old) != kind):
        yield f"makes the {kind} {shown}"
    elif stat.S_ISREG(new.mode):
        content = _content(folder / name)
        source = next((o / name for o in reversed(originals) if (o / name).is_file()), None) if old else None
        if source is None or _content(source) != content:
            yield f"writes the file {shown}: {content}"
    usual = _USUAL.get(kind) if old is None or _kind(old) != kind else stat.S_IMODE(old.mode)
    if usual is not None and stat.S_IMODE(new.mode) != usual:
        yield f"gives the {kind} {shown} the mode {new.mode & 0o7777:o}"


def _kind(mark: Mark | None) -> str:
    mode = mark.mode if mark is not None else 0
    for is_such, word in (
        (stat.S_ISDIR, "folder"),
        (stat.S_ISLNK, "link"),
        (stat.S_ISREG, "file"),
        (stat.S_ISFIFO, "pipe"),
    ):
        if is_such(mode):
            return word
    return "special file"


def _shown(name: str) -> str:
    """A name in one line of text, whatever its bytes."""
    text = os.fsencode(name).decode("utf-8", "backslashreplace")
    return text if text.isprintable() else repr(text)


def _content(path: Path) -> str:
    try:
        data = path.read_bytes()
    except OSError as error:
        return f"which nobody can read ({error.strerror})"
    if len(data) <= _MOST_SHOWN:
        return repr(data)
    return f"{len(data)} bytes, {hashlib.sha256(data).hexdigest()[:16]}"
