"""Records of one sort of which some are made without a key: nobody may be able to tell that they have it as a field."""

from __future__ import annotations

import shutil

import pytest

from tests.support.helpers import written
from tests.support.javascript_programs import built as built_javascript
from tests.support.javascript_scripts import outcome as outcome_of_javascript
from tests.support.scripts import outcome

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

ROOMS = """\
rooms = {
    "quay": {"name": "the quay", "items": ["rope"]},
    "shed": {"name": "the shed", "items": [], "dark": True},
    "mast": {"dark": 5, "name": "the mast", "items": ["flag"]},
}
here = "quay"
turns = 0


def look():
    global turns
    turns += 1
    room = rooms[here]
    print(room["name"], len(room["items"]))


def go(where):
    global here
    here = where
    look()


go("quay")
go("shed")
for name in rooms:
    room = rooms[name]
    try:
        SEEN
    except KeyError as error:
        print("nothing", error)
    print(turns)
"""
FIELDS = {
    "is given where it is not": 'print(room.setdefault("dark", 1))',
    "is looked up": 'print(room.get("dark"), room["name"])',
    "is looked up with something instead": 'print(room.get("dark", False), room.get("dark", False) == 5)',
    "is set": 'room["dark"] = turns',
    "is set and looked up": 'room["dark"] = turns\n        print(room.get("dark", 3))',
}
KEYS = {
    "is asked for": 'print(room["dark"])',
    "is looked up with this and that": 'print(room.get("dark", 1), room.get("dark", 2))',
    "is looked for": 'print("dark" in room)',
    "is taken out": 'print(room.pop("dark", 0))',
    "is seen among all": "print(sorted(room))",
    "is counted": "print(len(room))",
    "is shown": "print(room)",
    "is copied": "print(dict(room))",
    "is compared": 'print(room == {"name": "the quay", "items": ["rope"], "dark": None})',
}
"""What tells a key that is not there from one that holds nothing; careless: `Room(…, dark=None)` all the same."""


def script(seen: str) -> str:
    return ROOMS.replace("SEEN", seen)


@pytest.mark.parametrize("case", FIELDS)
def test_a_key_that_some_are_made_without_becomes_a_field(case):
    made = written(script(FIELDS[case]))
    assert "class Room:" in made and "dark=" in made and outcome(script(FIELDS[case])) == "same"


@pytest.mark.parametrize("case", KEYS)
def test_a_key_that_can_be_told_from_none_stays_one(case):
    assert "class Room:" not in written(script(KEYS[case])) and outcome(script(KEYS[case])) == "same"


def test_what_is_looked_up_instead_is_the_default():
    made = written(script(FIELDS["is looked up with something instead"]))
    assert "def __init__(self, name, items, dark=False):" in made
    assert 'Room("the quay", ["rope"]),' in made and 'Room("the shed", [], dark=True),' in made


def test_records_that_have_little_in_common_stay_records():
    text = script("print(room['name'])").replace('"items": []', '"items": [], "lamp": 1, "oil": 2, "wick": 3')
    assert "class Room:" not in written(text) and outcome(text) == "same"


QUAYS = """\
const quays = [
  { name: "north", kites: 2 },
  { lamp: true, name: "south", kites: 0 },
];
let turns = 0;

function add(name, kites) {
  quays.push({ name, kites });
}

while (turns < 3) {
  turns++;
  add("k" + turns, turns);
  for (const quay of quays) {
    quay.kites += turns;
    SEEN
  }
}
"""
MEMBERS = {
    "is asked for": "console.log(quay.lamp, quay.lamp === undefined);",
    "is set": "quay.lamp = turns; console.log(quay.lamp);",
    "has a default": "const { lamp = 5, name } = quay; console.log(lamp, name);",
    "has something instead": "console.log(quay.lamp ?? 'dark');",
}
OWN_KEYS = {
    "is looked for": "console.log('lamp' in quay);",
    "is asked for as its own": "console.log(quay.hasOwnProperty('lamp'));",
    "is seen among all": "console.log(Object.keys(quay).length);",
    "is walked over": "for (const key in quay) console.log(key);",
    "is shown": "console.log(quay);",
    "is written down": "quay.lamp = quay.lamp || null; console.log(JSON.stringify(quay));",
    "is copied": "console.log(Object.keys({ ...quay }).length);",
    "is taken away": "delete quay.lamp; console.log(quay.lamp);",
}
"""What tells a member that is not there from one that is `undefined`."""


def sketch(seen: str) -> str:
    return QUAYS.replace("SEEN", seen)


@needs_node
@pytest.mark.parametrize("case", MEMBERS)
def test_a_member_that_some_are_made_without_becomes_a_field(case):
    made = built_javascript(sketch(MEMBERS[case]))
    assert "constructor(name, kites, lamp)" in made
    assert 'new Quay("north", 2),' in made and 'new Quay("south", 0, true),' in made
    assert outcome_of_javascript(sketch(MEMBERS[case])) == "same"


@needs_node
@pytest.mark.parametrize("case", OWN_KEYS)
def test_a_member_that_can_be_told_from_undefined_stays_one(case):
    assert "class Quay" not in built_javascript(sketch(OWN_KEYS[case]))
    assert outcome_of_javascript(sketch(OWN_KEYS[case])) == "same"


@needs_node
def test_values_of_objects_are_worked_out_in_the_order_of_the_script():
    """Careless: what is worked out for `lamp` comes last, for the constructor is given it last."""
    text = sketch("console.log(quay.lamp);").replace("lamp: true", 'lamp: told("lamp")').replace('"south"', 'told("s")')
    text = f"function told(what) {{\n  console.log(what);\n  return what;\n}}\n\n{text}"
    assert outcome_of_javascript(text) == "same" and "class Quay" not in built_javascript(text)
