"""The examples of the documentation do what is written there."""

from __future__ import annotations

import re
import shlex
from pathlib import Path

import pytest

_DOCS = Path(__file__).parents[2] / "docs"
_EXAMPLE = re.compile(
    r"```python\n(# aedifex (?P<command>[^\n]*)\n(?P<text>.*?))```\n"
    r"\n(?:> refused: (?P<refused>[^\n]*)|becomes\n\n```python\n(?P<result>.*?)```)",
    re.DOTALL,
)
_EXAMPLES = [
    pytest.param(found, id=f"{path.stem}-{number}")
    for path in sorted(_DOCS.glob("*.md"))
    for number, found in enumerate(_EXAMPLE.finditer(path.read_text("utf-8")), 1)
]


def test_there_are_examples():
    assert len(_EXAMPLES) > 10


@pytest.mark.parametrize("found", _EXAMPLES)
def test_an_example_does_what_it_says(found, cli, tmp_path):
    script = tmp_path / "quay.py"
    script.write_text(found[1])
    done = cli(*shlex.split(found["command"]))
    if found["refused"]:
        assert done.returncode == 3
        assert found["refused"] in done.stderr
        assert script.read_text() == found[1]
    else:
        assert done.returncode == 0, done.stderr
        assert script.read_text().replace(f"# aedifex {found['command']}\n", "") == found["result"]
