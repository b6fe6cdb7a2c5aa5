"""A list of records becomes a class that has them all, and finds one by its key."""

from __future__ import annotations

import random
from pathlib import Path

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.design.document.reading import parse, read
from aedifex.design.document.updating import update
from aedifex.design.document.writing import write
from aedifex.moves.gather_data import GatherData
from aedifex.source.errors import DesignError, RefusedError
from tests.support.helpers import SCRIPT, moved, printed, program_of, written
from tests.support.scripts import outcome

PLACES = """\
places = [
    {"id": 1, "name": "quay", "load": 0},
    # the deep one
    {"id": 2, "name": "lock", "load": 2},
    {"id": 2, "name": "weir", "load": 1},
]
%s

for wanted in (1, 2, "lock", 9):
    try:
        print(look(wanted))
    except KeyError as error:
        print("missing", error)
print(places, [p["name"] for p in places], len(places))
"""
LOOK = """

def look(wanted):
    for p in places:
        if p["id"] == wanted:
            return p["name"]
    return "none"
"""


def gathered(text: str) -> str:
    return moved(text, GatherData(SCRIPT, "places", "Places"))["script.py"]


def random_look(seed: int) -> str:
    """A function that goes over the places, mostly to look for one."""
    chance = random.Random(seed)
    test = chance.choice(['p["id"] == wanted', 'wanted == p["id"]', 'p["name"] == wanted'])
    bodies = [
        ['return p["load"]'],
        ["# here", 'if p["load"] > 1:', '    return "much"', 'return p["name"]'],
        ['p["load"] += 1', "found = p", "break"],
        ["places.append(dict(p))", "return len(places)"],
        ["for q in places:", "    if q is p:", '        return "self"', "return 0"],
        ['raise KeyError(p["name"])'],
        ["print(p)"],
        ["continue"],
        ["found = p"],
        ["found = p"],
        ["found = p", "break"],
        ["found = [p]"],
        ["return p"],
        ["return p"],
        ["places.remove(p)", "places.append({'id': wanted, 'name': 'weir', 'load': 3})", "return p"],
        ["gone = places.remove(p)", "return [gone, places.append(p)]"],
    ]
    begin = [["def look(wanted):"], ["def look(asked):", "    wanted = asked"]][chance.random() < 0.3]
    again = ["    wanted = asked + 0"] if len(begin) > 1 and chance.random() < 0.1 else []
    lines = [*begin, *again, f"    found = {chance.choice(['None'] * 5 + ['0'])}", "    for p in places:"]
    lines += ["        # look"] * (chance.random() < 0.1)
    lines += [f"        if {test}:", *(f"            {line}" for line in chance.choice(bodies))]
    lines += ["    else:", "        return 'else'"] if chance.random() < 0.1 else []
    ends = ["found", "len(places)", "p", "[p for p in places]", "None", "None", ""]
    lines += [f"    return {end}".rstrip()] if (end := chance.choice(ends)) else []
    lines[-1] += "  # that is all" * (chance.random() < 0.1)
    others = [
        "places[0]['name'] = 'lock'",
        "places[0]['id'] = 3",
        "def add():\n    places.append({'id': 1, 'name': 'lock'})",
    ]
    lines += ["", "", chance.choice(others)] if chance.random() < 0.2 else []
    return "\n\n" + "\n".join(lines) + "\n"


def assert_same(texts: list[str]) -> None:
    """Scripts print the same when their places are gathered, and some of them can be."""
    done = 0
    for text in texts:
        try:
            result = gathered(text)
        except RefusedError:
            continue
        done += 1
        assert printed(result) == printed(text), text
    assert done > 1


def random_asking(seed: int) -> str:
    """Functions that ask in one expression, mostly for one place or for all of a sort."""
    chance = random.Random(seed)

    def question() -> str:
        item = chance.choice(["p", "place", "spot"])
        key, sign = chance.choice(["id", "id", "name", "load"]), chance.choice(["==", "==", "==", "!=", ">="])
        wanted = chance.choice(["wanted"] * 4 + ["2", "'lock'", "len(places)", f"{item}['load']", "str(wanted)"])
        test = f"{item}[{key!r}] {sign} {wanted}" if chance.random() < 0.8 else f"{wanted} {sign} {item}[{key!r}]"
        each = f"{item if chance.random() < 0.9 else 'wanted'} for {item} in places if {test}"
        ways = [f"next(({each}), None)"] * 3 + [f"[{each}]"] * 3
        return chance.choice(
            [*ways, f"next(({each}), 0)", f"next(\n        ({each}), None\n    )", f"{{*[{each}][:1]}}"]
        )

    asking = "".join(f"    asked = {question()}\n    print(asked)\n" for _ in range(chance.randint(1, 3)))
    return f"\n\ndef look(wanted):\n{asking}    return asked\n"


@pytest.mark.parametrize("block", range(8))
def test_who_asks_in_one_expression_is_told_the_same(block):
    texts = [PLACES % random_asking(seed) for seed in range(block * 10, block * 10 + 10)]
    assert_same([text.replace("KeyError as", "(KeyError, TypeError) as") for text in texts])


def test_questions_have_the_name_of_what_they_ask():
    text = """
    PLACES = [
        {"id": 1, "name": "quay", "load": 0},
        {"id": 2, "name": "lock", "load": 2},
    ]


    def look(wanted):
        place = next((p for p in PLACES if p["id"] == wanted), None)
        return place or [p for p in PLACES if p["name"] == wanted] or len(PLACES)


    print(look(1), look("lock"), [p for p in PLACES if p["load"] == 2], look(4))
    """
    result = moved(text, GatherData(SCRIPT, "PLACES", "Places"))["script.py"]
    found = 'return next((place for place in self._places if place["id"] == wanted), None)'
    assert f"    def find(self, wanted):\n        {found}\n" in result
    assert (
        '    def with_load(self, load):\n        return [place for place in self._places if place["load"] == load]'
        in result
    )
    assert "return place or PLACES.with_name(wanted) or len(PLACES.all())" in result and "PLACES.with_load(2)" in result
    assert printed(result) == printed(text)


def test_data_is_named_beside_functions_of_its_name():
    text = (PLACES % LOOK).replace("places", "PLACES").replace("def look", "def places").replace("look(", "places(")
    assert "self.place_data.find(wanted)" in written(text) and outcome(text) == "same"


@pytest.mark.parametrize("block", range(8))
def test_the_program_does_the_same(block):
    assert_same([PLACES % random_look(seed) for seed in range(block * 10, block * 10 + 10)])


def test_the_last_that_has_the_value_is_the_only_one():
    text = PLACES % LOOK.replace('            return p["name"]', "            found = p").replace(
        "    for", "    found = None\n    for"
    ).replace('return "none"', "return found").replace('["id"]', '["name"]')
    assert "    found = places.find(wanted)\n    return found\n" in gathered(text)
    with pytest.raises(RefusedError):
        gathered(text.replace('["name"] ==', '["id"] =='))
    for change in ("places.append({})", "keep = places", "places[0]['name'] = 'lock'", "places.sort()"):
        with pytest.raises(RefusedError):
            gathered(text + f"\n{change}\n")


def test_who_only_looks_hands_on_what_is_found_and_records_come_and_go():
    text = PLACES % LOOK.replace('return p["name"]', "return p").replace('"none"', "None")
    text += """

def change(name):
    places.append({"id": 5, "name": name, "load": 0})
    places.remove(places[0])


change("mill")
print(places)
"""
    result = gathered(text)
    assert "def look(wanted):\n    return places.find(wanted)\n" in result
    assert "    def add(self, place):\n        self._places.append(place)\n" in result
    assert "    def remove(self, place):\n        self._places.remove(place)\n" in result
    assert "    places.remove(places.all()[0])\n" in result
    assert printed(result) == printed(text)


def test_comments_and_what_follows_stay():
    text = PLACES.replace("]\n%s", "]  # from the map\n%s") % LOOK.replace(
        "            return", "            # it is\n            return"
    )
    result = gathered("# the places of boats\n" + text)
    assert (
        "            # the deep one\n" in result
        and "# the places of boats\nplaces = Places()  # from the map\n" in result
    )
    assert '    p = places.find(wanted)\n    if p is not None:\n        # it is\n        return p["name"]\n' in result
    assert "print(places.all(), [p" in result and printed(result) == printed(text)


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        (PLACES % LOOK.replace('["id"] ==', '["id"] <'), "no function looks"),
        (PLACES % LOOK.replace("return p", "print(p); p"), "no function looks"),
        (PLACES % LOOK.replace("== wanted", "== wanted + 1"), "no function looks"),
        (PLACES % LOOK.replace('return "none"', "return p"), "no function looks"),
        (PLACES % LOOK + "places = places[:1]\n", "no list of records"),
        (PLACES.replace("places = [", "places = places or [") % LOOK, "no list of records"),
        (PLACES % LOOK + "Places = 3\n", "in use already"),
        (PLACES % LOOK + "print(globals()['places'])\n", "globals"),
    ],
)
def test_refused(text, reason):
    with pytest.raises(RefusedError, match=reason):
        gathered(text)


def test_a_draft_makes_such_classes_and_a_design_may_do_without(tmp_path):
    program = program_of(PLACES % LOOK)
    design = propose(program)
    assert [(plan.name, plan.file, plan.variable) for plan in design.data] == [("Places", "places.py", "places")]
    files = {path.name: m.source.data.decode() for path, m in build(program, design).program.modules.items()}
    assert files["places.py"].startswith("class Places:") and "self.places.find(wanted)" in files["script.py"]
    text = write(design)
    without = parse(
        tmp_path / "x.design.toml",
        text.replace(text[text.index("[[data]]") : text.index('from = "places"\n') + 16], ""),
    )
    assert without.data == [] and "class Places" not in str(build(program, without).program.main.source.data)
    with pytest.raises(DesignError, match="no variable `placs"):
        build(program, parse(Path("x.design.toml"), text.replace('from = "places"', 'from = "placs"')))


def test_a_second_draft_keeps_them_while_the_list_is_there(tmp_path):
    path = tmp_path / "x.design.toml"
    path.write_text(write(propose(program_of(PLACES % LOOK))).replace('name = "Places"', 'name = "Map"'))
    changed = program_of("# new\n" + PLACES % LOOK)
    path.write_text(update(path.read_text(), read(path), propose(changed)).text)
    assert [plan.name for plan in read(path).data] == ["Map"]
    done = update(path.read_text(), read(path), propose(program_of((PLACES % LOOK).replace("places", "spots"))))
    assert "class Map" in done.gone and "class Spots" in done.added


BIKES = """\
bikes = [{"id": 1, "km": 5}, {"id": 2, "km": 6}]


def ride(number, km):
    for bike in bikes:
        if bike["id"] == number:
            bike["km"] += km
            print("so far", bike["km"])


def change(number, data):
    print(number, data, len(bikes))


change(1, {"id": 2})
ride(2, 4)
ride(3, 1)
"""


def test_a_loop_that_is_not_left_looks_for_one_where_there_is_only_one():
    text = moved(BIKES, GatherData(SCRIPT, "bikes", "Bikes"))[SCRIPT.name]
    assert '    bike = bikes.find(number)\n    if bike is not None:\n        bike["km"] += km\n' in text
    assert printed(text) == printed(BIKES)


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("print(number, data, len(bikes))", "bikes[0].update(data)"),
        ("print(number, data, len(bikes))", "for key in data:\n        bikes[0][key] = data[key]"),
        ("print(number, data, len(bikes))", "for bike in bikes:\n        bike |= data"),
        ("print(number, data, len(bikes))", "bikes[0]['id'] = 2"),
        ("print(number, data, len(bikes))", "operator.setitem(bikes[0], 'id', 2)"),
        ("print(number, data, len(bikes))", "bikes.append(data)"),
        ('{"id": 2, "km": 6}]', '{"id": 1, "km": 6}]'),
        ('print("so far", bike["km"])', "number += 1"),
        ('bike["id"] == number', 'bike["id"] != number'),
    ],
)
def test_another_that_is_not_left_stays(old, new):
    assert old in BIKES
    with pytest.raises(RefusedError):
        moved("import operator\n\n" + BIKES.replace(old, new), GatherData(SCRIPT, "bikes", "Bikes"))
