"""The examples of the documentation do what is written there."""

from __future__ import annotations

import re
import shlex
import shutil
from pathlib import Path

import pytest

from aedifex.demo import copy_sample, samples

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


_BLOCK = re.compile(r"```python\n# (?P<file>\w+\.py)\n(?P<text>.*?)```", re.DOTALL)
_RESULTS = [part for part in (_DOCS / "results.md").read_text("utf-8").split("\n## ") if "\nbecomes\n" in part]

_CONSOLE = re.compile(r"```console\n(.*?)```", re.DOTALL)
_PAGES = [
    path for path in [*sorted(_DOCS.glob("*.md")), _DOCS.parent / "README.md"] if _CONSOLE.search(path.read_text())
]


@pytest.mark.parametrize("page", _PAGES, ids=lambda page: page.stem)
def test_the_commands_of_a_page_say_what_is_shown(page, cli, tmp_path):
    for name in samples():
        copy_sample(name, tmp_path / name)
        for path in (tmp_path / name).iterdir():
            shutil.copy(path, tmp_path)
    commands = "".join(_CONSOLE.findall(page.read_text())).split("$ aedifex ")[1:]
    assert commands
    for text in commands:
        command, *shown = text.strip("\n").split("\n")
        done = cli(*shlex.split(command))
        assert done.returncode == 0, command + done.stderr
        said = [line.rstrip() for line in done.stdout.splitlines()]
        for line in shown:
            assert line == "…" or line.rstrip() in said, f"{command} does not say {line!r}"
        if "…" not in shown:
            assert said[: len(shown)] == [line.rstrip() for line in shown]


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


@pytest.mark.parametrize("part", _RESULTS, ids=lambda part: part.split("\n")[0])
def test_a_result_is_what_comes_of_the_script(part, cli, tmp_path):
    script, *made = _BLOCK.finditer(part)
    (tmp_path / script["file"]).write_text(script["text"])
    assert cli("draft", script["file"], "-o", "x.design.toml").returncode == 0
    assert cli("build", "x.design.toml", "--into", "built").returncode == 0
    found = {path.name: path.read_text() for path in (tmp_path / "built").glob("*.py")}
    assert found == {block["file"]: block["text"] for block in made}
