"""point: a function that is given the number of an element is given the element, where there is one."""

from __future__ import annotations

import pytest

from aedifex.moves.point import Point
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved
from tests.support.pointing import with_elements, write_numbers

BEDS = """\
beds = [{"wet": 1}, {"wet": 5}]


def rain(i, mm):
    print("rain")
    beds[i]["wet"] += mm
    return beds[i]["wet"]


for number in range(len(beds)):
    print(rain(number, 2))
"""


def test_the_element_takes_the_numbers_place():
    text = moved(BEDS, Point(SCRIPT, "beds", "bed"))[SCRIPT.name]
    assert 'def rain(bed, mm):\n    print("rain")\n    bed["wet"] += mm\n    return bed["wet"]' in text
    assert "print(rain(beds[number], 2))" in text


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("return beds", "return i, beds"),
        ("beds[i]['wet'] +=".replace("'", '"'), "beds[0] = beds[i] = {}; beds[0]['wet'] ="),
        ("for number in range(len(beds))", "for number in range(3)"),
        ("print(rain(number, 2))", "print(rain(number, 2))\n    beds.pop()\n    beds.append({})"),
        ("print(rain(number, 2))", "number += 1\n    print(rain(number, 2))"),
        ("print(rain(number, 2))", "print(rain(number, input()))"),
        ("print(rain(number, 2))", "print(rain(i=number, mm=2))"),
        ('    print("rain")', "    global beds\n    beds = beds[:]"),
        ("print(rain(number, 2))", "print(list(map(rain, [0], [2])))"),
        ('    print("rain")', '    bed = "rain"'),
    ],
)
def test_what_may_be_another_element_or_none_is_left(old, new):
    assert old in BEDS
    with pytest.raises(RefusedError, match="no function is given a number"):
        moved(BEDS.replace(old, new), Point(SCRIPT, "beds", "bed"))


@pytest.mark.parametrize("number", ["1", "len(beds) - 1", "number if False else 0"])
def test_a_number_that_is_written_out_must_be_there(number):
    text = BEDS.replace("rain(number, 2)", f"rain({number}, 2)")
    if number.endswith("0"):
        with pytest.raises(RefusedError):
            moved(text, Point(SCRIPT, "beds", "bed"))
    else:
        assert f"rain(beds[{number}], 2)" in moved(text, Point(SCRIPT, "beds", "bed"))[SCRIPT.name]


def test_what_is_asked_for_first_may_be_missing():
    text = BEDS.replace('    print("rain")\n', "").replace("range(len(beds))", "range(int(input()))")
    assert "rain(beds[number], 2)" in moved(text, Point(SCRIPT, "beds", "bed"))[SCRIPT.name]


@pytest.mark.parametrize("seed", range(15))
def test_random_scripts_do_the_same(seed):
    assert with_elements(write_numbers(seed)).startswith("same")


def test_most_of_them_are_changed():
    ends = [with_elements(write_numbers(seed)) for seed in range(20)]
    assert sum(end != "same 0" for end in ends) > 10
