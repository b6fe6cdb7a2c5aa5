"""A rewriting in place, killed at every file operation: the folder is whole, and the next call says what it did."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

from aedifex.source.history import FOLDER

SCRIPT = """\
kite_height = 3
kite_line = 10


def fly_kite():
    global kite_height, kite_line
    kite_height += 1
    kite_line -= 1


for gust in range(4):
    fly_kite()
    print(kite_height, kite_line)
"""

# Kills the process just before its file operation number N inside the folder; the audit events are the interpreter's.
_KILLED = """
import os, sys
left, folder = int(sys.argv[1]), sys.argv[2]
def hook(event, arguments):
    global left
    writes = event == "open" and isinstance(arguments[2], int) and arguments[2] & (os.O_WRONLY | os.O_RDWR | os.O_CREAT)
    changes = event in ("os.rename", "os.remove", "os.mkdir", "os.rmdir", "os.chmod", "os.truncate", "os.link")
    if (writes or changes) and any(str(a).startswith(folder) for a in arguments if isinstance(a, (str, os.PathLike))):
        left -= 1
        if left < 0:
            os._exit(9)
sys.addaudithook(hook)
sys.argv = ["aedifex", *sys.argv[3:]]
from aedifex.cli.main import main
main()
"""


def killed(operation: int, folder: Path, *arguments: str) -> int:
    command = [sys.executable, "-c", _KILLED, str(operation), str(folder), *arguments]
    return subprocess.run(command, capture_output=True, check=False, cwd=folder).returncode


def state(folder: Path) -> dict[str, bytes]:
    return {p.name: p.read_bytes() for p in folder.iterdir() if p.is_file()}


def printed(folder: Path) -> str:
    command = [sys.executable, "-B", "kite.py"]
    return subprocess.run(command, cwd=folder, capture_output=True, text=True, check=True).stdout


def test_killed_at_every_operation(cli, tmp_path):
    first = tmp_path / "first"
    first.mkdir()
    (first / "kite.py").write_text(SCRIPT)
    assert cli("draft", first / "kite.py").returncode == 0
    old, expected = state(first), printed(first)
    assert cli("build", first / "kite.design.toml", "--in-place").returncode == 0
    new = state(first)
    assert new != old
    operation = 0
    seen = set()
    while True:
        folder = tmp_path / f"at{operation}"
        folder.mkdir()
        for name, data in old.items():
            (folder / name).write_bytes(data)
        code = killed(operation, folder, "build", str(folder / "kite.design.toml"), "--in-place")
        if code == 0:
            break
        assert code == 9
        assert printed(folder) == expected
        journal = folder / FOLDER
        is_half_done = any(journal.glob("new-*")) or any(journal.glob("*/state.*ing"))
        told = cli("redo", folder)  # there is nothing to do again, but it puts right what was left half done
        assert told.returncode == 3
        assert state(folder) in (old, new)
        assert ("interrupted" in told.stderr) == is_half_done
        seen.add(told.stderr.partition(":")[2].split(";")[0])
        if state(folder) == new:
            killed_undo(cli, folder, old, new, operation)
        operation += 1
    assert any("finished" in words for words in seen)
    assert operation > 12


def killed_undo(cli, folder: Path, old: dict[str, bytes], new: dict[str, bytes], operation: int) -> None:
    """Taking back is killed too; each folder tries another moment."""
    code = killed(operation % 12, folder, "undo", str(folder))
    assert code in (0, 9)
    assert cli("history", folder).returncode == 0
    assert cli("undo", folder).returncode in (0, 3)
    assert state(folder) == old
