"""The journal of a folder: whole changes or none, each of which can be taken back and done again.

An entry is first written whole into a folder of its own, then it comes to be by one rename. Every change of files, be
it forth or back, goes the same way: what the files shall hold is written beside them; the entry's mark says that it is
under way; each file is put in its place by one rename, what was there keeping a second name; the mark says that it is
done. Nothing behind the first mark needs room on the disk. Whatever moment a call is killed at, the next one that
writes finds the mark and finishes what it says (write-ahead logging: C. Mohan et al., "ARIES", ACM TODS 17(1), 1992,
reduced to whole files). A call that fails by itself puts all back, and leaves nothing to be finished.

New files come first and the script that uses them last, and the other way round when it is taken back, so that the
program itself is the old or the new one at every moment.
"""

from __future__ import annotations

import contextlib
import difflib
import glob
import json
import os
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from pathlib import Path

from aedifex.source.errors import Place, RefusedError
from aedifex.source.history.disk import Disk
from aedifex.source.history.entry import (
    FOLDER,
    Changed,
    Entry,
    State,
    about_of,
    bytes_of,
    digest_of,
    mark_of,
    old_marks,
    overwrites_of,
    read_entry,
    target_of,
)
from aedifex.source.locking import locked


@dataclass(frozen=True)
class Outcome:
    """What taking back, or doing again, came to: the entry, and where edited files were saved."""

    entry: Entry
    kept: tuple[Path, ...] = ()


class History:
    """The journal of one folder. Use it inside `with History.opened(folder) as history`."""

    def __init__(self, folder: Path, disk: Disk | None = None) -> None:
        self.folder = folder
        self.home = folder / FOLDER
        self.disk = disk or Disk()
        self.settled: list[str] = []

    @classmethod
    @contextlib.contextmanager
    def opened(cls, folder: Path, disk: Disk | None = None, *, to_read: bool = False) -> Iterator[History]:
        """Hold the folder against other calls; but `to_read`, finish what an earlier one left half done.

        `settled` then says in words what that was.

        Raises:
            RefusedError: another call is at work here, or the folder cannot be written, or the journal is not one.
        """
        history = cls(folder, disk)
        if not folder.is_dir():
            raise RefusedError("there is no such folder", Place(folder), "Name the script's folder.")
        with _in_words(history.home), locked(folder):
            if history.home.is_symlink() or (history.home.exists() and not history.home.is_dir()):
                raise RefusedError("the journal must be a folder of its own", Place(history.home), "Move it away.")
            if not to_read:
                history._settle()
            yield history

    def entries(self) -> list[Entry]:
        """All entries, the oldest first."""
        return [read_entry(place) for place in self._places()]

    def _places(self) -> list[Path]:
        names = [path.name for path in self.home.glob("[0-9]*") if path.name.isdecimal() and path.is_dir()]
        return [self.home / name for name in sorted(names, key=int) if name == f"{int(name):04}"]

    def _place(self, entry: Entry) -> Path:
        return self.home / f"{entry.number:04}"

    # -- a change

    def record(self, what: str, before: Mapping[Path, bytes | None], after: Mapping[Path, bytes | None]) -> Entry:
        """Write a change into the journal and carry it out, all or nothing.

        `before` holds what was read from each file, `after` what it shall hold; None stands for no file. The order of
        `after` is the order of writing.

        Raises:
            RefusedError: a file is not as it was read, is read-only, lies outside, or cannot be written.
        """
        files = []
        for path, data in after.items():
            _check_target(path, before[path])
            files.append(Changed(path.relative_to(self.folder).as_posix(), digest_of(before[path]), digest_of(data)))
            target_of(self.folder, files[-1])
        number = max((int(place.name) for place in self._places()), default=0) + 1
        when = datetime.now(UTC).isoformat(timespec="seconds")
        entry = Entry(number, when, what, tuple(files), State.DOING)
        staged = self.home / f"new-{number:04}"
        is_first = not self.home.exists()
        try:
            self._prepare(staged, entry, [(before[path], data) for path, data in after.items()])
            self._write_beside(entry, "after", staged)
            self.disk.rename(staged, self._place(entry))
        except OSError:
            self._sweep(entry)
            self._drop(staged)
            if is_first:
                self._drop(self.home)
            raise
        self.disk.sync(self.home)
        try:
            self._put_in_place(entry.files, "after")
        except OSError:
            self._put_back(self._mark(entry, State.UNDOING))
            self.disk.rename(self._place(entry), staged)
            self._drop(staged)
            raise
        self._sweep(entry)
        return self._mark(entry, State.DONE)

    def _prepare(self, staged: Path, entry: Entry, contents: list[tuple[bytes | None, bytes | None]]) -> None:
        """Write an entry with all contents, where it does not count yet."""
        self.disk.make_folder(self.home)
        if not (self.home / ".gitignore").exists():
            self.disk.write(self.home / ".gitignore", b"*\n")
        self.disk.make_folder(staged)
        for index, sides in enumerate(contents):
            for side, data in zip(("before", "after"), sides, strict=True):
                if data is not None:
                    self.disk.write(staged / f"{index}.{side}", data)
        self.disk.write(about_of(staged), entry.as_json())
        self.disk.write(mark_of(staged, State.DOING), b"")

    # -- forth and back

    def undo(self, *, keep_copies: bool = False) -> Outcome:
        """Take the last change back, byte for byte.

        Raises:
            RefusedError: there is none, or a file was edited since and `keep_copies` does not save it.
        """
        last = next((entry for entry in reversed(self.entries()) if not entry.undone), None)
        if last is None:
            raise RefusedError("nothing was changed in place here", Place(self.folder), "There is nothing to undo.")
        return self._turn(last, State.UNDOING, keep_copies)

    def redo(self, *, keep_copies: bool = False) -> Outcome:
        """Do again what was taken back last, byte for byte.

        Raises:
            RefusedError: there is none since the last change, or a file was edited since and `keep_copies` does not
                save it.
        """
        undone: Entry | None = None
        for entry in reversed(self.entries()):
            if not entry.undone:
                break
            undone = entry
        if undone is None:
            raise RefusedError("nothing was taken back here", Place(self.folder), "There is nothing to do again.")
        return self._turn(undone, State.REDOING, keep_copies)

    def _turn(self, entry: Entry, way: State, keep_copies: bool) -> Outcome:
        edited = [f for f in entry.files if self._digest(f) != f.on(entry.state.side)]
        if edited and not keep_copies:
            raise _edited(self.folder, edited, way)
        for changed in entry.files:
            target = target_of(self.folder, changed)
            if target.exists() and not os.stat(target).st_mode & 0o222:
                raise RefusedError("this file is read-only", Place(target), "Make it writable first.")
        kept = [self._keep(self.folder / f.path) for f in edited if (self.folder / f.path).exists()]
        place = self._place(entry)
        saved = sorted({*entry.overwrites, *(digest for f in edited if (digest := self._digest(f)) is not None)})
        if saved:
            self.disk.write(place / "overwrites.new", json.dumps(saved).encode())
            self.disk.rename(place / "overwrites.new", overwrites_of(place))
        try:
            self._write_beside(entry, way.side, place)
            entry = self._mark(entry, way)
        except OSError:
            self._sweep(entry)
            raise
        try:
            self._put_in_place(entry.files, way.side)
        except OSError:
            back = State.REDOING if way is State.UNDOING else State.UNDOING
            self._put_back(self._mark(entry, back))
            self._mark(replace(entry, state=back), back.end)
            raise
        self._sweep(entry)
        return Outcome(self._mark(entry, way.end), tuple(kept))

    def _keep(self, path: Path) -> Path:
        """Save what is in a file beside it, unless that has been done already."""
        data, number = path.read_bytes(), 1
        while True:
            copy = path.with_name(f"{path.name}.kept" + (f"-{number}" if number > 1 else ""))
            if not os.path.lexists(copy):
                self.disk.write(_beside(copy), data)
                self.disk.rename(_beside(copy), copy)
                return copy
            if bytes_of(copy) == data:
                return copy
            number += 1

    def _mark(self, entry: Entry, state: State) -> Entry:
        place = self._place(entry)
        now = mark_of(place, entry.state)
        if not now.exists():  # an entry of the first format
            self.disk.write(now, b"")
            for mark in old_marks(place):
                self.disk.remove(mark)
        self.disk.rename(now, mark_of(place, state))
        self.disk.sync(place)
        return replace(entry, state=state)

    def _digest(self, changed: Changed) -> str | None:
        return digest_of(bytes_of(target_of(self.folder, changed)))

    # -- files

    def _write_beside(self, entry: Entry, side: str, place: Path, but: Collection[Changed] = ()) -> None:
        """Write down beside each file what it shall hold, unless it holds that, or it has been written."""
        for changed in entry.files:
            if changed in but:
                continue
            target = target_of(self.folder, changed)
            real, wanted = _real(target), changed.on(side)
            if wanted is None or wanted in (self._digest(changed), digest_of(bytes_of(_beside(real)))):
                continue
            for folder in reversed([path for path in real.parents if not path.exists()]):
                self.disk.make_folder(folder)
            data = entry.content(place, changed, side)
            self.disk.write(_beside(real), data, real if real.exists() else None)

    def _put_in_place(self, files: Sequence[Changed], side: str) -> None:
        """Give each file what was written beside it, the ones that use the others last."""
        for changed in files if side == "after" else reversed(files):
            real = _real(self.folder / changed.path)
            if self._digest(changed) == changed.on(side):
                continue
            if real.exists():
                self.disk.keep(real, _saved(real))
            if changed.on(side) is None:
                self.disk.remove(real)
            else:
                self.disk.rename(_beside(real), real)
            self.disk.sync(real.parent)

    def _put_back(self, entry: Entry) -> None:
        """Give files back what they held when they were last put in place; this needs no room."""
        for changed in entry.files if entry.state.side == "after" else reversed(entry.files):
            real = _real(self.folder / changed.path)
            if os.path.lexists(_saved(real)):
                if bytes_of(_saved(real)) != bytes_of(real):
                    self.disk.rename(_saved(real), real)
            elif changed.on(entry.state.side) is None and self._digest(changed) is not None:
                self.disk.remove(real)
        self._sweep(entry)

    def _sweep(self, entry: Entry) -> None:
        """Remove what stands beside the files, and the folders that are empty now."""
        for changed in entry.files:
            real = _real(self.folder / changed.path)
            if not real.parent.is_dir():
                continue
            left = [_beside(real), _saved(real), *real.parent.glob(f".{glob.escape(real.name)}.kept*.aedifex")]
            for beside in filter(os.path.lexists, left):
                self.disk.remove(beside)
            self._remove_empty_folders(real.parent)

    def _remove_empty_folders(self, folder: Path) -> None:
        root = _real(self.folder)
        while folder != root and root in folder.parents and not any(folder.iterdir()):
            self.disk.remove_folder(folder)
            folder = folder.parent

    def _drop(self, place: Path) -> None:
        """Remove a folder of the journal with all that is in it."""
        if not place.is_dir() or place.is_symlink():
            return
        for path in sorted(place.iterdir()):
            if path.is_dir() and not path.is_symlink():
                self._drop(path)
            else:
                self.disk.remove(path)
        self.disk.remove_folder(place)

    # -- after a call that did not come to its end

    def _settle(self) -> None:
        for staged in sorted(self.home.glob("new-*")):
            if about_of(staged).exists():
                with contextlib.suppress(RefusedError):
                    self._sweep(read_entry(staged))
            self._drop(staged)
            self.settled.append("An earlier call was interrupted before it changed anything; what it prepared is gone.")
        for entry in self.entries():
            if entry.state.is_under_way:
                self._finish(entry)
            else:
                self._sweep(entry)

    def _finish(self, entry: Entry) -> None:
        """Bring a half-done change to an end: where it was going, or where a file that was edited since belongs."""
        known = [{f.before, f.after, *entry.overwrites} for f in entry.files]
        edited = [f for f, digests in zip(entry.files, known, strict=True) if self._digest(f) not in digests]
        side = self._nearer_side(entry, edited) if edited else entry.state.side
        way = entry.state if side == entry.state.side else State.UNDOING if side == "before" else State.REDOING
        rest = [f for f in entry.files if f not in edited]
        self._write_beside(entry, side, self._place(entry), edited)
        if way is not entry.state:
            entry = self._mark(entry, way)
        self._put_in_place(rest, side)
        self._sweep(entry)
        self._mark(entry, way.end)
        done = "it is finished now" if side == "after" else "what it did is taken back"
        self.settled.append(f"An earlier call was interrupted: {done} ({entry.what}).")
        self.settled += [f"{f.path} was edited since and is left as it is." for f in edited]

    def _nearer_side(self, entry: Entry, edited: list[Changed]) -> str:
        """The side that edited files have been made from: the one that they are more like."""
        place, likeness = self._place(entry), {"before": 0.0, "after": 0.0}
        for changed in edited:
            now = (bytes_of(self.folder / changed.path) or b"").splitlines()
            for side in likeness:
                then = entry.content(place, changed, side).splitlines() if changed.on(side) is not None else []
                likeness[side] += difflib.SequenceMatcher(None, now, then, autojunk=False).ratio()
        if likeness["before"] == likeness["after"]:
            return entry.state.side
        return max(likeness, key=lambda side: likeness[side])


def _check_target(path: Path, read: bytes | None) -> None:
    now = bytes_of(path)
    if read is None and now is not None:
        raise RefusedError("this file is there already", Place(path), "Delete it, or choose another file name.")
    if now != read:
        raise RefusedError("this file was edited while the change was worked out", Place(path), "Try again.")
    if read is not None and os.stat(path).st_nlink > 1:
        reason = "this file has another name, a hard link, which would keep the old text"
        raise RefusedError(reason, Place(path), "Make a copy of its own first, or use --into DIR.")
    if read is not None and not os.stat(path).st_mode & 0o222:
        raise RefusedError("this file is read-only", Place(path), "Make it writable first, or use --into DIR.")


def _edited(folder: Path, files: list[Changed], way: State) -> RefusedError:
    command = "undo" if way is State.UNDOING else "redo"
    advice = f"`aedifex {command} --keep-copy` saves the edited file beside it and goes on."
    first, *others = [
        RefusedError("this file was edited since, or is gone", Place(folder / f.path), advice) for f in files
    ]
    return RefusedError(first.reason, first.place, first.advice, tuple(others))


@contextlib.contextmanager
def _in_words(path: Path) -> Iterator[None]:
    try:
        yield
    except OSError as error:
        place = Place(Path(error.filename)) if isinstance(error.filename, str) else Place(path)
        raise RefusedError(
            f"cannot be written: {error.strerror}", place, "Make room, or the folder writable, or use --into DIR."
        ) from None


def _real(target: Path) -> Path:
    """The file that a path leads to, through links."""
    return Path(os.path.realpath(target))


def _beside(target: Path) -> Path:
    return target.with_name(f".{target.name}.aedifex")


def _saved(target: Path) -> Path:
    return target.with_name(f".{target.name}.aedifex-saved")
