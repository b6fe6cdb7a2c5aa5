"""Each move's own example does what it shows."""

from __future__ import annotations

import shlex
import shutil
import subprocess
import sys

import pytest

from aedifex.moves.registry import by_hand, descriptions


@pytest.mark.parametrize("description", by_hand().values(), ids=lambda description: description.name)
def test_the_example_of_a_move(description, cli, tmp_path):
    example = description.example
    script = tmp_path / f"harbour{_SUFFIXES[example.language]}"
    script.write_text(example.before)
    for name, text in example.beside.items():
        (tmp_path / name).write_text(text)
    before = _output(script)
    done = cli("step", description.name, script.name, *shlex.split(example.words))
    assert done.returncode == 0, done.stderr
    made = {path.name: path.read_text() for path in tmp_path.glob(f"*{script.suffix}")}
    assert made == {**example.beside, **example.after}
    assert _output(script) == before


_SUFFIXES = {"python": ".py", "javascript": ".js"}


def _output(script) -> str:
    """What a script says; nothing where what would run it is not there, or a library that it needs."""
    folder, is_python = script.parent, script.suffix == ".py"
    if not is_python and (shutil.which("node") is None or "express" in script.read_text()):
        return ""
    command = [sys.executable, "-B", script.name] if is_python else ["node", script.name]
    return subprocess.run(command, cwd=folder, input="Ada\n", capture_output=True, text=True, check=True).stdout


@pytest.mark.parametrize("description", descriptions(), ids=lambda description: description.name)
def test_what_a_move_says_of_itself(description):
    first, second = description.summary.split("\n")
    assert first.endswith(".") and second.endswith(".")
    assert description.make is None or (description.help and description.example and description.term)


def test_each_file_of_the_folder_is_a_move():
    import aedifex.moves

    folder = next(iter(aedifex.moves.__path__))
    from pathlib import Path

    files = {path.stem for path in Path(folder).glob("*.py")} - {"__init__", "registry"}
    assert files == {description.name for description in descriptions()}
