"""What a script gives the window to be called on events stays where the window finds it."""

from __future__ import annotations

import shutil

import pytest

from aedifex.cli.reading import read_program_of
from aedifex.construction.build import build
from aedifex.construction.output import new_files
from aedifex.construction.propose import propose
from aedifex.languages.javascript import DIALECT
from aedifex.verify.running.run import run
from aedifex.verify.scenarios.scenario import Scenario

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")
PAGE = '<!DOCTYPE html>\n<html><body><p id="told">-</p>\n<script src="quay.js"></script>\n</body></html>\n'
SCRIPT = """\
let tide = 0;
let last = "";

function tell(what) {{
  tide++;
  last = what;
  document.getElementById("told").textContent = tide + last;
}}

{handlers}
tell("begun");
setTimeout(() => window.dispatchEvent(new Event("resize")), 20);
setTimeout(() => document.body.click(), 40);
"""
SET = {
    "by their names alone": 'onresize = () => tell("resize");\nonclick = function () { tell("click"); };',
    "several at once": "onresize = onclick = (event) => { tell(event.type); };",
    "when all is there": 'onload = () => { onresize = () => tell("resize"); tell("load"); };',
    "by `var`": 'var onclick = function () { tell("click"); };',
    "by a function of the script": "onclick = told;\n\nfunction told(event) {\n  tell(event.type);\n}",
}
OTHER = {
    "a variable of a block": 'let onresize = () => tell("never");\nif (tide > 5) onresize();',
    "a function": 'function onclick() {\n  tell("never");\n}',
}


def entries(folder) -> list[str]:
    return [entry.text for entry in run(folder / "quay.html", Scenario(turns=12), DIALECT.runner).trace.entries]


@needs_node
@pytest.mark.parametrize("case", SET | OTHER)
def test_what_the_window_calls_it_calls_still(tmp_path, case):
    """Careless: a variable, or a method, that nothing calls."""
    (tmp_path / "quay.html").write_text(PAGE)
    (tmp_path / "quay.js").write_text(SCRIPT.format(handlers=(SET | OTHER)[case]))
    before = entries(tmp_path)
    program = read_program_of(tmp_path / "quay.js")
    for path, data in new_files(program, build(program, propose(program))).items():
        (tmp_path / path).write_bytes(data)
    assert "new " in (tmp_path / "quay.js").read_text()
    assert entries(tmp_path) == before
    assert (len(before) > 2) is (case in SET)
