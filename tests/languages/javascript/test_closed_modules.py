"""Functions called at once that give back functions of their own: beside each case stands what a careless move makes."""

from __future__ import annotations

import shutil

import pytest

from tests.support.javascript_programs import built
from tests.support.javascript_scripts import outcome

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

TIDE = """\
let crossings = 0;

function cross(by) {{
  Tide.rise(by);
  crossings += by;
}}
{above}
const Tide = {opened}
  let level = 0;{inside}

  function rise(by) {{
    level += by;{rising}
  }}

  function tell() {{
    console.log("level", level);
  }}

  {giving}
{closed}

cross(2);
{use}
Tide.tell();
console.log(crossings);
"""


def tide(**parts: str) -> str:
    plain = {"opened": "(function () {", "giving": "return { rise: rise, tell };", "closed": "})();"}
    others = dict.fromkeys(("above", "inside", "rising", "use"), "")
    return TIDE.format(**{**others, **plain, **parts})


GATHERED = {
    "plain": {},
    "an arrow": {"opened": "(() => {"},
    "called inside": {"closed": "}());"},
    "nameless functions": {
        "giving": "return {\n    rise,\n    tell,\n    // ebb\n    fall: function (by) { level -= by; },\n"
        "    deep() {\n      return level > 2;\n    },\n    shown: () => level,\n  };",
        "use": "Tide.fall(1);\nconsole.log(Tide.deep(), Tide.shown());",
    },
    "other names": {"giving": "return { rise, tell, ebb: tell, again: rise };", "use": "Tide.again(3);\nTide.ebb();"},
    "handed on": {"use": "const up = Tide.rise;\nup(1);\n[1, 2].forEach(Tide.rise);\nsetTimeout(Tide.tell, 1);"},
    "names that are in use": {"above": "let tideLevel = 4;\n", "use": "tideLevel += 1;\nTide.rise(tideLevel);"},
    "a name that is hidden": {"rising": "\n    { let level = 9; crossings += level; }"},
    "work at the begin": {"inside": "\n  for (let i = 0; i < 3; i++) level += i;\n  console.log('begin', level);"},
    "itself": {"rising": "\n    if (level < 2) Tide.rise(by);"},
}


@needs_node
@pytest.mark.parametrize("case", GATHERED)
def test_what_its_functions_share_becomes_a_class(case):
    text = tide(**GATHERED[case])
    made = built(text)
    assert "class Tide" in made and "(function ()" not in made and "(() => {" not in made
    assert outcome(text) == "same"


STAYING = {
    "seen as a whole": {"use": "console.log(Object.keys(Tide).join());"},
    "by a key": {"use": "Tide['rise'](1);"},
    "taken apart": {"use": "const { rise } = Tide;\nrise(1);"},
    "changed": {"use": "Tide.rise = (by) => console.log('no', by);\nTide.rise(1);"},
    "asked for what it has not": {"use": "if (Tide.none) Tide.none();"},
    "called in another way": {"use": "Tide.rise.call(null, 2);"},
    "asked for a name": {"use": "console.log(Tide.rise.name);"},
    "called twice": {"giving": "return () => ({ rise, tell });", "closed": "})()();"},
    "a value is given back": {"giving": "return { rise, tell, level };", "use": "console.log(Tide.level);"},
    "a value that is worked out": {"giving": "return { rise, tell, get deep() { return level; } };"},
    "what it is called on": {"giving": "return { rise, tell, more() { this.rise(2); } };", "use": "Tide.more();"},
    "no object": {"rising": "\n    crossings += this === undefined ? 1 : 2;"},
    "rules of its own": {"opened": "(function () {\n  'use strict';"},
    "left early": {"inside": "\n  if (crossings > 9) return null;"},
}


@needs_node
@pytest.mark.parametrize("case", STAYING)
def test_what_is_more_than_its_functions_stays(case):
    """Careless: it is there too early, is not what it was, or its functions ask for what they have not any more."""
    text = tide(**STAYING[case])
    made = built(text)
    assert "function tideRise" not in made and "class Tide {" not in made
    assert outcome(text) == "same"
