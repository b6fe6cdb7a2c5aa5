"""What is used under comments of its own, and with whom."""

from __future__ import annotations

import pytest

from tests.support.javascript_programs import built

SKETCH = """\
let ferryX = 60;
let ferrySpeed = 2;
let passengers = 0;
let wind = 1;
let gulls = 0;

function setup() {
  createCanvas(400, 300);
}

function draw() {
  background(20);

  // ferry
  ferryX += ferrySpeed;
  if (ferryX > 360 || ferryX < 40) {
    ferrySpeed = -ferrySpeed;
    passengers += 3;
  }
  fill(220);
  rect(ferryX - 30, 190, 60, 20);
  fill(255, 220, 90);
  for (let i = 0; i < passengers; i++) {
    ellipse(ferryX - 24 + i * 7, 196, 4);
  }

  // sky
  noStroke();
  fill(200);
  rect(0, 0, 400, 50);
  ellipse(200, 20, 10);

  // gulls
  gulls += wind;
  text(gulls, 10, 20);
MORE}

function keyPressed() {
  wind = -wind;
}
"""


def test_a_variable_goes_to_those_with_which_alone_it_is_used():
    made = built(SKETCH.replace("MORE", ""), "sketch.js")
    assert "passengers = 0;" in made[: made.index("class Sketch")]


@pytest.mark.parametrize("more", ["  wind += passengers;\n", "  // all\n  text(passengers + gulls, 10, 40);\n"])
def test_one_that_is_used_elsewhere_too_stays(more):
    made = built(SKETCH.replace("MORE", more), "sketch.js")
    assert "this.passengers = 0;" in made[made.index("class Sketch") :]


def test_what_draws_a_thing_is_one_method_with_its_colours_and_loops():
    made = built(SKETCH.replace("MORE", ""), "sketch.js")
    drawing = made[made.index("  draw() {\n    fill(220);") :]
    assert drawing.index("ellipse(this.") < drawing.index("\n  }\n}")


def test_lines_that_only_draw_are_called_so():
    quay = "".join(f"  gulls += wind * {n};\n  if (gulls > {n}00) wind -= {n};\n" for n in range(1, 9))
    made = built(SKETCH.replace("MORE", f"\n  // quay\n{quay}"), "sketch.js")
    assert "    this.drawSky();\n" in made and "this.handleQuay();" in made
