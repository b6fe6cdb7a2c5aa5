"""fuse: what each branch of a choice adds to one list is chosen first, and added once."""

from __future__ import annotations

import pytest

from aedifex.moves.fuse import Fuse
from aedifex.source.errors import RefusedError
from tests.support.fusing import fused, write_fusing
from tests.support.helpers import SCRIPT, moved, printed, written
from tests.support.scripts import outcome

STEPS = """\
steps = []
for number in range(4):
    if number == 2:
        steps.append(number)
    elif number % 2:
        steps.append((number, "odd"))
    else:
        steps.append(0)
print(steps)
"""
GULLS = """\
import random

random.seed(4)
gull_x = []
gull_dx = []
for number in range(5):
    gull_x.append(random.randint(0, 9))
    if random.random() < 0.5:
        gull_dx.append(2)
    else:
        gull_dx.append(-3)


def fly():
    for i in range(len(gull_x)):
        gull_x[i] += gull_dx[i]


def show():
    for i in range(len(gull_x)):
        print(gull_x[i], gull_dx[i])


for turn in range(3):
    fly()
    show()
"""


def test_a_choice_is_one_addition():
    text = moved(STEPS, Fuse(SCRIPT, 3))[SCRIPT.name]
    assert '    steps.append(number if number == 2 else (number, "odd") if number % 2 else 0)\n' in text
    assert printed(text) == printed(STEPS)


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("append(0)", "append(lambda: 0)"),
        ("append(0)", "extend([0])"),
        ("append(0)", "append(0)\n        print(number)"),
        ("steps.append(0)", "print(number)"),
        ("append(0)", "append(0)  # as it was"),
        ("if number == 2", f"if number == {' + '.join(['2'] * 30)}"),
        ("    else:\n        steps.append(0)\n", ""),
        ("number == 2", "(lambda: 2)() if number else 0"),
    ],
)
def test_what_is_more_than_one_addition_stays(old, new):
    assert old in STEPS
    with pytest.raises(RefusedError):
        moved(STEPS.replace(old, new), Fuse(SCRIPT, 3))


def test_a_list_that_asking_replaces_is_not_named_before():
    asking = "def again():\n    global steps\n    steps = []\n    return 1\n\n\n"
    with pytest.raises(RefusedError, match="another list"):
        moved(asking + STEPS.replace("number == 2", "again() == 2"), Fuse(SCRIPT, 9))


def test_lists_that_are_filled_beside_it_become_objects():
    text = written(GULLS)
    assert "Gull(random.randint(0, 9), 2 if random.random() < 0.5 else -3)" in text
    assert (
        "    def run(self):\n        for turn in range(3):\n            self.fly()\n            self.show()\n" in text
    )


def test_a_list_alone_stays_filled_in_branches():
    text = written(STEPS + "\n\ndef last():\n    return steps[-1]\n\n\nprint(last())\n")
    assert "elif number % 2:" in text


@pytest.mark.parametrize("seed", range(9))
def test_random_scripts_say_the_same(seed):
    assert not fused(write_fusing(seed)).startswith("different")


@pytest.mark.parametrize("seed", range(40, 46))
def test_random_scripts_are_drafted(seed):
    assert outcome(write_fusing(seed)).partition(":")[0] in ("same", "refused")
