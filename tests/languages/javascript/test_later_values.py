"""Things of which a sketch declares the variables, and gives them their values in `setup`."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest

from aedifex.moves.kit.binding_check import perform
from aedifex.moves.twins import Twins
from aedifex.survey.kinds.twin_fields import TwinField
from tests.support.javascript_programs import built, program_of
from tests.support.javascript_sketches import outcome, write_record_sketch, write_sketch

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

KITES = """\
let kite1X, kite1Y, kite1Speed;
let kite2X, kite2Y, kite2Speed;
let kite3X, kite3Y, kite3Speed;
let wind = 0;

function setup() {
  createCanvas(400, 300);
  {FIRST}
}

function draw() {
  background(220);
  wind = sin(frameCount / 30);
  kite1X += kite1Speed + wind;
  kite2X += kite2Speed + wind;
  kite3X += kite3Speed + wind;
  if (kite1X > width) kite1X = 0;
  if (kite2X > width) kite2X = 0;
  if (kite3X > width) kite3X = 0;
  {LAST}
  circle(kite1X, kite1Y, 9);
  circle(kite2X, kite2Y, 9);
  circle(kite3X, kite3Y, 9);
}
"""
SET = "\n  ".join(f"kite{n}X = {n}0;\n  kite{n}Y = height / {n};\n  kite{n}Speed = {n};" for n in (1, 2, 3))


def sketch(first: str = SET, last: str = "", more: str = "") -> str:
    return built(KITES.replace("{FIRST}", first).replace("  {LAST}\n", last) + more, "sketch.js")


def test_copies_that_setup_gives_their_values_are_made_there():
    made = sketch(SET.replace("height / 1", "80").replace("height / 2", "40").replace("height / 3", "20"))
    assert "  setup() {\n    createCanvas(400, 300);\n    this.kites = [\n      new Kite(10, 80, 1),\n" in made
    assert "  move(wind) {\n    this.#x += this.#speed + wind;\n  }\n\n  wrap() {\n" in made
    assert "class Sketch {\n  kites;\n" in made


def test_values_that_are_given_attribute_by_attribute_are_each_things_own():
    by_attribute = "\n  ".join(f"kite{n}{part} = {n};" for part in ("X", "Y", "Speed") for n in (1, 2, 3))
    made = sketch(by_attribute)
    assert "new Kite(1, 1, 1)" in made and "new Kite(3, 3, 3)" in made


@pytest.mark.parametrize(
    ("first", "last", "more"),
    [
        (f"if (width > 9) return;\n  {SET}", "", ""),
        (f"kite1X = 2;\n  tell();\n  {SET}", "", "\nfunction tell() {\n  print(kite2X);\n}\n"),
        (SET, "", "\nfunction keyPressed() {\n  setup();\n}\n"),
        (SET, "", "\nfunction preload() {\n  wind = 3;\n}\n"),
        (SET.replace("kite2X = 20;", "if (width > 9) kite2X = 20;"), "", ""),
        (SET, "", "\nsetup();\n"),
    ],
)
def test_values_that_others_may_ask_for_before_or_that_come_again_stay_variables(first, last, more):
    """Careless: the things are made where they may be asked for before they are there, or made twice."""
    made = sketch(first, last, more)
    assert "class Kite" not in made and "kite1X;\n" in made


def test_a_list_that_nothing_walks_over_is_declared_as_well():
    """Careless: `setup` sets a name that nothing declares, which a module does not allow."""
    text = "let lamp1X, lamp1Y, lamp2X, lamp2Y;\nfunction setup() {\n  createCanvas(9, 9);\n"
    text += "  lamp1X = 1;\n  lamp1Y = 4;\n  lamp2X = 9;\n  lamp2Y = 5;\n}\n"
    text += "".join(f"function dim{n}() {{\n  lamp{n}X--;\n  lamp{n}Y++;\n}}\n" for n in (1, 2))
    fields = tuple(TwinField((f"lamp1{part}", f"lamp2{part}"), part.lower(), is_argument=True) for part in "XY")
    move = Twins(Path("sketch.js"), "Lamp", ("lamp1", "lamp2"), "lamps", "lamp", fields)
    made = perform(program_of(text, "sketch.js"), move).main.source.encode().decode()
    assert "\nlet lamps;\n" in made and "  lamps = [\n    new Lamp(1, 4),\n" in made


def test_a_class_that_declares_its_fields_is_followed_like_others():
    made = built(
        "class Shed {\n  kites;\n  fill() {\n    this.kites = [{ rope: 3, up: false }, { rope: 4, up: true }];\n  }\n"
        "  pull() {\n    for (const kite of this.kites) {\n      kite.rope -= 1;\n      kite.up = !kite.up;\n    }\n  }\n}\n\n"
        "const shed = new Shed();\nshed.fill();\nshed.pull();\nconsole.log(shed.kites[0].rope);\n"
    )
    assert "new Kite(3, false)" in made


LAMPS = """\
function setup() {
  createCanvas(300, 200);
  lamp1X = 10;
  lamp1Lit = true;
  lamp2X = 90;
  lamp2Lit = false;
  boatX = 5;
}

function draw() {
  background(glow);
  boatX = boatX + 1;
  if (boatX > 300) boatX = 0;
  rect(boatX, boatY, 20, 8);
  glow = glow * 0.9 + 1;
}

function mousePressed() {
  lamp1Lit = !lamp1Lit;
  lamp2Lit = !lamp2Lit;
}

let lamp1X, lamp1Lit, lamp2X, lamp2Lit;
let boatX, boatY = 3;
let glow = 1;
"""


def test_what_goes_on_and_what_is_switched_is_called_so():
    made = built(LAMPS, "sketch.js").replace("#", "")
    assert "  toggle() {\n    this.lit = !this.lit;\n  }\n" in made and "      lamp.toggle();\n" in made
    assert "  move() {\n    this.x = this.x + 1;\n    if (this.x > 300) this.x = 0;\n  }\n" in made
    assert made.endswith("function mousePressed() {\n  sketch.mousePressed();\n}\n")


@needs_node
@pytest.mark.parametrize("seed", range(5))
def test_random_sketches_do_the_same(seed):
    end = outcome(write_sketch(seed))
    assert not end.startswith("different"), end


FISHING = """\
let boat;
let img;
let caught = 0;

function setup() {
  createCanvas(400, 300);
  boat = { x: width / 2, y: 200, speed: 4, hook: 0, down: false };
}

function draw() {
  background(200);
  moveBoat();
  lowerHook();
  rect(boat.x, boat.y, 90, 30);
  if (boat.hook > 40) caught++;
  text(caught, 10, 20);
}

function moveBoat() {
  if (keyIsDown(LEFT_ARROW)) boat.x -= boat.speed;
  if (keyIsDown(RIGHT_ARROW)) boat.x += boat.speed;
}

function lowerHook() {
  if (boat.down) boat.hook += 5;
  if (boat.y + boat.hook > height) {
    boat.down = false;
    boat.hook = 0;
  }
}

function keyPressed() {
  if (key === " ") boat.down = true;
}
"""


def test_what_is_about_an_object_that_setup_makes_is_its_own():
    made = built(FISHING, "sketch.js")
    assert "    this.boat = new Boat(width / 2);\n" in made and "    this.boat.move();\n" in made
    assert "  lowerHook() {\n    if (this." in made and "  sketch.boat.keyPressed();\n" in made
    assert "img" not in made


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("function setup() {\n", "function setup() {\n  moveBoat();\n"),
        ("function setup() {\n", "function setup() {\n  if (width < 9) return;\n"),
        ("  boat = {", "  if (width > 9) boat = {"),
        ("  if (key === ", "  if (key === 'r') boat = null;\n  if (key === "),
        ("let caught = 0;\n", "let caught = 0;\nlowerHook();\n"),
        ("  if (key === ", "  if (key === 'r') setup();\n  if (key === "),
        ("function draw() {", "function preload() {\n  loadImage('a.png');\n}\n\nfunction draw() {"),
    ],
)
def test_what_may_not_be_there_yet_is_asked_for_nothing(old, new):
    """Careless: what did nothing, or said what is missing, asks a boat that is not there to do it."""
    assert "boat.move();" not in built(FISHING.replace(old, new), "sketch.js")


@needs_node
@pytest.mark.parametrize("seed", range(6))
def test_random_sketches_with_an_object_do_the_same(seed):
    assert outcome(write_record_sketch(seed)).partition(":")[0] in ("same", "refused")
