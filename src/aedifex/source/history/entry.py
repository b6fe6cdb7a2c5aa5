"""The entries of a journal, as they lie on the disk: a folder each, with what the files held before and after."""

from __future__ import annotations

import hashlib
import json
import os
from collections.abc import Mapping
from dataclasses import dataclass
from enum import Enum
from pathlib import Path, PurePosixPath
from typing import Any

from aedifex.source.content import text_of
from aedifex.source.errors import AedifexError, Place, RefusedError

FOLDER = ".aedifex"
FORMAT = 2
_ABOUT = "entry.json"
_OVERWRITES = "overwrites.json"
_OLD_MARKS = {"taking-back": "undoing", "under-way": "doing", "undone": "undone"}


class State(Enum):
    """How far an entry has come. What is on its way is finished, or taken back, by the next call that writes."""

    DOING = "doing"
    DONE = "done"
    UNDOING = "undoing"
    UNDONE = "undone"
    REDOING = "redoing"

    @property
    def side(self) -> str:
        """The side that the files are on, or on their way to."""
        return "before" if self in (State.UNDOING, State.UNDONE) else "after"

    @property
    def is_under_way(self) -> bool:
        """Whether the files may be on either side."""
        return self in (State.DOING, State.UNDOING, State.REDOING)

    @property
    def end(self) -> State:
        """What it comes to."""
        return State.UNDONE if self.side == "before" else State.DONE


@dataclass(frozen=True)
class Changed:
    """One file of an entry, by its path from the folder; `before` and `after` are digests, None for no file."""

    path: str
    before: str | None
    after: str | None

    def on(self, side: str) -> str | None:
        """The digest on one side."""
        return self.before if side == "before" else self.after


@dataclass(frozen=True)
class Entry:
    """One change of a folder: when it was made (ISO 8601, UTC), what did it, and the files in the order of writing.

    `overwrites` holds the digests of edited files whose content was saved beside them, and may go.
    """

    number: int
    when: str
    what: str
    files: tuple[Changed, ...]
    state: State = State.DONE
    overwrites: frozenset[str] = frozenset()

    @property
    def undone(self) -> bool:
        """Whether it is taken back."""
        return self.state is State.UNDONE

    def content(self, place: Path, changed: Changed, side: str) -> bytes:
        """What a file holds on one side, out of the entry's own folder.

        Raises:
            RefusedError: it is not what the entry says.
        """
        kept = place / f"{self.files.index(changed)}.{side}"
        data = bytes_of(kept) if not kept.is_symlink() else None
        if data is None or digest_of(data) != changed.on(side):
            raise damaged(place)
        return data

    def as_json(self) -> bytes:
        """As it is written down."""
        files = [{"path": f.path, "before": f.before, "after": f.after} for f in self.files]
        text = json.dumps({"format": FORMAT, "when": self.when, "what": self.what, "files": files}, indent=1)
        return text.encode("utf-8", "surrogateescape")


def read_entry(place: Path) -> Entry:
    """Read an entry from its folder, also one that is only prepared.

    Raises:
        RefusedError: it says what no entry says, or names a file that lies outside.
    """
    try:
        found = json.loads(_plain_text(place, _ABOUT))
        files = tuple(_changed(each) for each in found["files"])
        if (
            not isinstance(found["when"], str)
            or not isinstance(found["what"], str)
            or found["format"] not in (1, FORMAT)
        ):
            raise TypeError
        saved = json.loads(_plain_text(place, _OVERWRITES)) if (place / _OVERWRITES).exists() else []
        number, overwrites = int(place.name.removeprefix("new-")), frozenset(map(str, saved))
        return Entry(number, found["when"], found["what"], files, _state(place), overwrites)
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError, OSError, AedifexError):
        raise damaged(place) from None


def _plain_text(place: Path, name: str) -> str:
    if place.is_symlink() or (place / name).is_symlink():
        raise ValueError
    return text_of(place / name)


def _changed(found: Mapping[str, Any]) -> Changed:
    path = PurePosixPath(found["path"])
    digests = (found["before"], found["after"])
    is_inside = not path.is_absolute() and path.parts and not {"..", FOLDER} & set(path.parts) and "\0" not in str(path)
    if not is_inside or ":" in path.parts[0] or not all(d is None or isinstance(d, str) for d in digests):
        raise ValueError
    return Changed(found["path"], *digests)


def _state(place: Path) -> State:
    found = [state for state in State if mark_of(place, state).exists()]
    found += [State(state) for mark, state in _OLD_MARKS.items() if (place / mark).exists()]
    return found[0] if found else State.DONE


def mark_of(place: Path, state: State) -> Path:
    """The empty file that tells the state of an entry: to rename it needs no room, and is done or not."""
    return place / f"state.{state.value}"


def old_marks(place: Path) -> list[Path]:
    """The marks that an entry of the first format has."""
    return [place / mark for mark in _OLD_MARKS if (place / mark).exists()]


def overwrites_of(place: Path) -> Path:
    """The file with the digests of what was saved."""
    return place / _OVERWRITES


def about_of(place: Path) -> Path:
    """The file that says what the entry is."""
    return place / _ABOUT


def digest_of(data: bytes | None) -> str | None:
    """What tells one content from another; None for no file."""
    return None if data is None else hashlib.sha256(data).hexdigest()


def bytes_of(path: Path) -> bytes | None:
    """What is in a file; None for no file."""
    try:
        return path.read_bytes()
    except FileNotFoundError:
        return None


def target_of(folder: Path, changed: Changed) -> Path:
    """The file that an entry speaks of.

    Raises:
        RefusedError: a link on the way leads out of the folder.
    """
    target = folder / changed.path
    root = os.path.join(os.path.realpath(folder), "")
    if not os.path.realpath(target).startswith(root):
        raise RefusedError(
            "a link leads out of the folder here", Place(target), "Work in the folder where the file itself lies."
        )
    return target


def damaged(place: Path) -> RefusedError:
    """What is said of an entry that cannot be understood."""
    return RefusedError(
        "this entry of the journal is damaged", Place(place), "Move it away by hand to go on without it."
    )
