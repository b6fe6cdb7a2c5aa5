"""One line for each name."""

from __future__ import annotations

import pytest

from aedifex.moves.separate import Separate
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("x, y = 1, 2\nprint(x, y)\n", "x = 1\ny = 2\nprint(x, y)\n"),
        ("(x, y) = (1, [2])  # where\nprint(x, y)\n", "x = 1\ny = [2]  # where\nprint(x, y)\n"),
        ("[x, y] = 'a', {'b': 1}\nprint(x, y)\n", "x = 'a'\ny = {'b': 1}\nprint(x, y)\n"),
    ],
)
def test_plain_values(text, expected):
    assert moved(text, Separate(SCRIPT, 1))["script.py"] == expected
    assert printed(text) == printed(expected)


def test_inside_a_function_the_margin_stays():
    text = "def f():\n\tglobal x\n\tx, y = 1, 2\n\treturn y\nprint(f(), x)\n"
    expected = "def f():\n\tglobal x\n\tx = 1\n\ty = 2\n\treturn y\nprint(f(), x)\n"
    assert moved(text, Separate(SCRIPT, 3))["script.py"] == expected
    assert printed(text) == printed(expected)


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("x = y = 1\n", "no several names"),
        ("x, y = pair\n", "no several names"),
        ("x, y = 1, 2\nx, y = y, x\n", "worked out"),
        ("x, y = 1, f()\n", "worked out"),
        ("x = 1\n", "no several names"),
        ("x, y = 1, 2; print(x)\n", "shares its line"),
        ("x, y = (  # two\n    1, 2)\n", "comment"),
    ],
)
def test_what_is_refused(text, reason):
    line = 2 if text.count("\n") > 1 and "(" not in text else 1
    with pytest.raises(RefusedError, match=reason):
        moved(text, Separate(SCRIPT, line))
