"""What is done with the object that a variable has now, be it another one later, is done by that object."""

from __future__ import annotations

import shutil

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.support.changing_things import write_changing
from tests.support.helpers import written
from tests.support.javascript_programs import built
from tests.support.javascript_scripts import outcome as outcome_of_javascript
from tests.support.scripts import outcome

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

FERRY = """\
let ferry = { x: 3, load: 0, speed: 1 };
let log = [];
let turn = 0;

function start() {
  ferry = { x: 0, load: 1, speed: 2 };
  log = [];
}

function report() {
  log.push(turn);
  console.log(turn, ferry.x, ferry.load, ferry.speed, log.length);
}

SAIL

while (turn < 8) {
  turn++;
  sailFerry();
  report();
  if (turn % 3 === 0) start();
}
"""
TOLD = {
    "plainly": "function sailFerry() {\n  ferry.x += ferry.speed;\n  ferry.load += 2;\n}",
    "with what it reads": "function sailFerry() {\n  ferry.x += ferry.speed + turn;\n  ferry.load += turn;\n}",
    "in some lines": "function sailFerry() {\n  log.push('sails');\n  ferry.x += ferry.speed;\n  ferry.load += 2;\n  ferry.speed = ferry.x % 4;\n}",
    "where a function in it is called at once": "function sailFerry() {\n  const by = [1, 2].map((n) => n + 1);\n  ferry.x += by[0];\n  ferry.load += by[1];\n}",
}
STAYING = {
    "where another comes meanwhile": "function sailFerry() {\n  ferry.x += 1;\n  if (turn === 5) start();\n  ferry.load += 2;\n}",
    "where it puts another there": "function sailFerry() {\n  ferry.x += 1;\n  if (ferry.x > 5) ferry = { x: 9, load: 9, speed: 9 };\n  ferry.load += 2;\n}",
    "where it is asked for later": "function sailFerry() {\n  ferry.x += 1;\n  ferry.load += 2;\n  setTimeout(() => console.log('later', ferry.x), 60);\n}",
    "where there is none at times": "function sailFerry() {\n  if (turn === 4) ferry = null;\n  if (!ferry) ferry = { x: 1, load: 1, speed: 1 };\n  ferry.x += 1;\n}",
}


def script(lines: str) -> str:
    return FERRY.replace("SAIL", lines)


@needs_node
@pytest.mark.parametrize("case", TOLD)
def test_the_object_of_the_moment_is_told_what_to_do(case):
    made = built(script(TOLD[case]))
    ferry, owner = made.split("class Harbour")
    assert "this.x += " in ferry and "this.ferry.x += " not in owner
    assert outcome_of_javascript(script(TOLD[case])) == "same"


@needs_node
@pytest.mark.parametrize("case", STAYING)
def test_what_may_go_on_with_another_one_stays_with_the_owner(case):
    """Careless: `this.x += 1; …; this.load += 2`, of the one that was there when it began."""
    assert "this.ferry.x += 1" in built(script(STAYING[case]))
    assert outcome_of_javascript(script(STAYING[case])) == "same"


GAME = """\
player = {"x": 3, "lives": 3, "pace": 0}
turn = 0


def restart():
    global player
    player = {"x": 0, "lives": 3, "pace": 1}


def fall_player():
    player["pace"] += 1
    player["x"] += player["pace"]


def hit_player(by):
    player["lives"] -= by
    AFTER


while turn < 9:
    turn += 1
    fall_player()
    hit_player(turn % 2)
    print(player["x"], player["lives"], player["pace"])
    if player["lives"] == 1:
        restart()
"""


def test_it_is_so_in_python():
    text = GAME.replace("AFTER", 'player["x"] -= by')
    made = written(text)
    assert "def fall(self):" in made and "self.player.fall()" in made
    assert "self.player.hit(turn % 2)" in made and outcome(text) == "same"


def test_it_is_not_where_another_comes_meanwhile():
    text = GAME.replace("AFTER", 'if player["lives"] == 2:\n        restart()\n    player["x"] -= by')
    assert "self.player.lives -= by" in written(text) and outcome(text) == "same"


@needs_node
@settings(max_examples=40, deadline=None)
@given(seed=st.integers(0, 10**9), is_python=st.booleans())
def test_random_scripts_whose_things_are_exchanged_do_what_they_did(seed, is_python):
    text = write_changing(seed, is_python=is_python)
    assert (outcome(text) if is_python else outcome_of_javascript(text)) == "same"
