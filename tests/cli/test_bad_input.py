"""Every kind of bad input: one clear message, the right exit code, nothing half-written."""

from __future__ import annotations

import os

import pytest

GOOD = "ferry_x = 1\nferry_speed = 2\ndef move_ferry():\n    global ferry_x, ferry_speed\n    ferry_x += ferry_speed\n    if ferry_x > 3:\n        ferry_speed = 1\nfor i in range(3):\n    move_ferry()\n    print(ferry_x)\n"

FILES = {
    "binary.py": bytes(range(256)),
    "encoding.py": b"# -*- coding: ascii -*-\nx = '\xc3\xa9'\n",
    "notutf8.py": b"x = '\xff\xfe'\n",
    "nonsense.py": b"# coding: nonsense\n",
    "syntax.py": b"x = 1\nif x\n    y = 2\n",
    "old.py": b"x = 1\nprint x\n",
    "words.txt": b"hello",
}


@pytest.fixture
def folder(tmp_path):
    for name, data in FILES.items():
        (tmp_path / name).write_bytes(data)
    (tmp_path / "good.py").write_text(GOOD)
    (tmp_path / "empty.py").write_text("")
    (tmp_path / "nostate.py").write_text("def f(x):\n    return x\n\n\nprint(f(2))\n")
    return tmp_path


@pytest.mark.parametrize("command", ["survey", "draft"])
@pytest.mark.parametrize("name", [*FILES, "nothere.py", "."])
def test_scripts_that_cannot_be_read(cli, folder, command, name):
    before = sorted(os.listdir(folder))
    done = cli(command, name)
    assert done.returncode == 4
    assert done.stderr.startswith(name)
    assert done.stdout == ""
    assert sorted(os.listdir(folder)) == before


def test_the_line_of_a_mistake_is_named(cli, folder):
    assert cli("survey", "syntax.py").stderr.startswith("syntax.py:2: does not parse")


@pytest.mark.parametrize("name", ["empty.py", "nostate.py"])
def test_scripts_without_state(cli, folder, name):
    assert cli("survey", name).returncode == 0
    done = cli("draft", name)
    assert done.returncode == 3
    assert "nothing to gather" in done.stderr
    assert not (folder / name.replace(".py", ".design.toml")).exists()


@pytest.fixture
def design(cli, folder):
    assert cli("draft", "good.py").returncode == 0
    return folder / "good.design.toml"


@pytest.mark.parametrize(
    ("old", "new", "code", "words"),
    [
        ('from = "ferry_x"', 'from = "fery_x"', 2, "Did you mean `ferry_x`?"),
        ('from = "move_ferry"', 'from = "mov_ferry"', 2, "Did you mean `move_ferry`?"),
        ("[[class]]", "[[clas]]", 2, "Did you mean `class`?"),
        ("fields = [", "feilds = [", 2, "Did you mean `fields`?"),
        ('start = "fixed"', 'start = "later"', 2, "neither"),
        ('file = "ferry.py"', 'file = "../ferry.py"', 2, "inside the target folder"),
        ('file = "ferry.py"', 'file = "random.py"', 2, "would hide a module"),
        ('name = "Ferry"', 'name = "class"', 2, "cannot be used as a name"),
        ('name = "speed"', 'name = "x"', 2, "two members"),
        ("format = 1", "format = 9", 2, "format = 9"),
        ("format = 1", "format = ", 4, "not valid TOML"),
        ('instances = ["ferry"]', "instances = []", 2, "needs one instance"),
        ('digest = "sha256:', 'digest = "sha256:0', 3, "has changed"),
        ('path = "good.py"', 'path = "gone.py"', 4, "no such file"),
    ],
)
def test_mistakes_in_a_design(cli, folder, design, old, new, code, words):
    text = design.read_text()
    assert old in text
    design.write_text(text.replace(old, new, 1))
    done = cli("build", design.name, "--into", "out")
    assert done.returncode == code, done.stderr
    assert words in done.stderr
    assert not (folder / "out").exists()
    line = int(done.stderr.split(":")[1]) if done.stderr.split(":")[1].isdigit() else 1
    shown = design.read_text().splitlines()[line - 1]
    assert code != 2 or new.split("=")[0].strip(" []") in shown or "class" in shown


def test_a_script_that_has_changed_since(cli, folder, design):
    with (folder / "good.py").open("a") as file:
        file.write("# more\n")
    done = cli("build", design.name, "--into", "out")
    assert done.returncode == 3
    assert "has changed since this design was made" in done.stderr
    assert not (folder / "out").exists()


def test_folders_that_cannot_be_written(cli, folder, design):
    for target in ("good.py", "/proc/out", "good.py/out"):
        done = cli("build", design.name, "--into", target)
        assert done.returncode == 3, target
    (folder / "full").mkdir()
    (folder / "full" / "ferry.py").write_text("mine")
    done = cli("build", design.name, "--into", "full")
    assert done.returncode == 3
    assert os.listdir(folder / "full") == ["ferry.py"]
    assert (folder / "full" / "ferry.py").read_text() == "mine"


def test_a_design_is_never_overwritten(cli, folder, design):
    design.write_text(design.read_text() + "# mine\n")
    assert cli("draft", "good.py").returncode == 0
    assert design.read_text().endswith("# mine\n")
    assert cli("draft", "good.py", "--ask").returncode == 3
    design.write_text("my notes\n")
    assert cli("draft", "good.py").returncode == 3
    assert design.read_text() == "my notes\n"


@pytest.mark.parametrize(
    "arguments", [("nothing",), ("draft",), ("build", "x.toml"), ("demo", "nothing"), ("survey", "--nothing")]
)
def test_wrong_usage(cli, folder, arguments):
    assert cli(*arguments).returncode == 2


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("x = " + "(" * 1000 + "1" + ")" * 1000 + "\n", "nested"),
        ("".join("    " * n + "if 1:\n" for n in range(120)) + "    " * 120 + "x = 1\n", ""),
        ("x = " + "-" * 100_000 + "1\n", ""),
        ("x = " + "[" * 5000 + "\n", ""),
    ],
)
def test_too_deep_a_script_is_refused_in_words(cli, tmp_path, text, words):
    (tmp_path / "deep.py").write_text(text)
    done = cli("survey", "deep.py")
    assert done.returncode == 4
    assert words in done.stderr


@pytest.mark.parametrize(
    "text",
    [
        "x = " + "+".join(["1"] * 500) + "\n",
        "".join("    " * n + "if 1:\n" for n in range(90)) + "    " * 90 + "x = 1\n",
        "x = [\n" + "    (1, 'a', {'b': 2}),\n" * 10_000 + "]\n",
        "x = " + "(" * 90 + "1" + ")" * 90 + "\n",
        "if 0: pass\n" + "elif 1: x = 2\n" * 900,
    ],
    ids=["long sum", "deep blocks", "long literal", "parentheses", "long chain"],
)
def test_large_scripts_are_read(cli, tmp_path, text):
    (tmp_path / "large.py").write_text(text)
    assert cli("survey", "large.py").returncode == 0
