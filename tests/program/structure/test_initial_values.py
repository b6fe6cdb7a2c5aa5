"""Which first values a constructor could set, and where they come from."""

from __future__ import annotations

import pytest

from aedifex.program.structure.initial_values import InitialValues
from tests.support.helpers import module_of


def movable(text: str, *names: str) -> dict[str, tuple[bool, bool]]:
    module = module_of(text)
    starts = InitialValues(module, [module.scope.symbols[name] for name in names]).movable
    return {start.symbol.name: (start.is_foreign, start.needs_own) for start in starts}


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("x = 1\ny = 2\n", {"x": (False, False), "y": (False, False)}),
        ("x = 1\ny = x + 1\n", {"x": (False, False), "y": (False, True)}),
        ("x, y = 1, 2\n", {"x": (False, False), "y": (False, False)}),
        ("x = 1\nprint('set up')\ny = 2\n", {"x": (False, False), "y": (False, False)}),
        ("x = 1\nprint('set up')\ny = roll()\n", {"x": (False, False), "y": (True, False)}),
        ("x = 1\nif ask():\n    y = 2\n", {"x": (False, False)}),
        ("x = roll()\ny = 2\n", {"x": (True, False), "y": (False, False)}),
    ],
)
def test_what_a_constructor_could_set(text, expected):
    assert movable(text, "x", "y") == expected


def test_a_value_of_someone_else_is_passed_in():
    text = "wind = 1\ndef blow():\n    global wind\n    wind += 1\nblow()\nx = wind\n"
    assert movable(text, "x") == {"x": (True, False)}


def test_the_object_is_made_at_the_first_touch_where_that_serves_all():
    module = module_of("a = 1\nb = 2\nx = 3\n")
    starts = InitialValues(module, [module.scope.symbols["x"]])
    assert (starts.place, starts.is_late) == (2, False)


def waiting(text: str, *names: str) -> list[str]:
    module = module_of(text)
    return [value.symbol.name for value in InitialValues(module, [module.scope.symbols[n] for n in names]).waiting]


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("x = 1\nx += 1\ny = x\n", ["x"]),
        ("x = roll()\nprint('between')\ny = roll()\n", ["x"]),
        ("wind = 1\nx = wind\nwind = 2\nprint(x)\ny = wind + roll()\n", []),
        ("if ask():\n    x = roll()\nelse:\n    x = 2\nprint('between')\ny = roll()\n", ["x"]),
        ("x = roll()\ndef see():\n    return x\nprint(see())\ny = roll()\n", []),
        (
            "import threading\nx = roll()\ndef late():\n    return x\ndef see():\n    return x\nprint(see())\ny = roll()\nlate()\n",
            [],
        ),
        ("x = roll()\nlater = [x for _ in range(2)]\ny = roll()\n", []),
        ("x = roll()\nprint(x)\ndel x\ny = roll()\n", []),
        ("x = 1\nprint(x)\ny = roll()\n", []),
    ],
)
def test_what_waits_for_the_object(text, expected):
    assert waiting(text, "x", "y") == expected
