"""Numbers that mean one thing get a name, and those that only look like it do not."""

from __future__ import annotations

from textwrap import dedent

import pytest

from aedifex.design.drafting.constants import constants_of
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.name_value import NameValue
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, module_of, moved, printed, program_of


@pytest.mark.parametrize(
    ("text", "after"),
    [
        ("x = 7\nif x < 9: x = 9\nprint(x)\n", "MOST = 9\n\nx = 7\nif x < MOST: x = MOST\nprint(x)\n"),
        ("import sys\nx = 9\nprint(x)\n", "import sys\n\nMOST = 9\n\nx = MOST\nprint(x)\n"),
        ('"""Doc."""\nA = 3\nx = 9\nx += A\n', '"""Doc."""\nA = 3\nMOST = 9\nx = MOST\nx += A\n'),
        (
            "def f(x=9):\n    return x * 9\nprint(f())\n",
            "MOST = 9\n\n\ndef f(x=MOST):\n    return x * MOST\nprint(f())\n",
        ),
        (
            "x = [9]\ny = x[0] % 9 + len(x) * 9\nprint(y, x[-1])\n",
            "x = [9]\nMOST = 9\ny = x[0] % 9 + len(x) * MOST\nprint(y, x[-1])\n",
        ),
    ],
)
def test_where_a_name_goes(text: str, after: str) -> None:
    found = moved(text, NameValue(SCRIPT, "9", "MOST"))["script.py"]
    assert found == after
    assert printed(found) == printed(text)


@pytest.mark.parametrize(
    ("text", "move", "reason"),
    [
        ("MOST = 1\nx = 9\nx += MOST\n", NameValue(SCRIPT, "9", "MOST"), "in use already"),
        ("def f(MOST):\n    x = 9\n    return x\n", NameValue(SCRIPT, "9", "MOST"), "in use already"),
        ("x = 8\nprint(f'{x > 9=}')\n", NameValue(SCRIPT, "9", "MOST"), "template"),
        ("print(9)\n", NameValue(SCRIPT, "9", "MOST"), "no 9 stands"),
        ("x = 9\ny = 9\n", NameValue(SCRIPT, "9", "MOST", (3,)), "no 9 stands on line 3"),
        ("A = 4\nx = 9\n", NameValue(SCRIPT, "9", "MOST", (), "2 * A"), "is not 9"),
        ("x = 9\nA = 3\n", NameValue(SCRIPT, "9", "MOST", (), "3 * A"), "is not 9"),
        ("A = 3\nA += 1\nx = 9\n", NameValue(SCRIPT, "9", "MOST", (), "3 * A"), "is not 9"),
    ],
)
def test_what_is_refused(text: str, move: NameValue, reason: str) -> None:
    with pytest.raises(RefusedError, match=reason):
        moved(text, move)


def test_one_number_is_computed_from_another() -> None:
    text = "def f(x=60, y=1440, z=4320):\n    return x, y, z\nprint(f())\n"
    hour = NameValue(SCRIPT, "60", "HOUR")
    day = NameValue(SCRIPT, "1440", "DAY", (), "24 * HOUR")
    after = moved(text, hour, day, NameValue(SCRIPT, "4320", "WEEKEND", (), "3 * DAY"))["script.py"]
    assert after.startswith("HOUR = 60\nDAY = 24 * HOUR\nWEEKEND = 3 * DAY\n")
    assert printed(after) == printed(text)


def named(text: str) -> dict[str, str]:
    """The names that numbers of a text get, with how they are written."""
    module = module_of(text)
    found = constants_of(module, lambda number: module.source.line_of(number.expression.start))
    return {constant.name: constant.computed or constant.value for constant in found}


@pytest.mark.parametrize(
    ("text", "names"),
    [
        ("speed = 4\nif speed > 9:\n    speed = 9\n", {"MAX_SPEED": "9"}),
        ("level = 4\nif level < 3:\n    level = 3\n", {"MIN_LEVEL": "3"}),
        ("lives = 3\ndef again():\n    global lives\n    lives = 3\n", {"START_LIVES": "3"}),
        ("water = 900\nif water >= 120:\n    water -= 120\n", {"WATER_NEEDED": "120"}),
        (
            "place = 4\ndef left():\n    global place\n    place -= 5\ndef right():\n    global place\n    place += 5\n",
            {"PLACE_STEP": "5"},
        ),
        ("minutes = 400\nhour = minutes // 60\nrest = minutes % 60\n", {"MINUTES_PER_HOUR": "60"}),
        (
            "minutes = 9\nday = minutes // 1440\nhour = minutes % 1440 // 60\nprint(minutes % 60)\n",
            {"MINUTES_PER_HOUR": "60", "MINUTES_PER_DAY": "24 * MINUTES_PER_HOUR"},
        ),
        ("t = 0.0\nheat = 3.0\nt += 0.1\nheat += 4 * 0.1\nheat -= heat * 0.1\n", {"TIME_STEP": "0.1"}),
        ("ferry = 5\ntide = 5\nprint(ferry * 5, tide + 5)\n", {}),
        ("score = 0\nscore += 10\nscore += 10\n", {}),
        ("x = 9\nif x > 9:\n    x = 9\n", {}),
        ("speed = 4\nif speed > 9:\n    speed = 8\n", {}),
    ],
)
def test_what_numbers_are_called(text: str, names: dict[str, str]) -> None:
    assert named(dedent(text)) == names


def test_a_name_that_another_file_has_is_refused() -> None:
    program = program_of("x = 9\nx += 9\n", other="from script import *\nMOST = 3\nprint(MOST)\n")
    with pytest.raises(RefusedError, match="in use already"):
        perform(program, NameValue(SCRIPT, "9", "MOST"))
