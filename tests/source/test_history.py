"""The journal: whole changes or none, every byte back, nothing lost."""

from __future__ import annotations

import contextlib
import itertools
import json
import os
from pathlib import Path

import pytest

from aedifex.source.errors import RefusedError
from aedifex.source.history import FOLDER, History, State
from aedifex.source.history.entry import digest_of
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
    folder = tmp_path / "work"
    real = folder / "inner" / "script.py"
    real.parent.mkdir(parents=True)
    real.write_bytes(OLD)
    (folder / "script.py").symlink_to("inner/script.py")
    change(folder)
    assert (folder / "script.py").is_symlink()
    assert real.read_bytes() == NEW
    undo(folder)
    assert (folder / "script.py").is_symlink()
    assert real.read_bytes() == OLD


def test_a_link_out_of_the_folder_is_refused(tmp_path):
    (tmp_path / "elsewhere.py").write_bytes(OLD)
    folder = tmp_path / "work"
    folder.mkdir()
    (folder / "script.py").symlink_to("../elsewhere.py")
    with pytest.raises(RefusedError, match="leads out of the folder"):
        change(folder)
    assert (tmp_path / "elsewhere.py").read_bytes() == OLD
    assert sorted(p.name for p in folder.iterdir()) == ["script.py"]


def test_two_calls_at_once_are_kept_apart(folder):
    with locked(folder), pytest.raises(RefusedError, match="another call"):
        change(folder)
    change(folder)


def test_a_damaged_journal_is_said(folder):
    change(folder)
    (folder / FOLDER / "0001" / "entry.json").write_text("{")
    with pytest.raises(RefusedError, match="damaged"):
        undo(folder)


def test_what_was_taken_back_can_be_done_again(folder):
    change(folder)
    undo(folder)
    with History.opened(folder) as history:
        assert history.redo().entry.state is State.DONE
    assert (folder / "script.py").read_bytes() == NEW
    assert (folder / "part/thing.py").read_bytes() == b"y = 2\n"
    with History.opened(folder) as history, pytest.raises(RefusedError, match="nothing was taken back"):
        history.redo()
    undo(folder)
    assert (folder / "script.py").read_bytes() == OLD


def test_a_new_change_ends_what_could_be_done_again(folder):
    change(folder)
    undo(folder)
    with History.opened(folder) as history:
        history.record("step", {folder / "script.py": OLD}, {folder / "script.py": b"3"})
        with pytest.raises(RefusedError, match="nothing was taken back"):
            history.redo()


def test_an_entry_of_the_first_format_is_understood(folder):
    change(folder)
    place = folder / FOLDER / "0001"
    (place / "state.done").unlink()
    about = json.loads((place / "entry.json").read_text())
    (place / "entry.json").write_text(json.dumps({**about, "format": 1}))
    (place / "under-way").touch()
    (folder / "script.py").write_bytes(OLD)
    with History.opened(folder) as history:
        assert [entry.state for entry in history.entries()] == [State.DONE]
    assert (folder / "script.py").read_bytes() == NEW
    undo(folder)
    assert (folder / "script.py").read_bytes() == OLD


HOSTILE = [
    "../outside.py",
    "/outside.py",
    "a/../../outside.py",
    "link/outside.py",
    "..",
    "",
    ".aedifex/0001/entry.json",
    "x\0y",
    3,
    None,
    ["script.py"],
    {"path": 1},
]


@pytest.mark.parametrize("path", HOSTILE)
@pytest.mark.parametrize("state", list(State))
@pytest.mark.parametrize("digests", [(None, "after"), ("before", None), (3, 4)])
def test_a_hostile_journal_does_nothing_outside(tmp_path, path, state, digests):
    outside, folder = tmp_path / "outside.py", tmp_path / "work"
    outside.write_bytes(b"theirs")
    place = folder / FOLDER / "0001"
    place.mkdir(parents=True)
    (folder / "script.py").write_bytes(OLD)
    (folder / "link").symlink_to(tmp_path)
    contents = {"before": b"theirs", "after": b"evil"}
    for side, data in contents.items():
        (place / f"0.{side}").write_bytes(data)
    known = [digest_of(contents[d]) if isinstance(d, str) else d for d in digests]
    files = [{"path": path, "before": known[0], "after": known[1]}]
    (place / "entry.json").write_text(json.dumps({"format": 2, "when": "x", "what": "y", "files": files}))
    (place / f"state.{state.value}").touch()
    for turn in ("undo", "redo"):
        with contextlib.suppress(RefusedError), History.opened(folder) as history:
            getattr(history, turn)(keep_copies=True)
    assert outside.read_bytes() == b"theirs"
    assert sorted(p.name for p in tmp_path.iterdir()) == ["outside.py", "work"]
    assert (folder / "script.py").read_bytes() == OLD


@pytest.mark.parametrize("what", ["journal", "entry", "about", "content"])
def test_links_in_the_journal_lead_nowhere(tmp_path, what):
    folder, secret = tmp_path / "work", tmp_path / "secret"
    folder.mkdir()
    secret.mkdir()
    (folder / "script.py").write_bytes(OLD)
    change(folder)
    home = folder / FOLDER
    place = home / "0001"
    moved = {"journal": home, "entry": place, "about": place / "entry.json", "content": place / "1.before"}[what]
    os.rename(moved, secret / "x")
    moved.symlink_to(secret / "x")
    with pytest.raises(RefusedError):
        undo(folder)
    assert (folder / "script.py").read_bytes() == NEW


@pytest.mark.parametrize(
    "text",
    ["", "{", "[]", "3", "null", '{"format": 2}', '{"format": 9, "when": "", "what": "", "files": []}', "[" * 100_000,
     '{"format": 2, "when": 3, "what": "", "files": []}', '{"format": 2, "when": "", "what": "", "files": [3]}',
     '{"format": 2, "when": "", "what": "", "files": {"a": 1}}', "\ud800"],
)  # fmt: skip
def test_an_entry_that_says_nonsense_is_damaged(folder, text):
    change(folder)
    (folder / FOLDER / "0001" / "entry.json").write_bytes(text.encode("utf-8", "surrogatepass"))
    with pytest.raises(RefusedError, match="damaged"):
        undo(folder)
    assert (folder / "script.py").read_bytes() == NEW
