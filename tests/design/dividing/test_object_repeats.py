"""What stands once for each of several objects becomes a method of their class."""

from __future__ import annotations

import pytest

from tests.support.each_in_turn import write_each_in_turn
from tests.support.helpers import written
from tests.support.scripts import outcome

GULLS = """\
left_x = 3
left_pace = 2
right_x = 40
right_pace = -3
seen = 0


def show(x, pace, word):
    print(word, x, pace)


def fly():
    global left_x, right_x, seen
@
    seen += 1


for turn in range(3):
    fly()
print(left_x, right_x, seen)
"""


def result(*lines: str) -> str:
    text = GULLS.replace("@", "\n".join(f"    {line}" for line in lines))
    assert outcome(text) == "same"
    return written(text)


def test_what_each_does_is_a_method_and_what_comes_of_it_is_called_alike():
    made = result(
        *("left_x += left_pace", "left_end = left_x + 5", ""),
        *("right_x += right_pace", "right_end = right_x + 5", "", "print(left_end < right_end)"),
    )
    assert "def move(self):\n        self.x += self._pace\n        end = self.x + 5\n        return end\n" in made
    assert "left_end = self.left_item.move()" in made


def test_plain_values_in_which_they_differ_are_handed_over():
    made = result(
        "left_x += 1",
        'print(left_x, left_pace, "red")',
        "seen += 1",
        "right_x += 1",
        'print(right_x, right_pace, "blue")',
    )
    assert '.move("red")' in made
    assert '.move("blue")' in made


@pytest.mark.parametrize(
    "lines",
    [
        ["left_x += left_pace * 2", "seen += 1", "right_x -= right_pace * 2"],
        ["left_x += left_pace + seen", "seen += 1", "right_x += right_pace + left_pace"],
    ],
)
def test_what_is_not_alike_stays(lines):
    assert "def move" not in result(*lines)


@pytest.mark.parametrize("seed", range(8))
def test_random_scripts_say_the_same(seed):
    assert outcome(write_each_in_turn(seed)) == "same"
