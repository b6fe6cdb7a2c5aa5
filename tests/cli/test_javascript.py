"""JavaScript from the command line: surveyed and compared, and not rebuilt yet."""

from __future__ import annotations

import json
import shutil

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


@pytest.mark.parametrize("command", ["draft"])
def test_it_is_not_rebuilt_yet(cli, tmp_path, command):
    (tmp_path / "tally.js").write_text(COUNTING)
    done = cli(command, "tally.js")
    assert done.returncode == 3 and "not written yet" in done.stderr
    assert [path.name for path in tmp_path.iterdir()] == ["tally.js"]


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
