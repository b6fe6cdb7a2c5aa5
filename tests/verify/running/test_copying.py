"""The copy that a program runs in, and what is said of what became of it."""

from __future__ import annotations

import os

import pytest

from aedifex.source.errors import RunError
from aedifex.verify.running.copying import copy_folders, size_of
from aedifex.verify.running.written import snapshot, written

LEFT_OUT = (".venv", "__pycache__", "*.pyc")


def sparse(path, size: int) -> None:
    path.parent.mkdir(exist_ok=True)
    with path.open("wb") as file:
        file.truncate(size)


@pytest.fixture
def folders(tmp_path):
    (tmp_path / "quay").mkdir()
    (tmp_path / "quay" / "tide.py").write_text("print(1)\n")
    return tmp_path / "quay", tmp_path / "copy"


def test_environments_and_caches_are_neither_counted_nor_copied(folders):
    quay, copy = folders
    for name in (".venv/big", ".git/big", "__pycache__/big", "node_modules/big"):
        sparse(quay / name, 300_000_000)
    sparse(quay / "tide.pyc", 300_000_000)
    copy_folders([quay], copy, LEFT_OUT)
    assert sorted(os.listdir(copy)) == ["tide.py"]


def test_what_is_too_large_is_said(folders):
    quay, copy = folders
    sparse(quay / "data" / "big", 300_000_000)
    with pytest.raises(RunError, match="more than 200 MB"):
        copy_folders([quay], copy, LEFT_OUT)


def test_many_files_are_copied(folders):
    quay, copy = folders
    for number in range(3000):
        (quay / f"{number}.txt").write_text("x")
    copy_folders([quay], copy, LEFT_OUT)
    assert len(os.listdir(copy)) == 3001
    assert size_of(copy, 10**9) == 3000 + len("print(1)\n")


def test_links_lead_to_the_same_things(folders, tmp_path):
    quay, copy = folders
    (tmp_path / "outside.txt").write_text("outside")
    for name, target in {
        "inside": "tide.py",
        "absolute": str(quay / "tide.py"),
        "outside": "../outside.txt",
        "broken": "nowhere",
        "circle": "circle",
        "folder": ".",
    }.items():
        (quay / name).symlink_to(target)
    copy_folders([quay], copy, LEFT_OUT)
    assert os.readlink(copy / "inside") == "tide.py"
    assert os.readlink(copy / "absolute") == str(copy / "tide.py")
    assert (copy / "outside").read_text() == "outside"
    assert os.readlink(copy / "broken") == "nowhere"
    assert (copy / "folder" / "tide.py").exists()


def test_the_second_folder_lies_over_the_first(folders, tmp_path):
    quay, copy = folders
    over = tmp_path / "over"
    over.mkdir()
    (over / "tide.py").write_text("print(2)\n")
    (quay / "tide.py").chmod(0o444)
    copy_folders([quay, over], copy, LEFT_OUT)
    assert (copy / "tide.py").read_text() == "print(2)\n"


def test_what_became_of_files_is_told_once_and_in_order(folders):
    quay, copy = folders
    (quay / "gone.txt").write_text("x")
    (quay / "same.txt").write_text("x")
    copy_folders([quay], copy, LEFT_OUT)
    before = snapshot(copy)
    (copy / "gone.txt").unlink()
    (copy / "same.txt").write_text("x")
    (copy / "new\nline").write_bytes(b"\xff")
    (copy / "large").write_bytes(bytes(5000))
    (copy / "logs").mkdir()
    os.mkfifo(copy / "pipe")
    (copy / "link").symlink_to("tide.py")
    (copy / "tide.py").chmod(0o700)
    told = list(written(copy, before, snapshot(copy), [quay]))
    assert told == [
        "deletes the file gone.txt",
        "writes the file large: 5000 bytes, " + told[1][-16:],
        "makes the link link, to tide.py",
        "makes the folder logs",
        r"writes the file 'new\nline': b'\xff'",
        "makes the pipe pipe",
        "gives the file tide.py the mode 700",
    ]


def test_a_folder_that_is_gone_has_nothing_in_it(tmp_path):
    assert snapshot(tmp_path / "gone") == {}
