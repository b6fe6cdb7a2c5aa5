"""The journal: whole changes or none, every byte back, nothing lost."""

from __future__ import annotations

import itertools
import os
from pathlib import Path

import pytest

from aedifex.source.errors import RefusedError
from aedifex.source.history import FOLDER, History
from aedifex.source.locking import locked

OLD, NEW = b"# old\r\nx = 1", b"# new\n"


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / "script.py").write_bytes(OLD)
    return tmp_path


def change(folder: Path, *, also: str = "part/thing.py") -> None:
    script, new = folder / "script.py", folder / also
    with History.opened(folder) as history:
        history.record("build script.py", {new: None, script: OLD}, {new: b"y = 2\n", script: NEW})


def undo(folder: Path, *, keep_copies: bool = False):
    with History.opened(folder) as history:
        return history.undo(keep_copies=keep_copies)


def test_a_change_is_made_and_taken_back_byte_for_byte(folder):
    os.chmod(folder / "script.py", 0o755)
    change(folder)
    assert (folder / "script.py").read_bytes() == NEW
    assert (folder / "part/thing.py").read_bytes() == b"y = 2\n"
    assert (folder / "script.py").stat().st_mode & 0o777 == 0o755
    undo(folder)
    assert (folder / "script.py").read_bytes() == OLD
    assert sorted(p.name for p in folder.iterdir()) == [FOLDER, "script.py"]


def test_changes_are_taken_back_one_after_the_other(folder):
    script = folder / "script.py"
    texts = [OLD, b"1", b"2", b"3"]
    for before, after in itertools.pairwise(texts):
        with History.opened(folder) as history:
            history.record("step", {script: before}, {script: after})
    for expected in (b"2", b"1", OLD):
        undo(folder)
        assert script.read_bytes() == expected
    with pytest.raises(RefusedError, match="nothing was changed"):
        undo(folder)
    with History.opened(folder) as history:
        assert [entry.undone for entry in history.entries()] == [True] * 3


def test_undo_refuses_when_a_file_was_edited_and_names_each(folder):
    change(folder)
    (folder / "script.py").write_bytes(b"mine")
    (folder / "part/thing.py").unlink()
    with pytest.raises(RefusedError) as caught:
        undo(folder)
    named = {error.place.path.name for error in (caught.value, *caught.value.others)}
    assert named == {"script.py", "thing.py"}
    assert (folder / "script.py").read_bytes() == b"mine"


def test_undo_with_copies_saves_the_edited_file(folder):
    change(folder)
    (folder / "script.py").write_bytes(b"mine")
    (folder / "script.py.kept").write_bytes(b"an older copy")
    undone = undo(folder, keep_copies=True)
    assert [path.name for path in undone.kept] == ["script.py.kept-2"]
    assert undone.kept[0].read_bytes() == b"mine"
    assert (folder / "script.py.kept").read_bytes() == b"an older copy"
    assert (folder / "script.py").read_bytes() == OLD


def test_a_file_that_is_there_or_was_edited_meanwhile_is_refused(folder):
    script, new = folder / "script.py", folder / "new.py"
    new.write_bytes(b"mine")
    with History.opened(folder) as history:
        with pytest.raises(RefusedError, match="there already"):
            history.record("build", {new: None, script: OLD}, {new: b"", script: NEW})
        with pytest.raises(RefusedError, match="edited while"):
            history.record("build", {script: b"what we read"}, {script: NEW})
    assert new.read_bytes() == b"mine"
    assert not (folder / FOLDER).exists()


def test_a_read_only_file_is_refused(folder):
    os.chmod(folder / "script.py", 0o444)
    with pytest.raises(RefusedError, match="read-only"):
        change(folder)
    assert sorted(p.name for p in folder.iterdir()) == ["script.py"]


def test_a_link_stays_a_link(tmp_path):
    real = tmp_path / "elsewhere" / "script.py"
    real.parent.mkdir()
    real.write_bytes(OLD)
    folder = tmp_path / "work"
    folder.mkdir()
    (folder / "script.py").symlink_to(real)
    change(folder)
    assert (folder / "script.py").is_symlink()
    assert real.read_bytes() == NEW
    undo(folder)
    assert (folder / "script.py").is_symlink()
    assert real.read_bytes() == OLD


def test_two_calls_at_once_are_kept_apart(folder):
    with locked(folder), pytest.raises(RefusedError, match="another call"):
        change(folder)
    change(folder)


def test_a_damaged_journal_is_said(folder):
    change(folder)
    (folder / FOLDER / "0001" / "entry.json").write_text("{")
    with pytest.raises(RefusedError, match="damaged"):
        undo(folder)


def test_what_cannot_be_written_leaves_all_as_it_was(folder, monkeypatch):
    real = os.replace

    def full_disk(source, target):
        if Path(target).name == "script.py":
            raise OSError(28, "No space left on device", str(target))
        real(source, target)

    monkeypatch.setattr(os, "replace", full_disk)
    with pytest.raises(RefusedError, match="No space left"):
        change(folder)
    monkeypatch.undo()
    assert (folder / "script.py").read_bytes() == OLD
    assert not (folder / "part").exists()
    with History.opened(folder) as history:
        assert history.entries() == []


def test_an_edited_file_is_left_alone_when_a_half_done_change_is_taken_back(folder):
    change(folder)
    entry = folder / FOLDER / "0001"
    (entry / "under-way").touch()
    (folder / "script.py").write_bytes(b"mine")
    with History.opened(folder) as history:
        assert any("left as it is" in words for words in history.settled)
    assert (folder / "script.py").read_bytes() == b"mine"
    assert not (folder / "part").exists()
