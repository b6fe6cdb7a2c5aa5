"""equip, unload: what objects are given where they are made is their class's, and what hangs on them is a variable."""

from __future__ import annotations

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.design.document.reading import parse
from aedifex.design.document.writing import write
from aedifex.moves.equip import Equip
from aedifex.moves.unload import Unload
from aedifex.source.errors import DesignError, RefusedError
from tests.support.helpers import SCRIPT, moved, printed, program_of
from tests.support.kinds import plans_of
from tests.support.scripts import outcome
from tests.support.set_ups import write_set_ups

KITES = """\
import random


class Kite:
    pass


kites = []
for name in ("red", "blue"):
    kite = Kite()
    kite.name = name
    kite.height = 10
    kite.line = random.randint(20, 40)
    kites.append(kite)
for kite in kites:
    kite.height += 1
    print(kite.name, kite.height)
"""
WRAPS = """\
import textwrap

wraps = []
for width in (5, 9):
    w = textwrap.TextWrapper()
    w.width = width
    w.owner = "Ida"
    wraps.append(w)
for w in wraps:
    print(w.owner, w.wrap("the cable ferry crosses"))
"""
DOCK = """\
class Dock:
    toll = 2

    def label(self):
        return self.name + " dock"


north = Dock()
north.name = "north"
north.waiting = 4
south = Dock()
south.name = "south"
south.waiting = 1
print(north.label(), south.waiting)
"""
FACTORY = """\
import textwrap


def make_note(width, owner="Tom"):
    note = textwrap.TextWrapper()
    note.owner = owner
    if width > 3:
        note.width = width
    return note


print(make_note(7).owner, make_note(2, owner="Ida").width)
"""
PEN = """\
import textwrap

pen = textwrap.TextWrapper()
pen.width = 30
pen_box = textwrap.TextWrapper(width=9)
pen_box.drift = 2
pen_box.marks = 0


def drift():
    pen_box.drift += 1
    pen_box.marks = len(pen_box.wrap("the cable ferry")) + pen_box.drift


drift()
print(pen_box.drift, pen_box.marks, pen.width)
"""


def equipped(text: str, class_name: str, holder: str) -> str:
    """The script with a constructor, which does what it did."""
    after = moved(text, Equip(SCRIPT, class_name, holder))[SCRIPT.name]
    assert printed(after) == printed(text)
    return after


def test_a_class_without_constructor_takes_what_differs():
    text = equipped(KITES, "Kite", "kite")
    assert "    def __init__(self, name):\n        self.name = name\n        self.height = 10\n" in text
    assert "    kite = Kite(name)\n    kites.append(kite)\n" in text


def test_a_class_of_a_library_gets_an_heir():
    text = equipped(WRAPS, "Wrap", "w")
    assert "class Wrap(textwrap.TextWrapper):\n    def __init__(self, width):\n        super().__init__()\n" in text


def test_constants_that_differ_are_arguments_named_by_the_member():
    text = equipped(DOCK, "Dock", "north")
    assert "    toll = 2\n\n    def __init__(self, name, waiting):\n" in text
    assert 'north = Dock("north", 4)\n' in text
    assert 'south = Dock("south", 1)\n' in text


def test_a_factory_is_the_constructor():
    text = equipped(FACTORY, "Note", "note")
    assert (
        '    def __init__(self, width, owner="Tom"):\n        super().__init__()\n        self.owner = owner\n' in text
    )
    assert 'print(Note(7).owner, Note(2, owner="Ida").width)' in text


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("kite.height = 10", "kite.__height = 10"),
        ("    kite.height = 10\n", "    print(kites)\n"),
        ("class Kite:", "class Kite(dict):"),
        ("    print(kite.name, kite.height)", "    print(kite.name, getattr(kite, 'height'))"),
        ("    kites.append(kite)", "    kites.append(kite)\nspare = Kite()"),
    ],
)
def test_what_is_not_set_up_alike_or_pried_into_keeps_its_lines(old, new):
    text = KITES.replace(old, new)
    try:
        after = moved(text, Equip(SCRIPT, "Kite", "kite"))[SCRIPT.name]
    except RefusedError:
        return
    assert "__height" in new or "print(kites)" in new
    assert f"    {new.strip()}\n" in after


@pytest.mark.parametrize(
    "more",
    ["print(w)", "print(f'{w}')", "print(type(w).__name__)", "print(w.__class__)", "import pickle"],
)
def test_no_heir_where_its_class_might_be_seen(more):
    with pytest.raises(RefusedError, match="holds nothing that is set up"):
        moved(WRAPS + more + "\n", Equip(SCRIPT, "Wrap", "w"))


def test_a_class_that_another_file_makes_objects_of_is_left(cli, tmp_path):
    (tmp_path / "quay.py").write_text(KITES)
    (tmp_path / "other.py").write_text("from quay import Kite\n\nspare = Kite()\n")
    done = cli("step", "equip", "quay.py", "kite", "--class", "Kite")
    assert done.returncode == 3
    assert (tmp_path / "quay.py").read_text() == KITES


def test_what_a_library_knows_nothing_of_becomes_variables():
    text = moved(PEN, Unload(SCRIPT, "pen_box"))[SCRIPT.name]
    assert printed(text) == printed(PEN)
    assert "    global pen_box_drift, pen_box_marks\n    pen_box_drift += 1\n" in text
    assert "pen.width = 30\n" in text


def test_what_another_name_leads_to_stays():
    text = f"{PEN}for one in (pen_box,):\n    print(one.drift)\n"
    after = moved(text, Unload(SCRIPT, "pen_box"))[SCRIPT.name]
    assert printed(after) == printed(text)
    assert "pen_box.drift += 1\n    pen_box_marks = " in after


@pytest.mark.parametrize("more", ["print(vars(pen_box)['drift'])", "pen_box = textwrap.TextWrapper()"])
def test_what_may_be_reached_otherwise_stays(more):
    with pytest.raises(RefusedError, match="hangs nothing on"):
        moved(f"{PEN}{more}\n", Unload(SCRIPT, "pen_box"))


def test_a_draft_makes_one_class_of_a_thing_and_what_hangs_on_it():
    program = program_of(PEN.replace("pen_box.drift = 2", 'pen_box.wrap("tide")\npen_box.drift = 2'))
    design = propose(program)
    (plan,) = design.kinds
    assert (plan.name, plan.store, [f.name for f in plan.fields]) == (
        "PenBox",
        "single",
        ["text_wrapper", "drift", "marks"],
    )
    again = parse(SCRIPT.with_suffix(".design.toml"), write(design))
    text = {name: m.source.data.decode() for name, m in build(program, again).program.modules.items()}
    assert any("text_wrapper = textwrap.TextWrapper(width=9)" in t for t in text.values())


def test_a_design_that_names_no_such_object_is_told():
    program = program_of(KITES)
    design = propose(program)
    text = write(design).replace('instances = ["kite"]', 'instances = ["kit"]')
    with pytest.raises(DesignError, match="set up where it is made `kit`"):
        build(program, parse(SCRIPT.with_suffix(".design.toml"), text))


def test_what_is_bound_to_an_object_is_its_method():
    (plan,) = plans_of(
        "import textwrap\n\n"
        + "".join(
            f"box_{mark} = textwrap.TextWrapper()\nbox_{mark}.width = {width}\nbox_{mark}_marks = 0\n"
            for mark, width in (("ida", 3), ("tom", 9))
        )
        + "".join(
            f"\n\ndef box_{mark}_up():\n    global box_{mark}_marks\n"
            f"    box_{mark}_marks += len(box_{mark}.wrap('the ferry'))\n"
            for mark in ("ida", "tom")
        )
        + "\n\nfor deed in (box_ida_up, box_tom_up):\n    deed()\nprint(box_ida_marks, box_tom_marks)\n"
    )
    assert (plan.name, plan.instances, [m.name for m in plan.methods]) == ("Box", ["box_ida", "box_tom"], ["up"])


@pytest.mark.parametrize("seed", range(15))
def test_random_objects_that_are_set_up_where_they_are_made(seed):
    assert outcome(write_set_ups(seed)).partition(":")[0] in ("same", "refused")
