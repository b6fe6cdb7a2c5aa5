"""One move at a time from the command line, and back again."""

from __future__ import annotations

import subprocess
import sys

import pytest

from aedifex.moves.registry import by_hand

SCRIPT = """\
import random

random.seed(3)
gauge_level = 0.0
gauge_rainy = False
wind = 2


def read_gauge():
    global gauge_level, gauge_rainy
    gauge_level += random.random() * wind
    gauge_rainy = gauge_level > 2


for day in range(5):
    read_gauge()
    print(day, round(gauge_level, 2), gauge_rainy)
"""

STEPS = [
    ("form", "gauge_level=level", "gauge_rainy=is_rainy", "--class", "Gauge"),
    ("inject", "read_gauge", "wind"),
    ("adopt", "read_gauge=read", "--class", "Gauge"),
    ("lift", "--class", "Station"),
    ("rename", "Gauge.level", "Gauge.water"),
    ("house", "Gauge"),
    ("sweep",),
]


def output(folder) -> str:
    return subprocess.run(
        [sys.executable, "-B", "station.py"], cwd=folder, capture_output=True, text=True, check=True
    ).stdout


def test_small_steps_lead_to_classes_and_back(cli, tmp_path):
    script = tmp_path / "station.py"
    script.write_text(SCRIPT)
    expected = output(tmp_path)
    texts = []
    for move, *arguments in STEPS:
        before = script.read_text()
        looked = cli("step", move, "station.py", *arguments, "--preview")
        assert looked.returncode == 0, looked.stderr
        assert script.read_text() == before
        done = cli("step", move, "station.py", *arguments)
        assert done.returncode == 0, done.stderr
        assert output(tmp_path) == expected
        if script.read_text() != before:
            texts.append(before)
    assert "from gauge import Gauge" in script.read_text()
    assert "self.water += random.random() * wind" in (tmp_path / "gauge.py").read_text()
    shown = cli("history").stdout
    assert shown.count("step") == len(texts)
    while texts:
        assert cli("undo").returncode == 0
        assert script.read_text() == texts.pop()
    assert not (tmp_path / "gauge.py").exists()
    assert cli("undo").returncode == 3


def test_the_list_tells_each_move_in_two_lines(cli):
    done = cli("step", "--list")
    assert done.returncode == 0
    assert len(done.stdout.splitlines()) == 2 * len(by_hand())
    assert all(len(line) <= 100 for line in done.stdout.splitlines())


@pytest.mark.parametrize(
    ("arguments", "code", "words"),
    [
        (("step",), 2, "name a move"),
        (("step", "fly", "station.py"), 2, "No such command"),
        (("step", "form", "station.py", "=x", "--class", "A"), 2, "NAME=NEW_NAME"),
        (("step", "form", "station.py", "nothing", "--class", "A"), 3, "nothing"),
        (("step", "form", "station.py", "wind", "--class", "A", "--argument", "other"), 2, "not among"),
        (("step", "rename", "station.py", "wind", "random"), 3, "something else"),
        (("step", "seal", "station.py", "Nobody"), 3, "no class"),
        (("step", "lift", "missing.py"), 4, "no such file"),
        (("undo", "nowhere"), 3, "no such folder"),
        (("history", "nowhere"), 3, "no such folder"),
    ],
)
def test_mistakes_are_said_and_nothing_is_written(cli, tmp_path, arguments, code, words):
    (tmp_path / "station.py").write_text(SCRIPT)
    done = cli(*arguments)
    assert done.returncode == code
    assert words in done.stderr
    assert [path.name for path in tmp_path.iterdir()] == ["station.py"]


def test_undo_keeps_a_copy_of_what_was_edited(cli, tmp_path):
    script = tmp_path / "station.py"
    script.write_text(SCRIPT)
    cli("step", "rename", "station.py", "wind", "breeze")
    script.write_text(script.read_text() + "# mine\n")
    refused = cli("undo")
    assert refused.returncode == 3
    assert "station.py" in refused.stderr
    assert cli("undo", "--keep-copy").returncode == 0
    assert script.read_text() == SCRIPT
    assert (tmp_path / "station.py.kept").read_text().endswith("# mine\n")


def test_what_another_file_uses_is_known(cli, tmp_path):
    (tmp_path / "station.py").write_text(SCRIPT)
    (tmp_path / "report.py").write_text("import station\n\nprint(station.gauge_level)\n")
    refused = cli("step", "rename", "station.py", "gauge_level", "level")
    assert refused.returncode == 3
    assert "report.py" in refused.stderr
    cli("draft", "station.py")
    built = cli("build", "station.design.toml", "--in-place")
    assert built.returncode == 0, built.stderr
    assert (tmp_path / "station.py").read_text().count("gauge_level = 0.0\n") == 1
    done = subprocess.run([sys.executable, "-B", "report.py"], cwd=tmp_path, capture_output=True, text=True, check=True)
    assert done.stdout.endswith("4.763578723280342\n")


def test_a_class_that_another_file_uses_is_still_found_where_it_was(cli, tmp_path):
    (tmp_path / "station.py").write_text(
        "class Gauge:\n    def read(self):\n        return 3\n\n\nif __name__ == '__main__':\n    print('station')\n"
    )
    (tmp_path / "report.py").write_text("from station import Gauge\n\nprint(Gauge().read())\n")
    assert cli("step", "house", "station.py", "Gauge").returncode == 0
    assert "from gauge import Gauge" in (tmp_path / "station.py").read_text()
    done = subprocess.run([sys.executable, "-B", "report.py"], cwd=tmp_path, capture_output=True, text=True, check=True)
    assert done.stdout == "3\n"
