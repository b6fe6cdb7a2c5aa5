"""Inputs that nobody means to give: one clear message, the right exit code, no traceback, nothing lost."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

AEDIFEX = Path(sys.executable).with_name("aedifex")

SCRIPT = """\
level = 0
rainy = False


def rise(by):
    global level, rainy
    level += by
    rainy = level > 3


while level < 5:
    rise(2)
    print(level, rainy)
"""


@pytest.fixture
def script(tmp_path):
    path = tmp_path / "gauge.py"
    path.write_text(SCRIPT)
    return path


def ends(done: subprocess.CompletedProcess[str], code: int, *words: str) -> None:
    assert done.returncode == code, done.stderr
    assert "Traceback" not in done.stderr
    for word in words:
        assert word in done.stderr


@pytest.mark.parametrize("encoding", ["rot13", "hex", "base64", "undefined", "unicode_escape", "nonsense"])
def test_what_is_no_encoding_of_texts(cli, tmp_path, encoding):
    (tmp_path / "x.py").write_text(f"# coding: {encoding}\nx = 1\n")
    ends(cli("survey", "x.py"), 4, "x.py")


def test_what_is_no_regular_file(cli, tmp_path):
    os.mkfifo(tmp_path / "pipe.py")
    (tmp_path / "loop.py").symlink_to("loop.py")
    (tmp_path / "broken.py").symlink_to("nowhere")
    (tmp_path / "folder.py").mkdir()
    for name in ("pipe.py", "loop.py", "broken.py", "folder.py"):
        ends(cli("draft", name), 4, name)


def test_odd_neighbours_are_passed_by(cli, script, tmp_path):
    os.mkfifo(tmp_path / "pipe.py")
    (tmp_path / "loop.py").symlink_to("loop.py")
    (tmp_path / "broken.py").symlink_to("nowhere")
    (tmp_path / "folder.py").mkdir()
    Path(os.fsdecode(bytes(tmp_path) + b"/odd\xff.py")).write_text("import gauge\n")
    ends(cli("draft", script.name), 0)
    ends(run_in_shell(f"{AEDIFEX} build gauge.design.toml --into out", tmp_path), 0)


def test_a_script_whose_name_is_no_text(cli, tmp_path):
    name = os.fsdecode(b"odd\xff.py")
    (tmp_path / name).write_text(SCRIPT)
    ends(cli("draft", name), 3, "Rename that file")


@pytest.mark.parametrize(
    ("text", "code", "words"),
    [
        ("format = 1\nx = " + "[" * 100_000, 4, "nested too deeply"),
        ("format = " + "9" * 10_000, 4, "too many digits"),
        ("format = 1\n[[source]\n", 4, "not valid TOML"),
        ('format = 1\n[[source]]\npath = "a"\ndigest = "b"\n[[source]]\npath = "a"\ndigest = "b"\n', 2, "a second"),
        ("\udcff", 4, "UTF-8"),
    ],
)
def test_design_files_beyond_all_bounds(cli, tmp_path, text, code, words):
    (tmp_path / "x.design.toml").write_bytes(text.encode("utf-8", "surrogateescape"))
    ends(cli("build", "x.design.toml", "--into", "out"), code, words)
    assert not (tmp_path / "out").exists()


def test_a_design_file_with_a_byte_order_mark(cli, script, tmp_path):
    cli("draft", script.name)
    design = tmp_path / "gauge.design.toml"
    design.write_bytes(b"\xef\xbb\xbf" + design.read_bytes())
    ends(cli("build", design.name, "--into", "out"), 0)


def test_lines_of_endless_digits(cli, script, tmp_path):
    cli("draft", script.name)
    design = tmp_path / "gauge.design.toml"
    design.write_text(
        design.read_text().replace(
            "[owner]\n", '[owner]\nmethods = [{ from = "<main>", name = "turn", lines = "' + "9" * 5000 + '" }]\n'
        )
    )
    ends(cli("build", design.name, "--into", "out"), 2, "is no span of lines")


def test_thousands_of_classes_are_read_in_time(cli, script, tmp_path):
    cli("draft", script.name)
    design = tmp_path / "gauge.design.toml"
    more = '\n[[class]]\nname = "C{0}"\nfile = "c{0}.py"\ninstances = ["c{0}"]\nfields = []\n'
    design.write_text(design.read_text() + "".join(map(more.format, range(20_000))))
    ends(cli("build", design.name, "--into", "out"), 2, "C0 has no fields")


@pytest.mark.parametrize("text", ["format = 1\nx = " + "[" * 100_000, "format = 1\nseed = " + "9" * 10_000])
def test_scenario_files_beyond_all_bounds(cli, script, tmp_path, text):
    (tmp_path / "x.scenario.toml").write_text(text)
    ends(cli("verify", script.name, script.name, "--scenario", "x.scenario.toml"), 4, "x.scenario.toml")


def test_a_name_that_no_design_may_choose(cli, script, tmp_path):
    cli("draft", script.name)
    design = tmp_path / "gauge.design.toml"
    design.write_text(design.read_text().replace('name = "Gauge"', 'name = "print"', 1))
    ends(cli("build", design.name, "--into", "out"), 2, "`print`", "gauge.design.toml:")


def run_in_shell(command: str, folder: Path) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        ["bash", "-c", f"set -o pipefail; {command}"],
        cwd=folder,
        capture_output=True,
        text=True,
        check=False,
        errors="replace",
    )


@pytest.mark.parametrize("command", ["survey gauge.py", "draft gauge.py -o -", "step --list", "--help"])
def test_a_reader_who_has_had_enough_is_no_error(script, command):
    done = run_in_shell(f"{AEDIFEX} {command} | head -1", script.parent)
    ends(done, 0)


@pytest.mark.skipif(not Path("/dev/full").exists(), reason="this system has no full device")
@pytest.mark.parametrize("command", ["survey gauge.py", "survey gauge.py --json -", "step --list"])
def test_a_full_output_is_told(script, command):
    ends(run_in_shell(f"{AEDIFEX} {command} > /dev/full", script.parent), 3, "standard output cannot be written")


@pytest.mark.skipif(not Path("/dev/full").exists(), reason="this system has no full device")
def test_a_device_is_written_to_and_never_replaced(script):
    ends(run_in_shell(f"{AEDIFEX} survey gauge.py --json /dev/full", script.parent), 3, "/dev/full")
    assert Path("/dev/full").is_char_device()


def test_a_closed_output_is_told(script):
    ends(run_in_shell(f"{AEDIFEX} survey gauge.py >&-", script.parent), 3, "standard output cannot be written")


def test_many_functions_on_one_variable_are_done_in_time(cli, tmp_path):
    functions = "".join(f"def f{n}(by):\n    global level\n    level += by * {n}\n\n\n" for n in range(1000))
    (tmp_path / "x.py").write_text(f"level = 0\n{functions}while level < 5:\n    f1(1)\n    print(level)\n")
    ends(cli("draft", "x.py"), 0)


def test_class_files_of_a_windowed_script_can_be_imported(cli, tmp_path):
    (tmp_path / "gauge.pyw").write_text(SCRIPT)
    ends(cli("draft", "gauge.pyw"), 0)
    ends(cli("build", "gauge.design.toml", "--into", "out"), 0)
    assert {path.suffix for path in (tmp_path / "out").iterdir() if path.name != "gauge.pyw"} <= {".py"}
    played = [
        subprocess.run([sys.executable, "-B", path], capture_output=True, text=True, check=True).stdout
        for path in (tmp_path / "gauge.pyw", tmp_path / "out" / "gauge.pyw")
    ]
    assert played[0] == played[1]


def test_a_file_with_another_name_is_not_rewritten_in_place(cli, script, tmp_path):
    os.link(script, tmp_path / "other.py")
    cli("draft", script.name)
    ends(cli("build", "gauge.design.toml", "--in-place"), 3, "hard link")
    assert script.read_text() == (tmp_path / "other.py").read_text() == SCRIPT


def test_lines_for_editors_and_tools_stay_what_they_are(cli, tmp_path):
    head = "#!/usr/bin/env python3\n# vim: set ts=4:\n# -*- mode: python -*-\n"
    (tmp_path / "quay.py").write_text(
        f"{head}# fmt: off\nkite_x = 1\nkite_y   = [\n  2,3]\n# fmt: on\n\n\ndef move_kite():\n    global kite_x\n"
        "    kite_x += 1\n    kite_y.append(kite_x)\n    print(kite_y)\n\n\nwhile kite_x < 4:\n    move_kite()\n"
    )
    ends(cli("draft", "quay.py"), 0)
    ends(cli("build", "quay.design.toml", "--into", "out"), 0)
    texts = {path.name: path.read_text() for path in (tmp_path / "out").iterdir()}
    assert texts["quay.py"].startswith(head)
    assert texts["kite.py"].startswith("class Kite:\n")
    assert texts["kite.py"].index("# fmt: off") < texts["kite.py"].index("self.")


def test_tests_are_written_for_a_script_in_another_encoding(cli, tmp_path):
    text = SCRIPT.replace("print(level, rainy)", 'print("h\xf6her", level)')
    path = tmp_path / "gauge.py"
    path.write_bytes(f"# coding: latin-1\n{text}\n\nif __name__ == '__main__':\n    pass\n".encode("latin-1"))
    for words in (("draft", "gauge.py"), ("build", "gauge.design.toml", "--into", "built")):
        assert cli(*words).returncode == 0
    ends(cli("tests", "gauge.design.toml", "--into", "built", "--budget", "1"), 0)
    assert "h\xf6her 2" in (tmp_path / "built" / "test_gauge.py").read_text("utf-8")
