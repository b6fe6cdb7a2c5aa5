"""whole: a function that is given several fields of one object is given the object, where that is the same."""

from __future__ import annotations

import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from aedifex.moves.kit.binding_check import perform
from aedifex.moves.whole import Whole
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved
from tests.support.javascript_programs import built, program_of

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

PYTHON = """\
class Kite:
    def __init__(self, color, height):
        self.color = color
        self.height = height
{members}

{before}

red = Kite("red", 4)
blue = Kite("blue", 9)


def show({signature}):
{body}


{calls}
print(red.color, red.height, blue.height)
"""
JAVASCRIPT = """\
class Kite {{
  constructor(color, height) {{
    this.color = color;
    this.height = height;
  }}
{members}}}

{before}
const red = new Kite("red", 4);
const blue = new Kite("blue", 9);

function show({signature}) {{
{body}
}}

{calls}
console.log(red.color, red.height, blue.height);
"""
CALLS = "show(red.color, red.height, 2){end}\nshow(blue.color, blue.height, 3){end}"


def python(body="    print(color, height + by)", signature="color, height, by", calls="", before="", members="") -> str:
    calls = calls or CALLS.format(end="")
    return PYTHON.format(body=body, signature=signature, calls=calls, before=before, members=members)


def javascript(
    body="  console.log(color, height + by);", signature="color, height, by", calls="", before="", members=""
) -> str:
    calls = calls or CALLS.format(end=";")
    return JAVASCRIPT.format(body=body, signature=signature, calls=calls, before=before, members=members)


def whole(text: str) -> str:
    return moved(text, Whole(SCRIPT, "Kite", "kite"))[SCRIPT.name]


def whole_of_javascript(text: str) -> str:
    return perform(program_of(text), Whole(Path("harbour.js"), "Kite", "kite")).main.source.encode().decode()


def run(command: list[str]) -> str:
    return subprocess.run(command, capture_output=True, text=True, check=True).stdout


@pytest.mark.parametrize(
    "parts",
    [
        {},
        {"body": '    print(f"{color} {height=}", [height + n for n in range(2)])'},
        {"body": "    print(color, height, by)", "signature": "color, height, by=2"},
        {"signature": "color,\n         height,\n         by", "calls": "show(red.color,\n     red.height,\n     2)"},
        {"calls": "for kite in [red, blue]:\n    show(kite.color, kite.height, 2)"},
    ],
)
def test_fields_are_asked_of_the_object(parts):
    text = python(**parts)
    made = whole(text)
    assert "def show(kite" in made and "kite.color" in made
    assert run([sys.executable, "-c", made]) == run([sys.executable, "-c", text])


def test_each_of_two_objects_is_handed_over():
    body, signature = "    print(color, high, other, most)", "color, high, other, most"
    text = python(body, signature, "show(red.color, red.height, blue.color, blue.height)")
    once = whole(text)
    assert "def show(kite, other, most):" in once and "show(red, blue.color, blue.height)" in once
    assert "def show(kite, other_kite):" in whole(once) and "show(red, blue)" in whole(once)


@pytest.mark.parametrize(
    "parts",
    [
        # careless: the field has another value where it is asked for
        {"body": "    red.height += 1\n    print(color, height)"},
        {"body": "    lift()\n    print(color, height)", "before": "def lift():\n    red.height += 5"},
        {
            "body": "    red.lift()\n    print(color, height)",
            "members": "\n    def lift(self):\n        self.height += 2",
        },
        {"body": "    return lambda: (color, height)"},
        {"body": "    yield color\n    yield height"},
        # careless: the object gets another value, or loses it
        {"body": "    height += 1\n    print(color, height)"},
        {"body": "    del height\n    print(color)"},
        # careless: what is asked has no such field, or is nothing
        {"calls": 'show(red.color, red.height, 2)\nshow("green", 3, 2)'},
        {"calls": "show(red.color, blue.height, 2)"},
        {"calls": "show(red.color, red.height, 2)\nshow(red.height, red.color, 2)"},
        {"calls": "for kite in [red, None]:\n    if by(kite):\n        show(kite.color, kite.height, 2)"},
        # careless: what is given behind it changes it before
        {"calls": "show(red.color, red.height, rise())", "before": "def rise():\n    red.height += 3\n    return 1"},
        # careless: asking says something
        {"members": "\n    def __getattribute__(self, name):\n        return object.__getattribute__(self, name)"},
        {"calls": "show(red.color, height=red.height, by=2)"},
        {"calls": "show(*[red.color, red.height], 2)"},
        {"calls": f"{CALLS.format(end='')}\nprint(list(map(show, [1], [2], [3])))"},
    ],
)
def test_where_it_would_be_another_value_fields_are_given(parts):
    with pytest.raises(RefusedError, match="several fields"):
        whole(python(**parts))


@needs_node
@pytest.mark.parametrize(
    "parts",
    [
        {},
        {"body": "  console.log({ color, height }, `${color}`, [height]);"},
        {"calls": "show(red.color, red.height);\nshow(red.color, red.height, 2, 3);"},
        {"body": "  console.log(color, height, by);", "signature": "color, height, ...by"},
    ],
)
def test_so_it_is_in_javascript(parts):
    text = javascript(**parts)
    made = whole_of_javascript(text)
    assert "function show(kite, " in made
    assert run(["node", "-e", made]) == run(["node", "-e", text])


@pytest.mark.parametrize(
    "parts",
    [
        {"body": "  [red.height] = [8];\n  console.log(color, height);"},
        {"body": "  console.log(arguments.length, color, height);"},
        {"body": "  setTimeout(() => console.log(color, height), 5);"},
        {"calls": "show(red.color, red?.height, 2);"},
        {"calls": "show(red.color, red.height, (red.height = 7));"},
        # careless: what is called may be another function by then
        {
            "body": "  call();\n  console.log(color, height);",
            "before": "let call = () => {};\ncall = () => { red.height = 44; };",
        },
        {"body": "  list[0]();\n  console.log(color, height);", "before": "const list = [() => { red.height = 44; }];"},
        {"members": "  get size() { return this.height; }\n", "calls": "show(red.color, red.size, 2);"},
    ],
)
def test_where_it_would_be_another_value_in_javascript_fields_are_given(parts):
    with pytest.raises(RefusedError, match="several fields"):
        whole_of_javascript(javascript(**parts))


COPIES = """\
const ctx = document.getElementById("quay").getContext("2d");
let seeds = 0;
{buttons}
function drawButton(x, y, label, cost) {{
  ctx.fillStyle = seeds >= cost ? "green" : "gray";
  ctx.fillRect(x, y, 80, 20);
  ctx.fillText(label, x, y);
}}

function buy(cost) {{
  seeds -= cost;
}}

document.addEventListener("keydown", () => {{
  seeds += 1;
  if (seeds > button1Cost) {{ buy(button1Cost); button1Cost += 2; }}
  if (seeds > button2Cost) {{ buy(button2Cost); button2Cost += 3; }}
  drawButton(button1X, button1Y, button1Label, button1Cost);
  drawButton(button2X, button2Y, button2Label, button2Cost);
}});
"""


def test_copies_whose_values_a_function_is_given_get_a_method():
    buttons = "".join(
        f'let button{n}X = {n * 90};\nlet button{n}Y = 30;\nlet button{n}Label = "{label}";\nlet button{n}Cost = {n};\n'
        for n, label in ((1, "Spade"), (2, "Barrow"))
    )
    made = built(COPIES.format(buttons=buttons))
    assert "draw(ctx, seeds) {" in made and "this._y, 80, 20" in made and "button.draw(this.ctx, this.seeds)" in made


def test_copies_that_never_change_are_things_where_a_function_is_given_what_belongs_to_one():
    buttons = "".join(f"let button{n}X = {n * 90};\nlet button{n}Y = 30;\nlet button{n}Cost = {n};\n" for n in (1, 2))
    drawn = """\
const ctx = document.getElementById("quay").getContext("2d");
let seeds = 0;
{buttons}
function drawButton(x, y) {{
  ctx.fillRect(x, y, 80, 20);
}}

document.addEventListener("keydown", () => {{
  seeds += button1Cost + button2Cost;
  drawButton(button1X, button1Y);
  drawButton({second});
}});
"""
    assert "new Button(90, 1)" in built(drawn.format(buttons=buttons, second="button2X, button2Y"))
    assert "class Button" not in built(drawn.format(buttons=buttons, second="button2X, 40"))
    shouted = drawn.format(buttons=buttons, second="button2X, button2Y").replace("button1X", "BUTTON1_X")
    assert "class Button" not in built(shouted)


SKETCH = """\
let x1 = 50, y1 = 60, r1 = 20;
let x2 = 200, y2 = 90, r2 = 30;
let speed1 = 2, speed2 = -1;
let picture;

function preload() {
  picture = loadImage("kite.png");
}

function draw() {
  x1 += speed1;
  x2 += speed2;
  drawKite(x1, y1, r1);
  drawKite(x2, y2, r2);
  if (touching(x1, y1, r1, x2, y2, r2)) image(picture, 0, 0);
}

function drawKite(x, y, r) {
  quad(x, y - r, x + r, y, x, y + r, x - r, y);
}

function touching(ax, ay, ar, bx, by, br) {
  return dist(ax, ay, bx, by) < ar + br;
}

function mousePressed() {
  speed1 = -speed1;
  speed2 = -speed2;
}
"""


def test_copies_without_a_name_are_called_after_what_is_given_their_values():
    made = built(SKETCH)
    assert "class Kite {" in made and "touching(otherKite) {" in made and "this.kite1.touching(this.kite2)" in made
    assert "sketch.preload();" in made or "harbour.preload();" in made
