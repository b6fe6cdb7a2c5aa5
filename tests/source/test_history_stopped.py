"""The journal, stopped before every operation, then before every operation of what puts that right.

The model: a folder holds a program of two files, `ferry.py`, which is new, and `script.py`, which uses it, beside one
that is only changed. A call brings it from the old program to the new one or back. At every moment the program is the
old or the new one; after the next call it is that for good, the history says which, and what the user wrote is there.
"""

from __future__ import annotations

import contextlib
import itertools
import os
from collections.abc import Callable
from pathlib import Path

import pytest

from aedifex.source.errors import RefusedError
from aedifex.source.history import FOLDER, History, State
from aedifex.source.history.disk import Disk

OLD = {"script.py": b"level = 1\nprint(level)\n", "data.py": b"tides = [1]\n"}
NEW = {
    "script.py": b"from part.ferry import level\nprint(level)\n",
    "data.py": b"tides = (1,)\n",
    "part/ferry.py": b"level = 1\n",
}
STRIDE = int(os.environ.get("AEDIFEX_STRIDE", "13"))  # of the recovery's operations, in the suite; 1 is all of them
EDITS = [None, ("script.py", b"# mine\n", b""), ("data.py", b"", b"# mine\n"), ("part/ferry.py", b"# mine\n", b"")]


class Stopped(BaseException):
    """The machine is switched off."""


class StoppingDisk(Disk):
    """Does so many operations; what is written then is written in half. `is_full` says that it fails instead."""

    def __init__(self, operations: int, is_full: bool = False) -> None:
        self.left = operations
        self.is_full = is_full
        self.done = 0

    def step(self, needs_room: bool = False) -> None:
        self.done += 1
        self.left -= 1
        if self.left < 0 and not self.is_full:
            raise Stopped
        if self.left < 0 and (needs_room or self.left == -1):
            raise OSError(28, "No space left on device")

    def make_folder(self, path: Path) -> None:
        self.step(needs_room=True)
        super().make_folder(path)

    def write(self, path: Path, data: bytes, like: Path | None = None) -> None:
        try:
            self.step(needs_room=True)
        except BaseException:
            path.write_bytes(data[: len(data) // 2])
            raise
        path.unlink(missing_ok=True)
        path.write_bytes(data)

    def keep(self, path: Path, saved: Path) -> None:
        self.step()
        super().keep(path, saved)

    def rename(self, source: Path, target: Path) -> None:
        self.step()
        super().rename(source, target)

    def remove(self, path: Path) -> None:
        self.step()
        super().remove(path)

    def remove_folder(self, path: Path) -> None:
        self.step()
        super().remove_folder(path)

    def sync(self, folder: Path) -> None:
        with contextlib.suppress(OSError):
            self.step()


def state(folder: Path) -> dict[str, bytes]:
    found = {p.relative_to(folder).as_posix(): p for p in folder.rglob("*") if p.is_file()}
    return {name: path.read_bytes() for name, path in found.items() if not name.startswith(FOLDER)}


def is_whole(files: dict[str, bytes]) -> bool:
    """Whether the program that starts with the script finds all it needs."""
    return b"ferry" not in files["script.py"] or files.get("part/ferry.py", b"").endswith(NEW["part/ferry.py"])


def record(history: History) -> None:
    folder = history.folder
    order = ["part/ferry.py", "data.py", "script.py"]
    history.record("build", {folder / n: OLD.get(n) for n in order}, {folder / n: NEW[n] for n in order})


def undo(history: History) -> None:
    history.undo(keep_copies=True)


def redo(history: History) -> None:
    history.redo(keep_copies=True)


CALLS: dict[str, tuple[list[Callable[[History], None]], Callable[[History], None]]] = {
    "record": ([], record),
    "record again": ([record, undo], record),
    "undo": ([record], undo),
    "redo": ([record, undo], redo),
    "undo what was done again": ([record, undo, redo], undo),
}


def prepared(folder: Path, before: list[Callable[[History], None]]) -> None:
    folder.mkdir()
    for name, data in OLD.items():
        (folder / name).write_bytes(data)
    for call in before:
        with History.opened(folder, QUICK) as history:
            call(history)


class QuickDisk(StoppingDisk):
    """One that never stops."""

    def step(self, needs_room: bool = False) -> None:
        """Nothing stops it."""


QUICK = QuickDisk(0)


def stop_at(folder: Path, call: Callable[[History], None], disk: Disk) -> bool:
    """Whether the call was stopped; a refusal is an end."""
    try:
        with History.opened(folder, disk) as history:
            call(history)
    except Stopped:
        return True
    except RefusedError:
        return False
    return False


def nothing(history: History) -> None:
    """Only what was left half done is put right."""


def edit(folder: Path, which: tuple[str, bytes, bytes] | None) -> bytes | None:
    """The user's own change of a file, made in what stands there; None where it is not there."""
    if which is None or not (folder / which[0]).exists():
        return None
    text = which[1] + (folder / which[0]).read_bytes() + which[2]
    (folder / which[0]).write_bytes(text)
    return text


def check(folder: Path, mine: bytes | None, which: tuple[str, bytes, bytes] | None) -> None:
    """All that must hold once a call has come to its end."""
    with History.opened(folder, QUICK) as history:
        entries = history.entries()
    files = state(folder)
    is_new = bool(entries) and entries[-1].state is State.DONE
    assert not any(entry.state.is_under_way for entry in entries)
    wanted = dict(NEW if is_new else OLD)
    if mine is not None:
        assert which is not None
        assert mine in files.values()
        if files.get(which[0]) == mine:
            wanted[which[0]] = mine
    kept = {name for name in files if ".kept" in name}
    assert {name: data for name, data in files.items() if name not in kept} == wanted
    assert is_whole(files)
    assert not list((folder / FOLDER).glob("new-*"))


@pytest.mark.parametrize("name", CALLS)
def test_stopped_before_every_operation_and_every_operation_of_the_recovery(tmp_path, name):
    before, call = CALLS[name]
    cases = 0
    for first, which in ((number, which) for number in itertools.count() for which in EDITS):
        ended = False
        for second in itertools.count(first % STRIDE, STRIDE):
            folder = tmp_path / f"{first}-{EDITS.index(which)}-{second}"
            prepared(folder, before)
            ended = not stop_at(folder, call, StoppingDisk(first))
            assert is_whole(state(folder))
            assert state(folder)["script.py"] in (OLD["script.py"], NEW["script.py"])
            mine = None if ended else edit(folder, which)
            was_recovered = not stop_at(folder, nothing, StoppingDisk(second))
            assert "script.py" in state(folder)
            stop_at(folder, nothing, QUICK)
            check(folder, mine, which)
            turned(folder)
            cases += 1
            if ended or was_recovered:
                break
        if ended and which is EDITS[-1]:
            break
    assert cases > 100


def turned(folder: Path) -> None:
    """Taking back and doing again work on what has been put right."""
    for call, wanted in ((undo, OLD), (redo, NEW), (undo, OLD)):
        with contextlib.suppress(RefusedError), History.opened(folder, QUICK) as history:
            call(history)
            found = state(folder)
            assert {name: data for name, data in found.items() if ".kept" not in name} == wanted


@pytest.mark.parametrize("name", CALLS)
def test_a_full_disk_at_every_operation_leaves_all_as_it_was(tmp_path, name):
    before, call = CALLS[name]
    for operation in itertools.count():
        folder = tmp_path / str(operation)
        prepared(folder, before)
        was = state(folder)
        with History.opened(folder, QUICK) as history:
            marks = [entry.state for entry in history.entries()]
        disk = StoppingDisk(operation, is_full=True)
        try:
            with History.opened(folder, disk) as history:
                call(history)
        except RefusedError:
            found = state(folder)
            assert {n: d for n, d in found.items() if not n.endswith((".aedifex", "-saved"))} in (was, OLD, NEW)
            with History.opened(folder, QUICK) as history:
                settled = [entry.state for entry in history.entries()]
                if not history.settled:
                    assert settled[: len(marks)] == marks
            check(folder, None, None)
            continue
        if disk.left >= 0:
            break


def test_an_interrupted_call_can_be_repeated(tmp_path):
    for operation in range(60):
        folder = tmp_path / str(operation)
        prepared(folder, [record])
        (folder / "script.py").write_bytes(b"mine\n")
        stop_at(folder, undo, StoppingDisk(operation))
        for _ in range(3):
            stop_at(folder, undo, QUICK)
        found = state(folder)
        assert {name: found[name] for name in OLD} == OLD
        assert b"mine\n" in found.values()
