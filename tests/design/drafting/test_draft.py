from __future__ import annotations

import re
from pathlib import Path

import pytest

from aedifex.design.document.check import check_design
from aedifex.design.document.reading import read
from aedifex.design.document.writing import write
from aedifex.design.drafting.draft import draft
from aedifex.design.drafting.naming import Names
from aedifex.languages.python import DIALECT
from aedifex.program.reading import read_program
from aedifex.source.errors import RefusedError
from aedifex.source.text import SourceText
from tests.support.helpers import program_of

TEXT = """
    # --- the ferry
    ferry_x, ferry_speed = 0, 1
    ferry = 5
    queue = []
    queueLost = 0
    next_cart = 3
    money = 2

    def move_ferry():
        global ferry_x, ferry_speed, ferry
        ferry_x += ferry_speed
        ferry_speed, ferry = 2, 6

    def grow_queue():
        global queueLost, next_cart
        queue.append(next_cart)
        queueLost += 1
        next_cart += 1

    def pay():
        global money
        money += 1

    while money < 9:
        move_ferry()
        grow_queue()
        pay()
        print(ferry_x, ferry, queue, queueLost, money)
"""


def plans(text=TEXT):
    return {plan.name: plan for plan in draft(program_of(text)).classes}


def test_variables_that_share_a_noun_become_a_class():
    found = plans()
    assert list(found) == ["Ferry", "Queue"]
    assert [(f.variable, f.name) for f in found["Ferry"].fields] == [
        ("ferry_x", "x"),
        ("ferry_speed", "speed"),
        ("ferry", "value"),
    ]
    assert [f.start for f in found["Ferry"].fields] == ["argument", "fixed", "fixed"]
    assert found["Ferry"].file == "ferry.py"


def test_a_variable_joins_those_that_its_writers_write():
    assert [f.variable for f in plans()["Queue"].fields] == ["queue", "queueLost", "next_cart"]


def test_a_file_never_hides_a_module():
    assert plans()["Queue"].file == "script_queue.py"


def test_routines_go_where_all_that_they_write_is():
    found = plans()
    assert [(m.routine, m.name) for m in found["Ferry"].methods] == [("move_ferry", "move")]
    assert [m.routine for m in found["Queue"].methods] == ["grow_queue"]


def test_every_class_says_why():
    assert all("share the word" in plan.why for plan in plans().values())


def test_a_draft_is_the_same_every_time_and_survives_its_file(tmp_path):
    program = program_of(TEXT)
    text = write(draft(program))
    assert text == write(draft(program))
    path = tmp_path / "x.design.toml"
    path.write_text(text)
    design = read(path)
    check_design(design, program.main)
    without_remarks = re.sub(r"  # .*", "", text)
    assert write(design).splitlines()[-20:] == without_remarks.splitlines()[-20:]


def test_a_tangled_script_gets_one_class():
    design = draft(program_of("n = 0\ndef f():\n    global n\n    n += 1\nf()\nprint(n)\n"))
    assert (design.owner, design.classes) == ("Script", [])
    assert design.owner_why


def test_methods_whose_short_names_clash_keep_their_own():
    found = plans(
        "tide_x = 0\ntide_y = 0\n"
        "def update():\n    global tide_x\n    tide_x += 1\n"
        "def update_tide():\n    global tide_y\n    tide_y += 1\n"
        "while tide_x < 3:\n    update()\n    update_tide()\n    print(tide_x, tide_y)\n"
    )
    assert {m.routine: m.name for m in found["Tide"].methods} == {"update": "update", "update_tide": "update_tide"}


def test_a_script_without_state_has_nothing_to_draft():
    with pytest.raises(RefusedError, match="nothing to gather"):
        draft(program_of("def f(x):\n    return x\nprint(f(1))\n"))


@pytest.mark.parametrize("noun", ["class", "global", "random", "list"])
def test_names_never_collide_with_the_language(noun):
    text = f"my_{noun}_x = 0\nmy_{noun}_y = 0\ndef f():\n    global my_{noun}_x, my_{noun}_y\n    my_{noun}_x += 1\n    my_{noun}_y += 1\nf()\nprint(my_{noun}_x, my_{noun}_y)\n"
    program = program_of(text)
    check_design(draft(program), program.main)


def test_every_member_says_why_and_how_sure_the_draft_is():
    for plan in plans().values():
        for member in (*plan.fields, *plan.methods):
            assert member.why
            assert member.sure is not None and 0 < member.sure <= 1


def test_what_another_class_could_have_as_well_is_named_first():
    design = draft(
        program_of(
            "ferry_x = 0\nferry_y = 0\nmark = 0\ntide_x = 0\ntide_y = 0\n"
            "def ferry():\n    global ferry_x, ferry_y\n    ferry_x, ferry_y = ferry_y + mark, ferry_x\n"
            "def tide():\n    global tide_x, tide_y\n    tide_x, tide_y = tide_y + mark, tide_x\n"
            "def both():\n    global mark\n    mark = ferry_x + tide_x\n"
            "while mark < 3:\n    ferry()\n    tide()\n    both()\n    mark += 1\n"
        ),
        "coarse",
    )
    members = [m for plan in design.classes for m in (*plan.fields, *plan.methods)]
    assert design.doubts[: len(design.doubts)] == sorted(design.doubts, key=lambda doubt: "sure" not in doubt)
    for member in members:
        said = any(doubt.startswith(f"{member.name} in ") for doubt in design.doubts)
        assert said == (member.sure < 0.55)


def test_a_class_is_called_by_the_two_words_of_its_heading():
    text = """
    # --- red kite
    red_x = 0
    red_pull = 1

    # --- the wind, as it blows on most days
    wind_speed = 2
    wind_angle = 0

    def move_red():
        global red_x, red_pull
        red_x += red_pull
        red_pull = 0

    def blow():
        global wind_speed, wind_angle
        wind_speed, wind_angle = wind_angle, wind_speed

    while red_x < 4:
        move_red()
        blow()
        red_x += 1
    """
    assert {(p.name, p.instance, p.file) for p in plans(text).values()} == {
        ("RedKite", "red_kite", "red_kite.py"),
        ("Wind", "wind", "wind.py"),
    }


def test_no_two_fields_get_one_name():
    text = """
        tide_level = 1
        tide = 0
        level = 2


        def move_tide():
            global tide, level, tide_level
            tide, level, tide_level = level, tide_level, tide


        while tide < 9:
            move_tide()
            print(tide, level, tide_level)
    """
    program = program_of(text)
    design = draft(program)
    check_design(design, program.main)
    assert sorted(field.name for field in design.classes[0].fields) == ["level", "tide", "tide_level"]


@pytest.mark.parametrize(
    ("stem", "title", "name"),
    [
        ("main", "Cable ferry", "CableFerry"),
        ("main", "", "Program"),
        ("my_game", "Tide table", "TideTable"),
        ("my_game", "", "MyGame"),
        ("quay", "Cable ferry", "Quay"),
    ],
)
def test_a_file_name_that_says_nothing_gives_way_to_a_title(stem, title, name):
    text = f"import tkinter\nroot = tkinter.Tk()\nroot.title('{title}')\n"
    program = read_program([SourceText(Path(f"{stem}.py"), text.encode())], DIALECT)
    assert Names(program.main).owner() == name


@pytest.mark.parametrize(
    ("constant", "fields"),
    [
        ("ferry_speed = 5", ["ferry_x", "ferry_speed"]),
        ("FERRY_SPEED = 5", None),
        ("rope_speed = 5", None),
        ("ferry_speed = [5]", None),
        ("ferry_speed = 5\n    def far(by=ferry_speed):\n        return by", None),
    ],
)
def test_a_plain_value_goes_with_what_it_is_named_after(constant, fields):
    name = constant.partition(" ")[0]
    text = f"""
    ferry_x = 3
    {constant}

    def move_ferry():
        global ferry_x
        ferry_x += len(str({name}))

    def show_ferry():
        print(ferry_x, {name})

    for turn in range(3):
        move_ferry()
        show_ferry()
    """
    found = [[f.variable for f in plan.fields] for plan in draft(program_of(text)).classes]
    assert found == ([fields] if fields is not None else found) and (fields or not any(name in f for f in found))
