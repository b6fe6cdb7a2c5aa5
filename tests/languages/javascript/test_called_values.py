"""What is called by a name of its own: no object is told to it, wherever it is kept."""

from __future__ import annotations

import shutil

import pytest

from tests.support.javascript_given import write_handed, write_with_named
from tests.support.javascript_programs import built, refusal
from tests.support.javascript_scripts import outcome

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

SCRIPT = """\
const shown = [];
GIVEN
let asked = 0;

function ask(by) {
  asked += by;
  shown.push(kindOf());
  console.log(asked, shown);
}

ask(2);
ask(3);
"""
STAYING = {
    "const kindOf = Object.prototype.toString;": "",
    "const { toString: kindOf } = Object.prototype;": "",
    "const kinds = Object.prototype, kindOf = kinds.toString;": "",
    "let kindOf = Object.prototype.toString;\\nconst other = kindOf();\\nkindOf = other ? kindOf : null;": "",
}
"""Careless: `this.kindOf()` says `[object Harbour]`, as the function is told whose member it is then."""
TABLE = """\
const state = { lamps: 0, kindOf: Object.prototype.toString };

function ask(by) {
  state.lamps += by;
  console.log(state.lamps, state.kindOf());
}

ask(2);
ask(3);
"""


@needs_node
def test_a_function_in_a_table_is_told_of_that_as_before():
    """Careless: variables in the place of the table, of which the one that is called tells nothing."""
    assert "this.state.kindOf()" in built(TABLE) and outcome(TABLE) == "same"


KEPT = {
    "let kindOf = null;\nkindOf = () => 'mine';": "this.kindOf()",
    "let kindOf = null;\nfunction learn() { kindOf = ask.bind(null, 0); }": "this.kindOf()",
}
"""What is told nothing, whatever it is a member of."""


@needs_node
@pytest.mark.parametrize("given", STAYING)
def test_a_function_of_somebody_else_keeps_the_name_by_which_it_is_called(given):
    text = SCRIPT.replace("GIVEN", given.replace("\\n", "\n"))
    assert "(kindOf())" in built(text) and outcome(text) == "same"


@pytest.mark.parametrize("given", KEPT)
def test_what_is_told_nothing_is_kept_like_other_values(given):
    assert KEPT[given] in built(SCRIPT.replace("GIVEN", given))


HANDED = """\
HANDING(function (stage) {
  const kindOf = Harbour.kindOf;
  let asked = 0;

  function ask() {
    asked += 1;
    console.log(asked, kindOf());
  }

  ask();
  ask();
});
"""


def test_what_waits_for_its_call_asks_for_no_library_before():
    """Careless: `const kindOf = Harbour.kindOf` at the top, where the library may not be there yet."""
    assert "is called, and what it holds would be told" in refusal(HANDED.replace("HANDING", "later"))
    assert built(HANDED.replace("HANDING", "Harbour.scene")).startswith("const kindOf = Harbour.kindOf;\n")


def test_what_is_called_more_than_once_shares_nothing_at_the_top_level():
    """Careless: what cannot move stays there, is done when the file is read, and is the same for all calls."""
    text = HANDED.replace("asked += 1;", "asked += this.step || 1;").replace("HANDING", "Harbour.scene")
    assert refusal(text) == "this would be done when the file is read, and once for all"


HANDED_TWICE = {
    "what nothing declares": """\
[1, 2].forEach(function () {
  lamps = 0;
  let step = 0;

  const light = () => {
    step += 1;
    lamps += step;
    console.log(lamps);
  };

  light();
  setTimeout(light, 5);
});
""",
    "what is there before it stands there": """\
let lamps = 0;
[3, 4].forEach(function (stage) {
  show();

  function tell(by) {
    lamps += by;
    console.log(lamps);
  }

  function show() {
    tell(stage);
  }
});
console.log(lamps);
""",
}
"""Careless: a field of each object for what is one for all; an arrow where a function is called above its place."""


@needs_node
@pytest.mark.parametrize("what", HANDED_TWICE)
def test_what_is_handed_on_does_the_same(what):
    assert outcome(HANDED_TWICE[what]).partition(":")[0] in ("same", "refused")


@needs_node
@pytest.mark.parametrize("seed", range(3))
def test_random_scripts_with_names_for_functions_of_others(seed):
    assert outcome(write_with_named(seed)).partition(":")[0] in ("same", "refused", "broken")


@needs_node
@pytest.mark.parametrize("seed", [4, 37, 90])
def test_random_scripts_that_are_handed_to_something(seed):
    assert outcome(write_handed(seed)).partition(":")[0] in ("same", "refused", "broken")
