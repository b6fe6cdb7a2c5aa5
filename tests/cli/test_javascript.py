"""JavaScript from the command line: surveyed, built and compared."""

from __future__ import annotations

import json
import shutil
from pathlib import Path

import pytest

COUNTING = """\
const lines = require("fs").readFileSync(0, "utf8").trim().split("\\n");
let total = 0;
function add(line) {
  if (line === "reset") total = 0;
  else total += line.length;
}
lines.forEach(add);
console.log(total);
"""


def test_survey_tells_its_state(cli, tmp_path):
    (tmp_path / "tally.js").write_text(COUNTING)
    done = cli("survey", "tally.js", "--json", "-")
    facts = json.loads(done.stdout)["modules"][0]
    assert done.returncode == 0 and facts["language"] == "javascript"
    assert next(fact for fact in facts["state"] if fact["name"] == "total")["writes"] == ["<main>", "add"]


def test_what_cannot_be_read_is_said_with_its_line(cli, tmp_path):
    (tmp_path / "tally.js").write_text("let a = 1;\nlet = = 2;\n")
    done = cli("survey", "tally.js")
    assert done.returncode == 4 and "tally.js:2: this syntax cannot be read" in done.stderr


def test_it_is_drafted_and_built_without_node(cli, tmp_path):
    (tmp_path / "tally.js").write_text(COUNTING)
    assert cli("draft", "tally.js").returncode == 0
    assert cli("build", "tally.design.toml", "--into", "built").returncode == 0
    built = (tmp_path / "built" / "tally.js").read_text()
    assert built.startswith("class Tally {\n  constructor() {\n") and built.endswith("\nnew Tally().run();\n")


NODE_MODULES = Path(__file__).parent.parent / "support" / "javascript" / "node_modules"


@pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")
@pytest.mark.parametrize(
    ("name", "end"), [("tally", "new Tally().run()"), ("wake", "new Wake().run();"), ("moorings", "addTo(app);")]
)
def test_each_sample_goes_all_the_way(cli, tmp_path, name, end):
    done = cli("demo", name, "--into", "demo")
    script = next(path for path in (tmp_path / "demo").glob(f"{name}.*") if path.suffix in (".js", ".html"))
    if name == "moorings":  # its library is not there
        assert done.returncode == 5 and "npm install express" in done.stdout + done.stderr
        (tmp_path / "demo" / "node_modules").symlink_to(NODE_MODULES)
    else:
        assert done.returncode == 0 and "Same" in done.stdout
    built = tmp_path / "demo" / "built" / script.name
    assert any(line.strip().endswith(end) for line in built.read_text().splitlines())
    checked = cli("verify", script, built, "--scenario", tmp_path / "demo" / f"{name}.scenario.toml")
    assert checked.returncode == 0 and checked.stdout.startswith("Same: ")


@pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")
def test_one_step_is_made_and_taken_back(cli, tmp_path):
    (tmp_path / "tally.js").write_text(COUNTING)
    done = cli("step", "lift", "tally.js", "--class", "Tally")
    assert done.returncode == 0 and "class Tally {" in (tmp_path / "tally.js").read_text()
    assert cli("undo", ".").returncode == 0 and (tmp_path / "tally.js").read_text() == COUNTING


@pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")
def test_two_versions_are_compared(cli, tmp_path):
    (tmp_path / "tally.js").write_text(COUNTING)
    (tmp_path / "same.js").write_text(COUNTING.replace("let total = 0;", "let total = 0 * 1;"))
    (tmp_path / "other.js").write_text(COUNTING.replace("total = 0;\n  else", "total = 1;\n  else"))
    same, other = (
        cli("verify", "tally.js", "same.js", "--budget", 2),
        cli("verify", "tally.js", "other.js", "--budget", 2),
    )
    assert same.returncode == 0 and same.stdout.startswith("Same: ")
    assert other.returncode == 1 and 'lines = ["reset"]' in other.stdout.replace("'", '"')


@pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")
def test_what_is_not_covered_is_said(cli, tmp_path):
    (tmp_path / "quay.js").write_text("require('child_process').execSync('ls');\n")
    done = cli("verify", "quay.js", "quay.js", "--budget", 2)
    assert done.returncode == 5 and "uses other processes, which is not covered" in done.stderr


def test_without_node_it_is_said_what_is_missing(cli, tmp_path, monkeypatch):
    (tmp_path / "tally.js").write_text(COUNTING)
    monkeypatch.setenv("PATH", str(tmp_path))
    done = cli("verify", "tally.js", "tally.js", "--budget", 2)
    assert done.returncode == 5 and "Node is needed to run JavaScript" in done.stderr
    assert cli("survey", "tally.js").returncode == 0
