"""Lists side by side become objects, where nothing asks them for what is behind their end."""

from __future__ import annotations

import shutil

import pytest

from tests.support.javascript_columns import write_javascript_columns
from tests.support.javascript_programs import built, doubts
from tests.support.javascript_scripts import outcome

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

LISTS = "let xs = [1, 2, 3];\nlet ys = [10, 20, 30];\nlet turn = 0;\n\n"
CALL = "\ngo();\ngo();\n"
SKETCH = """\
let num = 30;
let dropX = [];
let dropY = [];
let wind = 0;

function setup() {
  createCanvas(400, 300);
  for (let i = 0; i < num; i++) {
    dropX[i] = random(width);
    dropY[i] = random(-height, 0);
  }
}

function draw() {
  background(220);
  wind = map(mouseX, 0, width, -2, 2);
  for (let i = 0; i < num; i++) {
    showDrop(i);
    dropY[i] += 2;
  }
}

function showDrop(i) {
  stroke(0, 0, 180);
  line(dropX[i], dropY[i], dropX[i] + wind, dropY[i] + 8);
}
"""
CERTAIN = {
    "up": "for (let i = 0; i < xs.length; i++) {\n    xs[i] += ys[i];\n    turn++;\n  }",
    "down, with one taken away": (
        "for (let i = xs.length - 1; i >= 0; i--) {\n    if (ys[i] > 10) {\n      xs.splice(i, 1);\n      ys.splice(i, 1);\n"
        "    }\n    turn++;\n  }\n  console.log(xs.length);"
    ),
    "up, and one back": (
        "for (let i = 0; i < xs.length; i++) {\n    if (ys[i] > 10) { xs.splice(i, 1); ys.splice(i, 1); i--; }\n    turn++;\n"
        "  }\n  console.log(xs.length);"
    ),
    "one beside": "for (let i = 1; i < xs.length; i++) {\n    xs[i - 1] = xs[i] + ys[i];\n    turn++;\n  }",
    "all others": (
        "for (let i = 0; i < xs.length; i++) {\n    for (let j = i + 1; j < xs.length; j++) turn += xs[i] * ys[j] - xs[j] * ys[i];\n  }"
    ),
}
UNCERTAIN = {
    "one too far": "for (let i = 0; i <= xs.length; i++) {\n    console.log(xs[i], ys[i]);\n    turn++;\n  }",
    "after one has gone": (
        "for (let i = 0; i < xs.length; i++) {\n    if (turn++ === 1) {\n      xs.pop();\n      ys.pop();\n    }\n"
        "    console.log(xs[i], ys[i]);\n  }"
    ),
    "after a pause": (
        "for (let i = 0; i < xs.length; i++) {\n    await null;\n    console.log(xs[i], ys[i]);\n    turn++;\n  }\n"
        "  xs.pop();\n  ys.pop();"
    ),
    "later": (
        "for (let i = 0; i < xs.length; i++) {\n    setTimeout(() => console.log(xs[i], ys[i]), 5);\n    turn++;\n  }\n"
        "  xs.pop();\n  ys.pop();"
    ),
    "where an error is caught": (
        "for (let i = 0; i < xs.length; i++) {\n    try {\n      if (turn++ > 1) {\n        xs.pop();\n        ys.pop();\n"
        "        throw turn;\n      }\n    } catch (e) {\n      console.log(xs[i], ys[i]);\n    }\n  }"
    ),
    "round once more": (
        "for (let i = 0; i < xs.length; i++) {\n    for (let j = 0; j < 3; j++) {\n      for (let k = 0; k < 2; k++) {\n"
        "        console.log(xs[i], ys[i]);\n        if (turn++ < 2) {\n          xs.pop();\n          ys.pop();\n"
        "          break;\n        }\n      }\n    }\n  }"
    ),
    "further back": (
        "for (let i = 0; i < xs.length; i++) {\n    if (turn++ < 3) i -= 2;\n    console.log(xs[i], ys[i]);\n  }"
    ),
    "two taken in one turn": (
        "for (let i = xs.length - 1; i >= 0; i--) {\n    console.log(xs[i], ys[i]);\n    xs.pop();\n    ys.pop();\n"
        "    if (turn++ < 1) {\n      xs.shift();\n      ys.shift();\n    }\n  }"
    ),
}


@pytest.mark.parametrize("case", CERTAIN)
def test_what_is_certainly_there_is_a_member_of_an_object(case):
    made = built(f"{LISTS}function go() {{\n  {CERTAIN[case]}\n}}\n{CALL}")
    assert "class Point {" in made and "xs[" not in made and "this.points" in made


@needs_node
@pytest.mark.parametrize("case", UNCERTAIN)
def test_lists_stay_that_may_be_asked_for_what_they_do_not_have(case):
    """Careless: `points[3].x` is an error where `xs[3]` was nothing."""
    word = "async function" if "await" in UNCERTAIN[case] else "function"
    text = f"{LISTS}{word} go() {{\n  {UNCERTAIN[case]}\n}}\n{CALL}"
    assert any("may be asked here for an element that it does not have" in doubt for doubt in doubts(text))
    assert outcome(text) == "same"


def test_elements_that_are_put_behind_the_end_are_made_there():
    made = built(SKETCH, "sketch.js")
    assert "this.drops[i] = new Drop(random(width), random(-height, 0));" in made
    assert "  show(wind) {\n    stroke(0, 0, 180);\n    line(this._x, this.y, this._x + wind, this.y + 8);\n  }" in made
    early = SKETCH.replace("  createCanvas(400, 300);\n", "  createCanvas(400, 300);\n  showDrop(3);\n")
    assert any("an element that it does not have" in doubt for doubt in doubts(early))


@needs_node
@pytest.mark.parametrize("seed", [257, 692, *range(4)])
def test_random_scripts_with_lists_side_by_side_do_what_they_did(seed):
    assert outcome(write_javascript_columns(seed)).split(":")[0] in ("same", "refused", "broken")
