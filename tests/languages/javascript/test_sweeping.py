"""What nothing uses goes: beside each case stands what a careless move makes."""

from __future__ import annotations

import shutil
import subprocess
from pathlib import Path

import pytest

from aedifex.moves.kit.binding_check import perform
from aedifex.moves.sweep import Sweep
from tests.support.javascript_programs import program_of

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")
NODE = "const path = require('node:path');\n"


def swept(text: str, name: str = "harbour.js") -> str:
    """The script without what nothing uses."""
    return perform(program_of(text, name), Sweep(Path(name))).main.source.encode().decode()


def said(text: str, folder: Path) -> str:
    script = folder / "harbour.js"
    script.write_text(text)
    return subprocess.run(["node", script], capture_output=True, text=True, check=True).stdout


@needs_node
def test_functions_imports_and_fields_without_use_go(tmp_path):
    text = (
        f"{NODE}const fs = require('node:fs');\n\nfunction old() {{\n  return older();\n}}\n\nfunction older() {{\n  return old();\n}}\n\n"
        "class Kite {\n  constructor(x) {\n    this.x = x;\n    this.spare = 3;\n  }\n\n  move() {\n    this.x += 1;\n    this.spare = 4;\n  }\n}\n\n"
        "const kite = new Kite(2);\nkite.move();\nconsole.log(kite.x, path.sep);\n"
    )
    made = swept(text)
    assert "old" not in made and "spare" not in made and "node:path" in made
    assert said(made, tmp_path) == said(text, tmp_path)


@pytest.mark.parametrize(
    "text",
    [
        f"{NODE}function rise() {{}}\nconsole.log(path.sep);\nmodule.exports = {{ rise }};\n",  # others import it
        f"{NODE}function rise() {{}}\nconsole.log(path.sep, eval('typeof rise'));\n",  # is found by its text
        "let level = 0;\nfunction rise() {\n  level += 1;\n}\nconsole.log(level);\n",  # a page that is not here may call it
        "function setup() {\n  createCanvas(9, 9);\n}\n\nfunction draw() {\n  ellipse(1, 2, 3);\n}\n",  # a library calls it
        "function rise() {\n  return 1;\n}\n",  # it is there for others
        f"{NODE}class Kite {{\n  constructor() {{\n    this.spare = 3;\n  }}\n}}\nconsole.log(path.sep, JSON.stringify(new Kite()));\n",
        f"{NODE}class Kite {{\n  constructor() {{\n    this.spare = 3;\n  }}\n}}\nconsole.log(path.sep, Object.keys(new Kite()));\n",
        f"{NODE}class Kite {{\n  constructor() {{\n    this.spare = 3;\n  }}\n\n  set spare(to) {{\n    console.log(path.sep, to);\n  }}\n}}\nnew Kite();\n",
        f"{NODE}class Kite {{\n  constructor() {{\n    this.spare = 3;\n  }}\n}}\nconst {{ spare }} = new Kite();\nconsole.log(path.sep, spare);\n",
        f"{NODE}class Kite {{\n  constructor() {{\n    this.spare = 3;\n  }}\n}}\nconst name = 'spare';\nconsole.log(path.sep, new Kite()[name]);\n",
    ],
)  # fmt: skip
def test_what_may_be_reached_stays(text):
    assert swept(text) == text


def test_a_function_of_a_page_that_its_elements_call_stays(tmp_path):
    page = '<button onclick="rise()">Rise</button>\n<script>\nlet level = 0;\nfunction rise() {\n  level += 1;\n}\n%sconsole.log(level);\n</script>\n'
    assert swept(page % "", "quay.html") == page % ""
    assert swept(page % "function old() {}\n", "quay.html") == page % ""
