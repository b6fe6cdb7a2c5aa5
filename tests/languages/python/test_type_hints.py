"""Type hints: where they say what a thing is, and what becomes of them when it becomes an object."""

from __future__ import annotations

import pytest

from aedifex.languages.python.type_hints import place_of_type
from tests.support.handfuls import write_handfuls
from tests.support.helpers import written
from tests.support.kinds import STORES
from tests.support.scripts import outcome
from tests.support.typed import with_hints


@pytest.mark.parametrize(
    ("hint", "depth", "expected"),
    [
        ("dict", 0, "dict"),
        ("dict[str, int]", 0, "dict[str, int]"),
        ("Optional[dict]", 0, "dict"),
        ("typing.Optional[Dict[str, Any]]", 0, "Dict[str, Any]"),
        ("None | dict", 0, "dict"),
        ("Union[dict, None]", 0, "dict"),
        ("'dict | None'", 0, "dict"),
        ("list[dict]", 1, "dict"),
        ("List[List[dict]]", 2, "dict"),
        ("dict[str, list[dict]]", 2, "dict"),
        ("tuple[dict, ...]", 1, "dict"),
        ("Optional[list[dict]]", 1, "dict"),
        ("list['dict']", 1, "'dict'"),
        ("list", 1, None),
        ("dict | int", 0, None),
        ("tuple[int, dict]", 1, None),
        ("Ferry[dict]", 1, None),
        ("dict[str]", 1, None),
        ("'a' 'b'", 0, None),
        ("list[\n    dict]", 1, None),
        ("not a hint", 0, None),
    ],
)
def test_a_hint_says_what_stands_so_deep(hint, depth, expected):
    place = place_of_type(hint, depth)
    assert (hint.encode()[place[0] : place[1]].decode() if place is not None else None) == expected


BOATS = """\
from typing import Any, Dict, Optional

boats: list[dict] = []
spare: Dict[str, Any] | None = None
turn: int = 0


def make_boat(name: str, seats: int) -> Dict[str, Any]:
    return {"name": name, "seats": seats, "load": 0}


def board(boat: Dict[str, Any], people: int) -> bool:
    boat["load"] += people
    return boat["load"] > boat["seats"]


def swap(boat: dict, other: Optional[dict]) -> "dict":
    if other is not None:
        boat["load"], other["load"] = other["load"], boat["load"]
    return boat


def find(name: str) -> Optional[dict]:
    for boat in boats:
        if boat["name"] == name:
            return boat
    return None


boats.append(make_boat("Ida", 4))
boats.append(make_boat("Ole", 6))
while turn < 4:
    turn += 1
    spare = find("Ida")
    for boat in boats:
        print(board(boat, turn), swap(boat, spare)["load"])
"""


def test_hints_name_the_class_and_imports_for_others_go():
    text = written(BOATS)
    assert "def __init__(self, name: str, seats: int):" in text
    assert "def board(self, people: int) -> bool:" in text
    assert 'def swap(self, other: "Optional[Boat]") -> "Boat":' in text
    assert "def find(self, name: str) -> Optional[Boat]:" in text
    assert 'self.boats: "list[Boat]" = []' in text
    assert "Dict" not in text
    assert "Any" not in text
    assert outcome(BOATS) == "same"


def test_hints_that_are_not_evaluated_need_no_quotes():
    text = written(f"from __future__ import annotations\n{BOATS}")
    assert "def swap(self, other: Optional[Boat])" in text
    assert "self.boats: list[Boat] = []" in text


def test_lists_side_by_side_have_no_hints_any_more():
    text = "from typing import List\nnames: List[str] = []\nheights: List[int] = []\n\n\ndef add(name, height):\n"
    text += "    names.append(name)\n    heights.append(height)\n\n\nadd('Ida', 3)\nadd('Ole', 5)\n"
    text += "for i in range(len(names)):\n    heights[i] += 2\n    print(names[i], heights[i])\n"
    assert "List" not in written(text)
    assert outcome(text) == "same"


@pytest.mark.parametrize("store", [*STORES, "lists"])
@pytest.mark.parametrize("seed", range(9000, 9006))
def test_scripts_with_hints_do_what_they_did(store, seed):
    write = STORES.get(store, write_handfuls)
    assert not outcome(with_hints(write(seed), seed)).startswith("different")
