"""Each move's own example does what it shows."""

from __future__ import annotations

import shlex
import subprocess
import sys

import pytest

from aedifex.moves.registry import by_hand, descriptions


@pytest.mark.parametrize("description", by_hand().values(), ids=lambda description: description.name)
def test_the_example_of_a_move(description, cli, tmp_path):
    example = description.example
    script = tmp_path / "harbour.py"
    script.write_text(example.before)
    for name, text in example.beside.items():
        (tmp_path / name).write_text(text)
    before = _output(tmp_path)
    done = cli("step", description.name, "harbour.py", *shlex.split(example.words))
    assert done.returncode == 0, done.stderr
    assert {path.name: path.read_text() for path in tmp_path.glob("*.py")} == {**example.beside, **example.after}
    assert _output(tmp_path) == before


def _output(folder) -> str:
    command = [sys.executable, "-B", "harbour.py"]
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
