"""Objects that are nothing but the state of a script: what they hold is the owner's. Careless results stand beside them."""

from __future__ import annotations

import shutil

import pytest

from tests.support.javascript_lone import write_states
from tests.support.javascript_programs import built
from tests.support.javascript_scripts import outcome

GAME = """\
const state = {
  tide: 1, // of the river
  boats: [],
  over: false,
};
let turn = 0;

function rise(by) {
  state.tide += by;
  state.boats.push(turn);
  if (state.tide > 6) state.over = true;
}

while (!state.over) {
  turn += 1;
  rise(turn);
}
console.log(state.tide, `${state.boats.length} boats`);
"""


def test_what_it_holds_is_the_owners():
    made = built(GAME)
    assert "    this.tide = 1; // of the river\n    this.boats = [];\n    this.over = false;\n" in made.replace(
        "  //", " //"
    )
    assert "while (!this.over) {" in made and "`${this.boats.length} boats`" in made
    assert made.count("class ") == 1


def test_what_is_called_after_a_thing_stays_one():
    assert "class Ferry {" in built(GAME.replace("state", "ferry"))


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("console.log(state.tide,", "console.log(JSON.stringify(state),"),
        ("console.log(state.tide,", "const { tide } = state;\nconsole.log(tide,"),
        ("console.log(state.tide,", "state.more = 2;\nconsole.log(state.more,"),
        ("console.log(state.tide,", "delete state.tide;\nconsole.log(state.tide,"),
        ("console.log(state.tide,", 'console.log("tide" in state,'),
        ("console.log(state.tide,", "for (const key in state) console.log(key);\nconsole.log(state.tide,"),
        ("  over: false,", "  over: false,\n  ...{ far: 1 },"),
        ("  over: false,", "  over: false,\n  __proto__: { far: 1 },"),
        ("let turn = 0;", "let turn = 0;\nlet stateTide = 2;"),
    ],
)
def test_what_is_used_whole_stays_an_object(old, new):
    """Careless: what is asked for all that it holds holds nothing any more."""
    assert old in GAME
    assert "this.tide = 1; // of the river\n    this.boats" not in built(GAME.replace(old, new)).replace("  //", " //")


@pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")
@pytest.mark.parametrize("seed", range(6))
def test_random_states_do_what_they_did(seed):
    assert outcome(write_states(seed)).partition(":")[0] in ("same", "refused", "broken")
