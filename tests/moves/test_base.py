"""base: what classes share goes into one that they come from, and each does what it did."""

from __future__ import annotations

import random
from pathlib import Path

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.design.document.reading import parse
from aedifex.design.document.writing import write
from aedifex.moves.base import Base
from aedifex.source.errors import DesignError, RefusedError
from tests.support.helpers import SCRIPT, moved, printed, program_of
from tests.support.kin import with_base, write_kin

FLIERS = '''\
class Kite:
    """A kite."""

    def __init__(self, x, y, line):
        self.x = x
        # how high
        self.y = y
        self.line = line
        print("made")

    # goes up
    def move(self):
        self.y += self.line

    def show(self):
        print(self.x, self.y)


class Gull:
    def __init__(self, x, y):
        self.x = x
        self.y = y

    def move(self):
        self.x += 1

    def show(self):
        print(self.x, self.y)  # here


for flier in [Kite(1, 2, 3), Gull(4, 5)]:
    flier.move()
    flier.show()
'''


def based(text: str, *children: str) -> str:
    result = moved(text, Base(SCRIPT, "Flier", children or ("Kite", "Gull")))["script.py"]
    assert printed(result) == printed(text)
    return result


def test_fields_methods_and_headings_go_to_the_base():
    result = based(FLIERS)
    assert (
        "class Flier:\n" in result and "class Kite(Flier):\n" in result and "class Gull(Flier):\n    def move" in result
    )
    assert "        super().__init__(x, y)\n        self.line = line\n        print(" in result
    assert result.count("def show") == 1 and "    def move(self):\n        raise NotImplementedError\n" in result
    assert "    # goes up\n    def move(self):\n        self.y += self.line\n" in result


def test_a_value_that_all_begin_with_is_set_by_the_base():
    text = FLIERS.replace("        self.y = y\n", "        self.y = y\n        self.tired = 0\n")
    result = based(text)
    assert "        self.y = y\n        self.tired = 0\n" in result and result.count("self.tired") == 1


@pytest.mark.parametrize(
    ("old", "new", "words"),
    [
        ("class Gull:", "class Gull(object):", "says more than its name"),
        ("class Gull:", "class Bird:\n    pass\n\n\nclass Gull(Bird):", "inherits"),
        ("class Gull:", "class Flier:\n    pass\n\n\nclass Gull:", "in use already"),
        ("class Gull:", "class Gull:\n    def __getattr__(self, name):\n        return 1\n", "itself decides"),
        ("for flier", "print(vars(Gull(1, 2)))\nfor flier", "by their text"),
        ("for flier", "class Tern(Gull):\n    pass\nfor flier", "inherited from"),
        (
            "    def __init__(self, x, y):\n        self.x = x\n        self.y = y\n\n    def move(self):\n        self.x += 1\n",
            "",
            "no constructor",
        ),
    ],
)
def test_classes_that_cannot_have_one(old, new, words):
    with pytest.raises(RefusedError, match=words):
        based(FLIERS.replace(old, new, 1))


@pytest.mark.parametrize(
    ("old", "new", "kept"),
    [
        (
            "        self.x = x\n        self.y = y\n\n    def move(self):\n        self.x",
            "        self.y = y\n        self.x = x\n\n    def move(self):\n        self.x",
            "super().__init__(x, y)",
        ),
        ("(self, x, y):", "(self, y, x):", "super().__init__(x, y)"),
        ("(self, x, y):", "(self, x, y=5):", "def __init__(self, x, y=5):\n        super().__init__(x, y)"),
        (
            "        self.x = x\n        self.y = y\n\n",
            "        self.x = x\n        self.y = y or 2\n\n",
            "self.y = y or 2",
        ),
        (
            "        self.x = x\n        self.y = y\n\n",
            "        print(self)\n        self.x = x\n        self.y = y\n\n",
            "print(self)",
        ),
    ],
)
def test_what_is_set_otherwise_stays(old, new, kept):
    text = FLIERS.replace("class Gull:", "class Gull:\n    def __repr__(self):\n        return 'gull'\n")
    head, middle, tail = text.partition("class Gull:")
    assert kept in based(head + middle + tail.replace(old, new, 1))


@pytest.mark.parametrize("seed", range(18))
def test_random_classes_do_what_they_did(seed):
    assert with_base(write_kin(seed), random.Random(seed)).startswith(("same", "refused"))


def test_random_classes_are_mostly_given_one():
    assert [with_base(write_kin(seed), random.Random(seed)) for seed in range(40)].count("same") > 25


SKY = """\
import random

random.seed(3)
rocket_x = []
rocket_y = []
rocket_fuse = []
gull_x = []
gull_y = []


def move_rockets():
    i = 0
    while i < len(rocket_x):
        rocket_y[i] -= 2
        rocket_fuse[i] -= 1
        if rocket_fuse[i] <= 0 or rocket_y[i] < 1:
            del rocket_x[i]
            del rocket_y[i]
            del rocket_fuse[i]
        else:
            i += 1


def move_gulls():
    i = 0
    while i < len(gull_x):
        gull_x[i] += 1
        gull_y[i] -= 1
        if gull_x[i] > 20:
            del gull_x[i]
            del gull_y[i]
        else:
            i += 1


turn = 0
while turn < 12:
    turn += 1
    rocket_x.append(random.randint(1, 9))
    rocket_y.append(9)
    rocket_fuse.append(random.randint(2, 6))
    gull_x.append(random.randint(1, 20))
    gull_y.append(20)
    move_rockets()
    move_gulls()
    print(turn, len(rocket_x), len(gull_x))
"""


def test_a_draft_finds_what_kinds_share_and_when_they_are_over():
    program = program_of(SKY)
    design = propose(program)
    assert [(base.name, base.children) for base in design.bases] == [("Body", ["Rocket", "Gull"])]
    assert any(doubt.startswith("Body may need a better name") for doubt in design.doubts)
    again = parse(Path("sky.design.toml"), write(design))
    built = build(program, again).program
    texts = "\n".join(module.source.data.decode() for module in built.modules.values())
    assert "class Gull(Body):" in texts and "return self._fuse <= 0 or self._y < 1" in texts
    assert texts.count("is_over():") == 2 and texts.count("def is_over(self):") == 3


@pytest.mark.parametrize(
    ("old", "new", "words"),
    [
        ('of = ["Rocket", "Gull"]', 'of = ["Rocket"]', "two classes or more"),
        ('of = ["Rocket", "Gull"]', 'of = ["Rocket", "Gul"]', "no class `Gul`"),
        ('name = "Body"', 'name = "if"', "cannot be used as a name"),
        ('file = "body.py"', 'file = "../body.py"', "not a file inside"),
    ],
)
def test_a_base_that_cannot_be(old, new, words):
    program = program_of(SKY)
    with pytest.raises(DesignError, match=words):
        build(program, parse(Path("sky.design.toml"), write(propose(program)).replace(old, new, 1)))
