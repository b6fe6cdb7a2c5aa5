"""Kinds that are kept as rows, in a draft: their names, doubts, and that each can be left."""

from __future__ import annotations

import pytest

from aedifex.construction.kinds import find_kinds, made_of
from aedifex.construction.prepare import opened
from tests.support.helpers import program_of
from tests.support.scripts import outcome

TWO = """\
kites = [[3, 10, 0.5], [5, 2, 0.7]]
drops = [[1, 2, 3], [4, 5, 6]]


def fly():
    for kite in kites:
        kite[0] += kite[2]
        print((kite[0], kite[1]))
    for drop in drops:
        drop[1] -= drop[2]
        x = drop[0]
        print(x)


fly()
"""


def names_of(text, without=()):
    found = find_kinds(opened(program_of(text)), without)
    return {plan.name: [field.name for field in plan.fields] for plan in found.plans}, found.doubts


def test_places_are_named_by_what_is_done_with_them():
    assert names_of(TWO)[0] == {"Kite": ["x", "y", "speed"], "Drop": ["x", "y", "speed"]}


def test_a_place_of_which_nothing_is_said_is_doubted():
    text = TWO.replace("kite[0] += kite[2]", "kite[0] += 1\n        print(kite[2] > 2)")
    plans, doubts = names_of(text)
    assert plans["Kite"] == ["x", "y", "value_2"]
    assert any("Kite.value_2 needs a better name" in doubt for doubt in doubts)


def test_rows_of_which_hardly_anything_is_said_stay_rows():
    board = (
        "board = [[0, 0, 0], [0, 0, 0], [0, 0, 0]]\nboard[1][1] = 5\nprint(board[0][0] == board[1][1], board[2][2])\n"
    )
    assert names_of(board)[0] == {}


def test_rows_of_which_nothing_is_said_are_doubted():
    text = "kites = [[3, 10, 4], [5, 2, 1]]\nfor kite in kites:\n    kite[0] = kite[2]\nprint(kites[0][0])\n"
    plans, doubts = names_of(text)
    assert plans == {}
    assert any("nothing in the script says what stands at most of their places" in doubt for doubt in doubts)


SETTLED = """\
X, LIFT, COLOR = 0, 1, 2
kites = [[3, 10, "red"], [5, 2, "blue"]]
for kite in kites:
    kite[X] += kite[LIFT]
    print(kite[COLOR], kite[X])
"""


def test_numbers_with_names_name_the_places_and_go():
    assert names_of(SETTLED)[0] == {"Kite": ["x", "lift", "color"]}
    assert b"LIFT" not in find_kinds(opened(program_of(SETTLED))).program.main.source.data


@pytest.mark.parametrize(
    "lines",
    ["print(X)", "def turn():\n    global LIFT\n    LIFT = 0", "for LIFT in range(2):\n    print(LIFT)"],
)
def test_numbers_that_are_used_otherwise_stay(lines):
    text = f"{SETTLED}{lines}\n"
    assert b"LIFT" in find_kinds(opened(program_of(text))).program.main.source.data
    assert not outcome(text).startswith("different")


def test_one_kind_can_be_left_without_the_other():
    found = find_kinds(opened(program_of(TWO)))
    kites, drops = found.plans
    assert made_of(kites) != made_of(drops)
    assert list(names_of(TWO, [made_of(kites)])[0]) == ["Drop"]
