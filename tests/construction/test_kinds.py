"""Things of one kind become one class with several objects, or stay where only their store can do what is done."""

from __future__ import annotations

from textwrap import dedent

import pytest

from aedifex.construction.build import build
from aedifex.construction.kinds import find_kinds
from aedifex.construction.prepare import opened
from aedifex.construction.propose import propose
from aedifex.design.document.reading import parse
from aedifex.design.document.writing import write
from aedifex.source.errors import DesignError, RefusedError
from tests.construction.kind_cases import CASES
from tests.support.hazards import play_apart
from tests.support.helpers import SCRIPT, program_of
from tests.support.kinds import kinds_found, plans_of, write_bare_objects
from tests.support.scripts import outcome


@pytest.mark.parametrize("name", CASES)
def test_it_does_the_same(name):
    assert outcome(CASES[name][1], play=play_apart).startswith("same")


@pytest.mark.parametrize("name", CASES)
def test_kinds_that_are_made_classes(name):
    expected, text = CASES[name]
    assert kinds_found(text) == expected


def design_of(name: str) -> str:
    return write(propose(program_of(CASES[name][1])))


def built(name: str, text: str) -> str:
    program = program_of(CASES[name][1])
    made = build(program, parse(SCRIPT, text)).program
    return "\n".join(module.source.data.decode() for module in made.modules.values())


@pytest.mark.parametrize("name", ["changed by all", "grown together", "alike"])
def test_a_design_file_says_it_all(name):
    text = design_of(name)
    assert write(parse(SCRIPT, text)).replace("\n", "") == "".join(
        line.partition("  # ")[0] for line in text.splitlines() if not line.startswith("#")
    )
    assert "class " in built(name, text)


@pytest.mark.parametrize(
    ("name", "old", "new", "expected"),
    [
        ("changed by all", 'name = "height"', 'name = "meters"', "kite.meters += n"),
        ("grown together", 'name = "height"', 'name = "meters"', "meters = meters"),
        ("alike", 'name = "x"', 'name = "place"', "self.place += by"),
        ("alike", 'name = "step" }', 'name = "go" }', "def go(self, by):"),
        ("alike", 'name = "Lamp"', 'name = "Light"', "class Light:"),
    ],
)
def test_names_are_the_users(name, old, new, expected):
    text = design_of(name)
    assert old in text
    assert expected in built(name, text.replace(old, new))


@pytest.mark.parametrize(
    ("name", "old", "new", "words"),
    [
        ("changed by all", '"records"', '"record"', "no form of things"),
        ("changed by all", 'from = "height"', 'from = "heigth"', "`heigth`"),
        ("changed by all", "instances = [", 'instances = ["nothing"] # [', "no record held by"),
        ("grown together", 'from = "heights"', 'from = "height"', "`height`"),
        ("alike", '"lamp1_x", ', '"lamp1_y", ', "`lamp1_y`"),
        ("alike", 'held = "lamps"', 'held = "print"', "cannot be used as a name"),
        ("alike", "instances = [", "instances = 3 #", "must be a list"),
    ],
)
def test_a_mistake_is_told_with_the_nearest_name(name, old, new, words):
    text = design_of(name)
    assert old in text
    with pytest.raises((DesignError, RefusedError), match=words):
        built(name, text.replace(old, new, 1))


def test_copies_that_differ_are_told():
    design = propose(program_of(CASES["forgotten in one"][1]))
    assert any("do not do the same" in doubt for doubt in design.doubts)


def test_one_class_is_made_of_nothing_but_the_owner():
    assert propose(program_of(CASES["alike"][1]), "one").kinds == []


def test_lists_that_one_assignment_makes_may_be_side_by_side():
    text = dedent(
        """\
        xs, ys = [], []
        out = 0
        turn = 0
        while turn < 6:
            turn += 1
            xs.append(turn)
            ys.append(turn * 3 % 7)
            j = 0
            while j < len(xs):
                xs[j] += ys[j]
                if xs[j] > 9:
                    out += 1
                    del xs[j]
                    del ys[j]
                else:
                    j += 1
            print(turn, out, len(xs))
        print(out)
        """
    )
    program = program_of(text)
    design = propose(program)
    assert [(plan.store, [f.variable for f in plan.fields]) for plan in design.kinds] == [("columns", ["xs", "ys"])]
    assert outcome(text) == "same"


@pytest.mark.parametrize("seed", range(10))
def test_bare_objects_do_the_same(seed):
    assert outcome(write_bare_objects(seed)).startswith("same")


def test_most_bare_objects_get_a_class():
    made = [any(plan.store == "records" for plan in plans_of(write_bare_objects(seed))) for seed in range(20)]
    assert sum(made) > 12


def test_what_makes_bare_objects_is_imported_no_more():
    text = "from types import SimpleNamespace\n\nferry = SimpleNamespace(bank='east', load=0)\n"
    text += "for turn in range(3):\n    ferry.load += turn\n    print(ferry.bank, ferry.load)\n"
    made = build(program_of(text), propose(program_of(text))).program
    whole = "".join(module.source.data.decode() for module in made.modules.values())
    assert "SimpleNamespace" not in whole and "class Ferry:" in whole


def test_constants_side_by_side_are_no_things():
    text = (
        "COLORS = [1, 2, 3]\nNAMES = ['a', 'b', 'c']\nn = 0\nwhile n < 3:\n    print(COLORS[n], NAMES[n])\n    n += 1\n"
    )
    assert not find_kinds(opened(program_of(text))).plans
    assert find_kinds(opened(program_of(text.replace("COLORS", "colors")))).plans
