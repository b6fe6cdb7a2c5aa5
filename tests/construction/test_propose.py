"""A proposal with carved methods: built, the same, and only where it shortens something."""

from __future__ import annotations

import tomllib

import pytest

from aedifex.construction.build import build
from aedifex.construction.prepare import prepared
from aedifex.construction.propose import propose
from aedifex.design.document.reading import read
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


def test_what_stands_in_the_way_of_every_design_is_said_first():
    text = """
    hooks = []
    tide_x, tide_y = 0, 0

    @hooks.append
    def show():
        print(tide_x)

    def rise():
        global tide_x, tide_y
        tide_x, tide_y = tide_y + 1, tide_x

    while tide_x < 3:
        rise()
        tide_y += 1
    """
    design = propose(prepared(program_of(text)))
    assert design.doubts[0] == "it cannot be built as the script stands: `show` is decorated (line 5)"
