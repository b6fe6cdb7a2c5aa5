"""collect: lists that functions are given come into tables, wherever the list itself is meant, and nowhere else."""

from __future__ import annotations

import pytest

from aedifex.construction.propose import propose
from aedifex.moves.collect import Collect
from aedifex.source.errors import RefusedError
from tests.support.handfuls import write_handfuls
from tests.support.helpers import SCRIPT, moved, printed, program_of
from tests.support.scripts import outcome

PILES = """\
import random

left = []
right = [4]


def stack(pile, crate):
    pile.append(crate)
    return len(pile)


def lower(pile):
    if pile:
        pile.pop()


stack(left, 1)
stack(right, 2)
lower(right)
@
print(left, right)
"""


def collected(line: str = "") -> str:
    text = PILES.replace("@", line)
    result = moved(text, Collect(SCRIPT, "left"))["script.py"]
    assert printed(result) == printed(text)
    return result


@pytest.mark.parametrize(
    ("line", "expected"),
    [
        ("", 'left = {"crates": []}\nright = {"crates": [4]}'),
        ("", '    pile["crates"].append(crate)\n    return len(pile["crates"])'),
        ("", '    if pile["crates"]:'),
        ("", "stack(left, 1)"),
        ("print(*left, left[0], left == right)", 'print(*left["crates"], left["crates"][0], left["crates"] == right'),
        ("left = left + [3]", 'left = {"crates": left["crates"] + [3]}'),
        ("left += [3]", 'left["crates"] += [3]'),
        ("left, right = right, left", "left, right = right, left"),
        ("other = right\nother.append(8)", 'other = right\nother["crates"].append(8)'),
        (
            "other = left if random.random() < 0 else right\nlower(other)",
            "other = left if random.random() < 0 else right",
        ),
        ("for pile in (left, right):\n    lower(pile)", "for pile in (left, right):\n    lower(pile)"),
        ("lower(random.choice([right, right]))", "lower(random.choice([right, right]))"),
        ("left = right[:]", 'left = {"crates": right["crates"][:]}'),
        ("third, fourth = [], [7]\nlower(fourth)", 'third, fourth = [], {"crates": [7]}'),
        ("stack([5], 6)", 'stack({"crates": [5]}, 6)'),
        ("print([crate for crate in left])", 'for crate in left["crates"]]'),
        ("def fresh():\n    pile = [1]\n    return pile\n\n\nleft = fresh()", "    return pile\n\n\nleft = fresh()"),
    ],
)
def test_the_list_is_under_the_key_where_it_is_meant(line, expected):
    assert expected in collected(line)


@pytest.mark.parametrize(
    "line",
    [
        "piles = {'left': left}\nfor name in piles:\n    lower(piles[name])",
        "left = None\nleft = []",
        "del left",
        "for pile in sorted([left, right]):\n    lower(pile)",
        "later = lower\nlater(left)",
        "lower(*[left])",
        "lower(max(left, right))",
        "left = (right,)[0]",
        "[left, right] = [right, left]",
        "print(f'{left=!r:>{len(left)}}')",
        "globals()['left'] = []",
    ],
)
def test_what_is_not_understood_is_refused(line):
    with pytest.raises(RefusedError):
        collected(line)


@pytest.mark.parametrize("text", [PILES.replace("right = [4]", "right = left"), PILES.replace(".append", ".index")])
def test_one_list_alone_and_lists_that_never_change_are_none(text):
    with pytest.raises(RefusedError):
        moved(text.replace("@", "").replace("pile.pop()", "len(pile)"), Collect(SCRIPT, "left"))


def test_a_draft_makes_objects_of_them_with_what_functions_do():
    text = PILES.replace("@", "while len(right) < 9:\n    stack(right, 3)\n    print(right)")
    plan = propose(program_of(text)).kinds[0]
    assert (plan.name, plan.store) == ("Pile", "lists")
    assert [method.name for method in plan.methods] == ["stack", "lower"]
    assert outcome(text) == "same"


@pytest.mark.parametrize("seed", range(9000, 9018))
def test_lists_that_are_given_do_what_they_did(seed):
    assert not outcome(write_handfuls(seed)).startswith("different")
