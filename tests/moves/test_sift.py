"""sift: loops that count through a list and delete from it go over a copy, where nobody can tell."""

from __future__ import annotations

import random

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.moves.sift import Sift
from aedifex.source.errors import RefusedError
from tests.support.backward import turned, write_backward
from tests.support.helpers import SCRIPT, moved, printed, program_of

KITES = """\
class Kite:
    def __init__(self, height):
        self.height = height

    def sink(self):
        self.height -= 5
        return self.height


kites = [Kite(4), Kite(9), Kite(3), Kite(16)]
downs = []


def land(kite):
    downs.append(kite.height)
    print(len(kites))


def settle():
    i = 0
    while i < len(kites):
        kite = kites[i]
        kite.sink()  # a little
        if kite.height < 0:
            # it is down
            land(kite)
            del kites[i]
            print("down", len(kites))
        else:
            i += 1


for turn in range(4):
    settle()
    print([kite.height for kite in kites], downs)
"""


def sifted(text: str) -> str:
    result = moved(text, Sift(SCRIPT, "kites"))["script.py"]
    assert printed(result) == printed(text)
    return result


def test_the_loop_goes_over_a_copy():
    result = sifted(KITES)
    assert "    for kite in list(kites):\n        kite.sink()  # a little\n        if kite.height < 0:\n" in result
    assert "            kites.remove(kite)\n            print(" in result
    assert "i += 1" not in result and "i = 0" not in result and "else:" not in result


def test_the_main_code_too():
    head, _, tail = KITES.partition("def settle():\n")
    body, _, _ = tail.partition("\n\n\nfor turn")
    loop = "\n".join(line[4:] for line in body.splitlines())
    assert "for kite in list(kites):" in sifted(f"{head}{loop}\nprint(downs)\n")


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("    def sink", "    def __eq__(self, other):\n        return True\n\n    def sink"),  # which one goes?
        ("class Kite:", "class Thing:\n    def __eq__(self, other):\n        return True\n\n\nclass Kite(Thing):"),
        ("    downs.append(kite.height)", "    kites.append(Kite(7))\n    downs.append(kite.height)"),  # it grows
        ("    downs.append(kite.height)", "    kites.reverse()\n    downs.append(kite.height)"),
        ("        kite.sink()", "        print(i)\n        kite.sink()"),  # the number is shown
        ("            i += 1", "            i += 2"),
        ("    i = 0", "    i = 1"),
        ("    i = 0", "    i = 0\n    print(i)"),
        ("            i += 1", "            print(kite.height)\n            i += 1"),
        ("        kite.sink()", "        if kite.height > 14: break\n        kite.sink()"),
        ("            del kites[i]", "            del kites[i - 1]"),
        ("            del kites[i]", "            del kites[i]\n            if kites: kites[0].sink()"),
        ("def settle():", "def settle():\n    global i"),
        ("            i += 1", "            # next\n            i += 1"),
        ("downs = []", "downs = []\nflying = kites"),
        ("def land", "list = tuple\n\n\ndef land"),
    ],
)
def test_what_could_be_noticed_stays(old, new):
    assert old in KITES
    with pytest.raises(RefusedError):
        sifted(KITES.replace(old, new, 1))


@pytest.mark.parametrize("seed", range(15))
def test_random_deeds_in_the_loop(seed):
    chance = random.Random(seed)
    deeds = [
        "print(len(kites), kite.height)",
        "kite.height += 1",
        "land(kite)",
        "downs.append(len(kites))",
        "print(kites.index(kite))",
        "kites.insert(0, Kite(2))",
        "kites[0].sink()",
        "kite = kites[0]",
        "downs.append(sum(k.height for k in kites))",
        "kites.pop()",
    ]
    text = KITES
    for mark in (
        "        kite.sink()  # a little\n",
        "            land(kite)\n",
        '            print("down", len(kites))\n',
    ):
        margin = mark[: len(mark) - len(mark.lstrip())]
        text = text.replace(mark, mark + "".join(f"{margin}{deed}\n" for deed in chance.sample(deeds, 1)))
    text = text.replace("for turn in range(4):", "for turn in range(2):")
    try:
        sifted(text)
    except RefusedError:
        assert any(deed in text for deed in deeds[4:8] + deeds[9:])


BACKWARD = """
class Kite:
    def __init__(self, height):
        self.height = height


kites = [Kite(4), Kite(9)]
kites.append(Kite(1))


def sift():
    for kite in kites:
        print(kite.height)
    for i in range(len(kites) - 1, -1, -1):
        kites[i].height -= 2
        if kites[i].height < 3:
            print("down", kites[i].height)
            del kites[i]


sift()
print(len(kites))
"""


def test_a_loop_from_the_end_goes_over_the_list_itself():
    text = moved(BACKWARD, Sift(SCRIPT, "kites"))[SCRIPT.name]
    assert "    for kite in reversed(kites):\n        kite.height -= 2\n        if kite.height < 3:" in text
    assert "            kites.remove(kite)\n" in text and printed(text) == printed(BACKWARD)


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("kites.append(Kite(1))", "kites.append(kites[0])"),
        ("            del kites[i]", "            del kites[i]\n            print(i)"),
        ("            del kites[i]", "            del kites[i]\n            kites.append(Kite(5))"),
        ("            del kites[i]", "            del kites[i]\n            print(kites[i - 1].height)"),
        ("- 1, -1, -1)", "- 1, 0, -1)"),
        ("    def __init__", "    def __eq__(self, other):\n        return True\n\n    def __init__"),
    ],
)
def test_another_loop_from_the_end_stays(old, new):
    assert old in BACKWARD
    with pytest.raises(RefusedError):
        moved(BACKWARD.replace(old, new), Sift(SCRIPT, "kites"))


@pytest.mark.parametrize("seed", range(15))
def test_random_loops_from_the_end_do_the_same(seed):
    assert not turned(write_backward(seed)).startswith("different")


SEVERAL = (
    BACKWARD[: BACKWARD.index("def sift")]
    + """
def sift():
    i = 0
    while i < len(kites):
        kite = kites[i]
        kite.height -= 2
        if kite.height < 0:
            del kites[i]
            print("down")
        elif kite.height > 6:
            print("up", kite.height)
            del kites[i]
        else:
            i += 1


sift()
print(len(kites))
"""
)


def test_elements_go_in_several_branches():
    text = moved(SEVERAL, Sift(SCRIPT, "kites"))[SCRIPT.name]
    assert text.count("kites.remove(kite)") == 2 and "else" not in text and "while" not in text
    assert printed(text) == printed(SEVERAL)


def test_each_branch_takes_out_or_goes_on():
    text = SEVERAL.replace('            print("up", kite.height)\n            del kites[i]\n', "            i += 1\n")
    with pytest.raises(RefusedError):
        moved(text, Sift(SCRIPT, "kites"))


def test_an_element_is_picked_where_another_branch_takes_it_out():
    columns = """
import random
xs = [1, 5, 9]
ys = [2, 3, 4]
turns = 0


def go(by):
    i = 0
    while i < len(xs):
        xs[i] += by
        if xs[i] > 9:
            del xs[i]
            del ys[i]
        elif ys[i] > 3 and xs[i] > 5:
            print("gone", xs[i], ys[i])
            del xs[i]
            del ys[i]
        else:
            i += 1
    for i in range(len(xs)):
        print(xs[i], ys[i])


while turns < 4:
    turns += 1
    go(turns)
"""
    program = program_of(columns)
    texts = build(program, propose(program)).program.texts
    script = texts[program.main.path].data.decode()
    assert "in list(self." in script and "[i]" not in script
