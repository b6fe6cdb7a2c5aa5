"""A proposal with carved methods: built, the same, and only where it shortens something."""

from __future__ import annotations

import tomllib
from pathlib import Path

import pytest

from aedifex.construction.build import build
from aedifex.construction.prepare import prepared
from aedifex.construction.propose import propose
from aedifex.design.document.reading import parse, read
from aedifex.design.document.writing import write
from aedifex.source.errors import DesignError, RefusedError
from tests.support.helpers import printed, program_of

BUOY = """
tide = 0.0
buoy_x, buoy_y = 40, 0
buoy_rings = 0


def drift_buoy(wind):
    global buoy_x, buoy_rings
    buoy_x += wind
    buoy_rings += 1


def ring_buoy():
    global buoy_rings
    buoy_rings += 2


turn = 0
while turn < 9:
    turn += 1
    wind = turn % 4
    drift_buoy(wind)
    ring_buoy()
    if buoy_x > 45:
        print("the buoy has broken loose")
        buoy_x = 40
        buoy_y += 1
    print(turn, buoy_x, buoy_y, buoy_rings)
"""


def text_of(program) -> str:
    return "\n".join(module.source.data.decode() for module in program.modules.values())


def test_what_concerns_one_class_becomes_its_method():
    program = program_of(BUOY)
    design = propose(prepared(program))
    carved = [method for plan in design.classes for method in plan.methods if method.lines is not None]
    assert [(m.routine, m.name, m.lines) for m in carved] == [("<main>", "check_x", (24, 27))]
    built = text_of(build(program, design).program)
    assert "    def check_x(self):\n        if self.x > 45:\n" in built
    assert "self.buoy.check_x()" in built


def test_lines_are_written_read_and_built(tmp_path):
    path = tmp_path / "x.design.toml"
    path.write_text(write(propose(prepared(program_of(BUOY)))))
    methods = tomllib.loads(path.read_text())["class"][0]["methods"]
    assert {"from": "<main>", "lines": "24-27", "name": "check_x"} in methods
    assert "check_x" in text_of(build(program_of(BUOY), read(path)).program)


@pytest.mark.parametrize(
    ("lines", "error", "words"),
    [
        ("24-25", RefusedError, "no whole statements"),
        ("900-901", RefusedError, "not there"),
        ("x", DesignError, "no span"),
        ("27-24", DesignError, "no span"),
    ],
)
def test_wrong_lines_are_said(tmp_path, lines, error, words):
    path = tmp_path / "x.design.toml"
    path.write_text(write(propose(prepared(program_of(BUOY)))).replace("24-27", lines))
    with pytest.raises(error, match=words):
        build(program_of(BUOY), read(path))


def test_a_paragraph_of_a_long_loop_becomes_a_method_of_the_owner():
    lines = "".join(f"    total += turn * {n}\n    print(total)\n" for n in range(6))
    text = f"total = 0\nturn = 0\nwhile turn < 3:\n    turn += 1\n    if turn == 7:\n        break\n    # count the carts\n{lines}print(total)\n"
    program = program_of(text)
    design = propose(prepared(program))
    assert [m.name for m in design.methods] == ["count_carts"]
    built = text_of(build(program, design).program)
    assert "self.count_carts()" in built
    assert printed(built) == printed(text)


def test_a_draft_gives_up_what_cannot_be_built():
    text = """
    import pgzrun

    TITLE = "kites"
    TITLE = TITLE + " on the quay"
    kite_x, kite_y = 0, 0
    score = 0

    def move_kite():
        global kite_x, kite_y
        kite_x, kite_y = kite_y + 1, kite_x

    def show_kite():
        print(kite_x, kite_y)

    def draw():
        show_kite()

    def update():
        global score
        move_kite()
        score += 1

    pgzrun.go()
    """
    program = prepared(program_of(text))
    design = propose(program)
    assert not design.is_lifted
    assert "is found by its name by the game's runner" in design.doubts[0]
    assert "def draw():\n    kite.show()" in build(program, design).program.main.source.data.decode()


def test_a_draft_that_cannot_be_built_is_none():
    text = "level = 0\ndef rise():\n    global level\n    level += 1\nwhile level < 3:\n    rise()\nprint(globals())\n"
    with pytest.raises(RefusedError, match="reaches the module's variables"):
        propose(prepared(program_of(text)))


TOLL = """
rates = {"cart": 4, "kite": 1}
kind = None
taken = 0
passed = 0
for words in [["cart"], ["pay", "2"], ["kite"], ["pay", "9"], ["show"], ["off"]]:
    if words[0] in rates:
        kind = words[0]
        taken = 0
        print("a", kind)
        print("it costs", rates[kind])
    elif words[0] == "pay":
        taken += int(words[1])
        toll = rates[kind] * 2
        if passed > 3:
            # the fifth pays half
            toll = toll // 2
        print("taken", taken, "of", toll)
        if taken >= toll:
            passed += 1
            print("passed", passed)
    elif words[0] == "show":
        toll = rates[kind] * 2
        if passed > 3:
            toll = toll // 2
        if toll > taken:
            print("missing", toll - taken)
    else:
        print("what?")
print(passed, taken)
"""


def test_what_is_worked_out_in_several_places_is_worked_out_in_one():
    program = program_of(TOLL)
    text = build(program, propose(program)).program.main.source.data.decode()
    assert printed(text) == printed(TOLL)
    assert text.count("= self.calculate_toll()") == 2 and text.count("// 2") == 1
    assert text.count("# the fifth pays half") == 1


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("        if passed > 3:\n            toll", "        if passed > 4:\n            toll"),  # not the same
        (
            "        toll = rates[kind] * 2\n        if passed > 3:\n            toll",
            "        toll = 3\n\n        if passed > 3:\n            toll",
        ),
    ],
)
def test_what_is_worked_out_otherwise_stays(old, new):
    program = program_of(TOLL.replace(old, new, 1))
    text = build(program, propose(program)).program.main.source.data.decode()
    assert "calculate_toll" not in text and printed(text) == printed(program.main.source.data.decode())


BOARD = """
ink = []
tide = 3


class Pen:
    def goto(self, x, y):
        ink.append((x, y))

    def write(self, text, color):
        ink.append((text, color))


pen = Pen()
while tide < 6:
    tide += 1
    pen.goto(-5, 10)
    first = "Tide" + str(tide)
    pen.write(first, "blue")
    pen.goto(20, 10)
    second = "Rain" + str(tide)
    pen.write(second, "red")
    if tide == 5:
        pen.goto(0, -8)
        third = "High" + str(tide)
        pen.write(third, "blue")
print(ink, tide)
"""


def test_what_is_done_with_other_values_is_done_in_one_place():
    program = program_of(BOARD)
    design = propose(program)
    (method,) = [method for method in design.methods if method.values]
    assert (method.name, method.values) == ("write_text", ("x", "y", "text", "color"))
    again = parse(Path("board.design.toml"), write(design))
    text = build(program, again).program.main.source.data.decode()
    assert printed(text) == printed(BOARD)
    assert 'self.write_text(-5, 10, "Tide", "blue")' in text and 'self.write_text(0, -8, "High", "blue")' in text
    assert text.count("pen.goto(") == 1


@pytest.mark.parametrize(
    "values", ['with = ["x"]', 'with = ["x", "y", "text", "pen"]', 'with = ["x", "x", "text", "color"]']
)
def test_parameters_that_do_not_fit(values):
    program = program_of(BOARD)
    text = write(propose(program)).replace('with = ["x", "y", "text", "color"]', values)
    with pytest.raises(RefusedError, match=r"differ in 4 values|means something here"):
        build(program, parse(Path("board.design.toml"), text))


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ('pen.write(third, "blue")', 'pen.write(third, "blue" + "")'),
        ('third = "High" + str(tide)', 'third = "High" + str(tide); tide += 1'),
    ],
)
def test_what_is_done_otherwise_stays(old, new):
    text = BOARD.replace(old, new)
    program = program_of(text)
    built = build(program, propose(program)).program.main.source.data.decode()
    assert printed(built) == printed(text) and built.count("pen.goto(") == 2


GRID = """
rows = []
boats = 0


def clear():
    global rows
    rows = [["."] * 4 for _ in range(2)]


def put(x, y, sign):
    if 0 <= x < 4:
        rows[y][x] = sign


def show():
    for row in rows:
        print("".join(row))


while boats < 3:
    boats += 1
    clear()
    put(boats, boats % 2, "B")
    show()
print(boats)
"""


def test_a_list_with_deeds_of_its_own_is_a_class():
    program = program_of(GRID)
    (plan,) = propose(program).classes
    assert (plan.name, [m.name for m in plan.methods]) == ("Rows", ["clear", "put", "show"])
    fewer = GRID.replace("    for row in rows:\n", "    print(boats)\n    for row in rows:\n")
    assert propose(program_of(fewer)).classes == []


def test_one_class_is_made_where_it_is_asked_for():
    text = """
        def double(n):
            return n * 2


        print(double(3))
        for turn in range(3):
            print(double(turn))
        """
    with pytest.raises(RefusedError, match="no variable is shared"):
        propose(program_of(text))
    design = propose(program_of(text), "one")
    assert (design.owner, design.classes, design.is_lifted) == ("Script", [], True)
    made = build(program_of(text), design).program.main.source.data.decode()
    assert "class Script:\n" in made and printed(made) == printed(text)


KITE = (
    "kite_x = 1\nkite_y = 2\n\n\ndef move_kite():\n    global kite_x, kite_y\n    kite_x += 1\n    kite_y += kite_x\n"
    "    print(kite_x, kite_y)\n\n\nwhile kite_x < 4:\n    move_kite()\n"
)


@pytest.mark.parametrize(
    ("old", "name"),
    [
        ('name = "Script"', "print"),
        ('name = "Script"', "main"),
        ('name = "Script"', "__class__"),
        ('name = "Kite"', "main"),
        ('name = "Kite"', "list"),
        ('instances = ["kite"]', "__name__"),
        ('name = "x"', "__class__"),
        ('name = "x"', "__dict__"),
        ('name = "move"', "__init__"),
        ('name = "move"', "__del__"),
        ('name = "move"', "class"),
    ],
)
def test_names_that_no_design_may_choose(old, name):
    program = program_of(KITE)
    text = write(propose(program))
    assert text.count(old) == 1
    changed = text.replace(old, old.replace(old.split('"')[1], name))
    with pytest.raises(DesignError, match=f"`{name}`"):
        build(program, parse(Path("x.design.toml"), changed))
