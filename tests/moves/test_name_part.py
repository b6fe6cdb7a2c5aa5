"""name_part: what a function asks a table for again and again gets a name, as long as it is the same."""

from __future__ import annotations

import pytest

from aedifex.moves.name_part import NamePart
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed
from tests.support.named_parts import with_names, write_askings

ROOMS = """\
rooms = {"landing": {"to": "hut", "things": ["rope"]}, "hut": {"to": "landing", "things": []}}
where = "landing"


def look():
    print(rooms[where]["things"])
    if rooms[where]["things"]:
        print("There is", rooms[where]["things"][0])


def go(far):
    global where
    if rooms[where]["to"] != "shed":
        print("from", rooms[where])
        where = rooms[where]["to"]
        if far:
            print("to", rooms[where]["to"])


look()
go(True)
look()
"""


def named(text: str) -> str:
    after = moved(text, NamePart(SCRIPT, "rooms"))[SCRIPT.name]
    assert printed(after) == printed(text)
    return after


def test_an_element_has_a_name_until_it_is_another():
    text = named(ROOMS)
    assert '    room = rooms[where]\n    print(room["things"])\n    if room["things"]:\n' in text
    assert '        where = room["to"]\n        if far:\n            print("to", rooms[where]["to"])\n' in text


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("look()\ngo", "others = rooms\nlook()\ngo"),
        ("look()\ngo", "rooms = dict(rooms)\nlook()\ngo"),
    ],
)
def test_a_table_that_may_get_others_is_asked_each_time(old, new):
    with pytest.raises(RefusedError, match="for an element by the same name"):
        moved(ROOMS.replace(old, new), NamePart(SCRIPT, "rooms"))


def test_an_element_has_a_name_until_the_table_gets_others():
    text = named(ROOMS.replace("look()\ngo", "rooms['hut'] = {'to': 'hut', 'things': [1]}\nlook()\ngo"))
    assert '    print(room["things"])\n' in text
    text = named(ROOMS.replace("    if rooms", "    rooms[where] = {'to': 'hut', 'things': [2]}\n    if rooms", 1))
    assert '    if rooms[where]["things"]:\n' in text


@pytest.mark.parametrize(
    "first",
    ["if where in rooms and ", "if not where or ", "print(go(False), where) or ", "show = lambda: "],
)
def test_what_is_not_asked_whatever_happens_is_not_asked_early(first):
    end = ":\n        print(1)\n" if first.startswith("if") else "\n"
    function = f'def look():\n    {first}rooms[where]["things"]{end}    print(rooms[where]["things"])\n'
    text = ROOMS[: ROOMS.index("def look")] + function + ROOMS[ROOMS.index("\n\ndef go") :]
    assert f'{first}rooms[where]["things"]' in named(text)


@pytest.mark.parametrize("seed", range(15))
def test_random_functions_that_ask_again(seed):
    assert with_names(write_askings(seed)) in ("same", "refused")
