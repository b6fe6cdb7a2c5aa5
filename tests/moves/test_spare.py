"""spare: a function that is always given the same variable uses that variable itself."""

from __future__ import annotations

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.moves.spare import Spare
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed, program_of
from tests.support.sparing import spared, write_sparing

GATES = """\
gates = [3, 1]


def open_all(by, them: list, word="up"):
    for number in range(len(them)):
        them[number] += by
    print(word, total(them))


def total(gates):
    return sum(gates)


open_all(2, gates)
open_all(1, gates, word="down")
"""


def test_arguments_and_parameters_go():
    once = moved(GATES, Spare(SCRIPT, "gates"))[SCRIPT.name]
    text = moved(once, Spare(SCRIPT, "gates"))[SCRIPT.name]
    assert 'def open_all(by, word="up"):\n    for number in range(len(gates)):' in text
    assert "def total():\n    return sum(gates)" in text
    assert 'open_all(2)\nopen_all(1, word="down")' in text
    assert printed(text) == printed(GATES)


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("gates = [3, 1]", "gates = [3, 1]\ngates = [2, 2]"),
        ("open_all(2, gates)", "open_all(2, [1])"),
        ("open_all(2, gates)", "keep = open_all\nkeep(2, gates)"),
        ("open_all(2, gates)", "open_all(2, them=gates)"),
        ("    for number", "    them = list(them)\n    for number"),
        ("    for number", "    print([gates for gates in (1, 2)])\n    for number"),
        ("    print(word", "    print((lambda gates: gates)(1))\n    print(word"),
    ],
)
def test_what_may_be_something_else_stays_a_parameter(old, new):
    text = GATES.replace("total(them)", "sum(them)").replace(
        GATES[GATES.index("def total") : GATES.index("open_all(2")], ""
    )
    moved(text, Spare(SCRIPT, "gates"))
    with pytest.raises(RefusedError):
        moved(text.replace(old, new), Spare(SCRIPT, "gates"))


def test_functions_over_all_things_are_the_owners():
    text = """
import random
kites = [{"name": "Ida", "height": 3}, {"name": "Bo", "height": 5}]
turns = 0


def fly(kite, by):
    kite["height"] += by
    print(kite["name"], kite["height"])


def highest(all_kites):
    best = all_kites[0]
    for kite in all_kites:
        if kite["height"] > best["height"]:
            best = kite
    return best


while turns < 3:
    turns += 1
    for kite in kites:
        fly(kite, turns)
    print(highest(kites)["name"])
"""
    program = program_of(text)
    texts = build(program, propose(program)).program.texts
    script = texts[program.main.path].data.decode()
    assert "def highest(self):" in script and "self.highest().name" in script


@pytest.mark.parametrize("seed", range(15))
def test_random_functions_do_the_same(seed):
    assert spared(write_sparing(seed)).startswith("same")


def test_many_are_spared():
    assert sum(int(spared(write_sparing(seed)).partition(" ")[2] or 0) for seed in range(20)) >= 20
