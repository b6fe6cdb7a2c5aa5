"""The whole path from a shell, on the sample and on a script that nobody prepared."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

import pytest

import aedifex.demo
from aedifex.demo import samples

_PYTHON = [name for name in samples() if list((Path(aedifex.demo.__file__).parent / name).glob("*.py"))]


@pytest.mark.parametrize("name", _PYTHON)
def test_each_sample_goes_all_the_way(cli, tmp_path, name):
    done = cli("demo", name, "--into", "demo")
    assert done.returncode == 0, done.stdout + done.stderr
    assert "Same" in done.stdout
    built = tmp_path / "demo" / "built"
    script = next(path for path in (tmp_path / "demo").glob("*.py"))
    lines = (built / script.name).read_text().splitlines()
    if name == "landing":
        assert "LandingPages().add_to(app)" in lines
    else:
        at = next(number for number, line in enumerate(lines) if line.startswith("def main("))
        assert lines[at + 2 : at + 6] == ["", "", 'if __name__ == "__main__":', "    main()"]
    scenario = next((tmp_path / "demo").glob("*.scenario.toml"))
    checked = cli("verify", script, built / script.name, "--scenario", scenario)
    assert checked.returncode == 0
    assert checked.stdout.startswith("Same")
    look = [sys.executable, "-m", "ruff", "check", "--isolated", "."]
    style = subprocess.run(look, cwd=built, capture_output=True, text=True, check=False)
    assert style.returncode == 0, style.stdout
    if "turtle" in script.read_text():
        pytest.importorskip("tkinter")
    names = [path.stem for path in built.glob("*.py")]
    code = "import " + ", ".join(names)
    run = subprocess.run([sys.executable, "-c", code], cwd=built, capture_output=True, text=True, check=True)
    assert run.stdout == run.stderr == ""


def test_the_ferry_behaves_the_same_for_more_than_a_hundred_commands(cli, tmp_path):
    done = cli("demo", "ferry", "--into", "demo")
    typed = int(done.stdout.split("run with ")[1].split()[0])
    assert typed >= 100


SCRIPT = """\
# the seed library
import random

random.seed(5)
shelf_seeds = ["bean"]
shelf_free = 3
visitor_name, visitor_bag = "nobody", []
day = 0


def visit_shelf(seed):
    global shelf_free
    if shelf_free:
        shelf_seeds.append(seed)
        shelf_free -= 1


def greet_visitor():
    print(f"{visitor_name=} carries {len(visitor_bag)}")


while day < 4:
    day += 1
    visitor_name = random.choice(["ann", "bo"])
    visit_shelf("pea")
    visitor_bag.append(day)
    greet_visitor()
print(shelf_seeds, shelf_free, day)
"""


def test_survey_as_json(cli, tmp_path):
    (tmp_path / "seeds.py").write_text(SCRIPT)
    done = cli("survey", "seeds.py", "--json", "-")
    facts = json.loads(done.stdout)
    assert facts["format"] == 1
    (module,) = facts["modules"]
    assert (module["path"], module["language"], module["lines"]) == ("seeds.py", "python", 28)
    state = {fact["name"]: fact for fact in module["state"]}
    assert list(state) == ["shelf_seeds", "shelf_free", "visitor_name", "visitor_bag", "day"]
    assert state["shelf_free"]["reads"] == ["visit_shelf", "<main>"] or set(state["shelf_free"]["reads"]) == {
        "<main>",
        "visit_shelf",
    }
    assert set(state["shelf_seeds"]["writes"]) == {"<main>", "visit_shelf"}
    assert state["day"]["line"] == 8
    assert {r["name"]: r["parameters"] for r in module["routines"]} == {"visit_shelf": ["seed"], "greet_visitor": []}
    assert module["hindrances"] == []


def test_survey_of_several_files(cli, tmp_path):
    (tmp_path / "one.py").write_text("import two\nprint(two.level)\n")
    (tmp_path / "two.py").write_text("level = 1\n")
    facts = json.loads(cli("survey", "one.py", "two.py", "--json", "-").stdout)
    assert facts["modules"][1]["state"][0]["elsewhere"] == "one.py:2"


def test_survey_shows_hindrances(cli, tmp_path):
    (tmp_path / "dark.py").write_text("from nowhere_known import *\nx = 1\nexec('x = 2')\nsail(x)\n")
    done = cli("survey", "dark.py")
    assert "nowhere_known" in done.stdout
    assert "exec()" in done.stdout


def test_preview_writes_nothing(cli, tmp_path):
    (tmp_path / "seeds.py").write_text(SCRIPT)
    cli("draft", "seeds.py")
    before = sorted(tmp_path.iterdir())
    done = cli("build", "seeds.design.toml", "--preview")
    assert done.returncode == 0
    assert "-shelf_free = 3" in done.stdout
    assert sorted(tmp_path.iterdir()) == before


def test_a_script_is_built_beside_its_neighbours(cli, tmp_path):
    (tmp_path / "seeds.py").write_text(
        SCRIPT.replace("import random\n", "import random\nfrom jars import jar\n\njar()\n")
    )
    (tmp_path / "jars.py").write_text("import lids\ndef jar():\n    print(lids.COUNT)\n")
    (tmp_path / "lids.py").write_text("COUNT = 3\n")
    cli("draft", "seeds.py", "-o", "plan.design.toml")
    done = cli("build", "plan.design.toml", "--into", "deep/built")
    assert done.returncode == 0, done.stderr
    assert {path.name for path in (tmp_path / "deep/built").iterdir()} >= {"seeds.py", "shelf.py", "jars.py", "lids.py"}
    assert cli("verify", "seeds.py", "deep/built").returncode == 0


def test_output_is_plain_and_narrow_in_a_pipe(cli, tmp_path):
    (tmp_path / "seeds.py").write_text(SCRIPT)
    for arguments in (("survey", "seeds.py"), ("draft", "seeds.py"), ("demo",), ("--help",), ("build", "--help")):
        done = cli(*arguments)
        assert "\x1b" not in done.stdout
        assert max(len(line) for line in done.stdout.splitlines()) <= 100


def test_every_command_has_an_example(cli):
    listed = cli("--help").stdout.split("Commands:")[1].split("\n")
    for name in [line.split()[0] for line in listed if line.strip()]:
        assert "Example:" in cli(name, "--help").stdout


def test_the_installed_package_ships_its_samples():
    assert list(Path(aedifex.demo.__file__).parent.glob("ferry/*.scenario.toml"))


def test_a_file_above_that_uses_the_script_stays_what_and_where_it_is(cli, tmp_path):
    (tmp_path / "quay").mkdir()
    text = "count = 0\n\n\ndef fly():\n    global count\n    count += 1\n    print(count)\n\n\nfor turn in range(3):\n    fly()\n"
    (tmp_path / "quay" / "kites.py").write_text(text)
    (tmp_path / "start.py").write_text("from quay import kites\n\nprint(kites.__name__)\n")
    assert cli("draft", "quay/kites.py", "-o", "kites.design.toml").returncode == 0
    for command in (["build", "--into", "built"], ["report", "-o", "kites.html"], ["tests", "--into", "built"]):
        done = cli(command[0], "kites.design.toml", *command[1:])
        assert done.returncode == 0, done.stdout + done.stderr
    assert "start.py" not in {path.name for path in (tmp_path / "built").rglob("*.py")}
