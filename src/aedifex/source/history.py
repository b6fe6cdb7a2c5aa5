"""What was rewritten in place in a folder, and taking it back.

Every change is first written whole to the journal (`.aedifex/`), then carried out file by file, each by one atomic
rename; a marker tells that it is under way. Whatever moment a call is killed at, the next one finds either no entry,
and sweeps what was prepared, or a whole entry, and finishes it (write-ahead logging: C. Mohan et al., "ARIES", ACM
TODS 17(1), 1992, reduced to whole files). New files come first and the script that uses them last, so that the program
itself is the old or the new one at every moment.
"""

from __future__ import annotations

import contextlib
import hashlib
import json
import os
import shutil
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from aedifex.source.errors import Place, RefusedError
from aedifex.source.locking import locked

FOLDER = ".aedifex"
_FORMAT = 1
_UNDER_WAY = "under-way"
_TAKING_BACK = "taking-back"


@dataclass(frozen=True)
class Changed:
    """One file of an entry, by its path from the folder; `before` and `after` are digests, None for no file."""

    path: str
    before: str | None
    after: str | None


@dataclass(frozen=True)
class Entry:
    """One change of a folder: when it was made (ISO 8601, UTC), what did it, and the files in the order of writing."""

    number: int
    when: str
    what: str
    files: tuple[Changed, ...]
    undone: bool = False


@dataclass(frozen=True)
class Undone:
    """What taking back came to: the entry, and where edited files were saved."""

    entry: Entry
    kept: tuple[Path, ...] = ()


class History:
    """The journal of one folder. Use it inside `with History.opened(folder) as history`."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.home = folder / FOLDER
        self.settled: list[str] = []

    @classmethod
    @contextlib.contextmanager
    def opened(cls, folder: Path) -> Iterator[History]:
        """Hold the folder against other calls, and finish or take back what an earlier one left half done.

        `settled` then says in words what that was.

        Raises:
            RefusedError: another call is at work here, or the folder cannot be written, or a half-done change cannot
                be finished because a file was edited since.
        """
        history = cls(folder)
        if not folder.is_dir():
            raise RefusedError("there is no such folder", Place(folder), "Name the script's folder.")
        with _in_words(history.home), locked(folder):
            history._settle()
            yield history

    def entries(self) -> list[Entry]:
        """All entries, the oldest first."""
        names = sorted(path.name for path in self.home.glob("[0-9]*") if path.is_dir())
        return [self._read(self.home / name) for name in names]

    # -- a change

    def record(self, what: str, before: Mapping[Path, bytes | None], after: Mapping[Path, bytes | None]) -> Entry:
        """Write a change into the journal and carry it out, all or nothing.

        `before` holds what was read from each file, `after` what it shall hold; None stands for no file. The order of
        `after` is the order of writing.

        Raises:
            RefusedError: a file is not as it was read, is read-only, or cannot be written.
        """
        for path in after:
            self._check_target(path, before[path])
        _make_home(self.home)
        number = max((entry.number for entry in self.entries()), default=0) + 1
        staged = self.home / f"new-{number:04}"
        staged.mkdir()
        files = []
        for index, (path, data) in enumerate(after.items()):
            old = before[path]
            files.append(Changed(path.relative_to(self.folder).as_posix(), _digest(old), _digest(data)))
            for side, content in (("before", old), ("after", data)):
                if content is not None:
                    _write_through(staged / f"{index}.{side}", content)
        entry = Entry(number, datetime.now(UTC).isoformat(timespec="seconds"), what, tuple(files))
        _write_through(staged / "entry.json", _as_json(entry))
        _write_through(staged / _UNDER_WAY, b"")
        place = self.home / f"{number:04}"
        os.rename(staged, place)
        _sync_folder(self.home)
        try:
            self._carry_out(place, entry.files, "after")
        except OSError:
            self._carry_out(place, tuple(reversed(entry.files)), "before")
            os.rename(place, staged)
            shutil.rmtree(staged)
            raise
        (place / _UNDER_WAY).unlink()
        return entry

    def _check_target(self, path: Path, read: bytes | None) -> None:
        now = _content(path)
        if read is None and now is not None:
            raise RefusedError("this file is there already", Place(path), "Delete it, or choose another file name.")
        if now != read:
            raise RefusedError("this file was edited while the change was worked out", Place(path), "Try again.")
        if read is not None and os.stat(path).st_nlink > 1:
            reason = "this file has another name, a hard link, which would keep the old text"
            raise RefusedError(reason, Place(path), "Make a copy of its own first, or use --into DIR.")
        if read is not None and not os.stat(path).st_mode & 0o222:
            raise RefusedError("this file is read-only", Place(path), "Make it writable first, or use --into DIR.")

    def _carry_out(self, place: Path, files: Sequence[Changed], side: str) -> None:
        """Bring files to one side of an entry; those that are there already are left alone."""
        numbers = {changed.path: number for number, changed in enumerate(self._read(place).files)}
        for changed in files:
            target = self.folder / changed.path
            wanted = changed.before if side == "before" else changed.after
            if _digest(_content(target)) == wanted:
                self._sweep_beside(target)
            elif wanted is None:
                target.unlink()
                self._remove_empty_folders(target.parent)
            else:
                target.parent.mkdir(parents=True, exist_ok=True)
                _replace(target, (place / f"{numbers[changed.path]}.{side}").read_bytes())

    def _sweep_beside(self, target: Path) -> None:
        """Remove what a killed call may have left beside a file."""
        with contextlib.suppress(FileNotFoundError):
            _beside(_real(target)).unlink()

    def _remove_empty_folders(self, folder: Path) -> None:
        while folder != self.folder and not any(folder.iterdir()):
            folder.rmdir()
            folder = folder.parent

    # -- taking back

    def undo(self, *, keep_copies: bool = False) -> Undone:
        """Take the last change back, byte for byte.

        Raises:
            RefusedError: there is none, or a file was edited since and `keep_copies` does not save it.
        """
        last = next((entry for entry in reversed(self.entries()) if not entry.undone), None)
        if last is None:
            raise RefusedError("nothing was changed in place here", Place(self.folder), "There is nothing to undo.")
        place = self.home / f"{last.number:04}"
        edited = [f for f in last.files if _digest(_content(self.folder / f.path)) != f.after]
        if edited and not keep_copies:
            raise _edited(self.folder, edited)
        kept = [self._keep(self.folder / f.path) for f in edited if (self.folder / f.path).exists()]
        _write_through(place / _TAKING_BACK, b"")
        self._carry_out(place, tuple(reversed(last.files)), "before")
        os.rename(place / _TAKING_BACK, place / "undone")
        return Undone(last, tuple(kept))

    def _keep(self, path: Path) -> Path:
        number = 1
        while True:
            copy = path.with_name(f"{path.name}.kept" + (f"-{number}" if number > 1 else ""))
            if not copy.exists():
                _write_through(copy, path.read_bytes())
                return copy
            number += 1

    # -- after a call that did not come to its end

    def _settle(self) -> None:
        for path in sorted(self.home.glob("new-*")):
            shutil.rmtree(path)
            self.settled.append("An earlier call was interrupted before it changed anything; what it prepared is gone.")
        for path in sorted(self.home.glob("[0-9]*")):
            if (path / _TAKING_BACK).exists():
                self._finish(path, "before", self._read(path).what)
            elif (path / _UNDER_WAY).exists():
                self._finish(path, "after", self._read(path).what)

    def _finish(self, place: Path, side: str, what: str) -> None:
        """Carry a half-done change on; or take it back around a file that was edited since, which is left alone."""
        files = self._read(place).files
        edited = [f for f in files if _digest(_content(self.folder / f.path)) not in (f.before, f.after)]
        if edited or side == "before":
            self._carry_out(place, [f for f in reversed(files) if f not in edited], "before")
            os.replace(next(p for p in (place / _TAKING_BACK, place / _UNDER_WAY) if p.exists()), place / "undone")
            self.settled.append(f"An earlier call was interrupted: what it did is taken back ({what}).")
            self.settled += [f"{f.path} was edited since and is left as it is." for f in edited]
        else:
            self._carry_out(place, files, "after")
            (place / _UNDER_WAY).unlink()
            self.settled.append(f"An earlier call was interrupted: it is finished now ({what}).")

    def _read(self, place: Path) -> Entry:
        try:
            found = json.loads((place / "entry.json").read_text("utf-8"))
            files = tuple(Changed(f["path"], f["before"], f["after"]) for f in found["files"])
            return Entry(int(place.name), found["when"], found["what"], files, (place / "undone").exists())
        except (ValueError, KeyError, TypeError, FileNotFoundError):
            raise RefusedError(
                "this entry of the journal is damaged", Place(place), "Move it away by hand to go on without it."
            ) from None


def _edited(folder: Path, files: Sequence[Changed]) -> RefusedError:
    advice = "`aedifex undo --keep-copy` saves the edited file beside it and goes on."
    first, *others = [
        RefusedError("this file was edited since, or is gone", Place(folder / f.path), advice) for f in files
    ]
    return RefusedError(first.reason, first.place, first.advice, tuple(others))


def _make_home(home: Path) -> None:
    home.mkdir(exist_ok=True)
    ignore = home / ".gitignore"
    if not ignore.exists():
        _write_through(ignore, b"*\n")


@contextlib.contextmanager
def _in_words(path: Path) -> Iterator[None]:
    try:
        yield
    except OSError as error:
        place = Place(Path(error.filename)) if isinstance(error.filename, str) else Place(path)
        raise RefusedError(
            f"cannot be written: {error.strerror}", place, "Make room, or the folder writable, or use --into DIR."
        ) from None


def _as_json(entry: Entry) -> bytes:
    files = [{"path": f.path, "before": f.before, "after": f.after} for f in entry.files]
    text = json.dumps({"format": _FORMAT, "when": entry.when, "what": entry.what, "files": files}, indent=1)
    return text.encode("utf-8")


def _digest(data: bytes | None) -> str | None:
    return None if data is None else hashlib.sha256(data).hexdigest()


def _content(path: Path) -> bytes | None:
    try:
        return path.read_bytes()
    except FileNotFoundError:
        return None


def _real(target: Path) -> Path:
    """The file that a path leads to, through links."""
    return Path(os.path.realpath(target))


def _beside(target: Path) -> Path:
    return target.with_name(f".{target.name}.aedifex")


def _replace(target: Path, data: bytes) -> None:
    """Give a file new content by one rename; a link stays a link, and permissions stay."""
    real = _real(target)
    beside = _beside(real)
    _write_through(beside, data)
    if real.exists():
        shutil.copymode(real, beside)
    os.replace(beside, real)
    _sync_folder(real.parent)


def _write_through(path: Path, data: bytes) -> None:
    """Write a file and wait until it is on the disk."""
    with open(path, "wb") as file:
        file.write(data)
        file.flush()
        os.fsync(file.fileno())


def _sync_folder(folder: Path) -> None:
    if os.name != "posix":
        return
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
