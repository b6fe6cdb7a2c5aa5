"""The test that ends a loop stands alone, and what the moves make too long is broken."""

from __future__ import annotations

import pytest

from aedifex.moves.fold import Fold
from aedifex.moves.hoist import Hoist
from aedifex.moves.rename import Rename
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed


@pytest.mark.parametrize(
    ("text", "line", "after"),
    [
        (
            "for n in range(9):\n    if n > 4: break\n    elif n > 2: print(n)\n    else: print(-n)\n",
            2,
            "for n in range(9):\n    if n > 4: break\n    if n > 2: print(n)\n    else: print(-n)\n",
        ),
        (
            "def f(n):\n    if n > 4:\n        return 1\n    # elif: the rest\n    elif n > 2:\n        n = 7\n    return n\nprint(f(3), f(5), f(1))\n",
            2,
            "def f(n):\n    if n > 4:\n        return 1\n    # elif: the rest\n    if n > 2:\n        n = 7\n    return n\nprint(f(3), f(5), f(1))\n",
        ),
        (
            "for n in 'abc':\n    # go\n    if n == 'a':\n        print(1)\n    elif n in ('b', 'x'):\n        break  # so\n    else:\n        print(2)\n",
            3,
            "for n in 'abc':\n    # go\n    if n in ('b', 'x'):\n        break  # so\n    if n == 'a':\n        print(1)\n    else:\n        print(2)\n",
        ),
        (
            "for n in 'ab':\n    if len(n) == 1 and n == 'a':\n        print(1)\n    elif n == 'c' or n == 'b':\n        break",
            2,
            "for n in 'ab':\n    if n == 'c' or n == 'b':\n        break\n    if len(n) == 1 and n == 'a':\n        print(1)\n",
        ),
    ],
)
def test_a_chain_begins_anew(text, line, after):
    assert moved(text, Hoist(SCRIPT, line))["script.py"] == after
    assert printed(after) == printed(text)


@pytest.mark.parametrize(
    "text",
    [
        "n = 1\nif n > 4:\n    n = 2\nelif n > 2:\n    n = 3\n",
        "for n in range(3):\n    if n > 4:\n        break\n    else:\n        print(n)\n",
        "for n in range(3):\n    if n > 1:\n        if n:\n            break\n    elif n:\n        print(n)\n",
        "for n in range(3):\n    if n > 1:\n        continue\n    elif n:\n        print(n)\n",
        "for n in range(3):\n    if n > 1:\n        print(n)\n    elif n == 2:\n        break\n",
        "for n in range(3):\n    if n == 2:\n        print(n)\n    elif n in (1, 2):\n        break\n",
        "for n in range(3):\n    if n != 2:\n        print(n)\n    elif n == 1:\n        break\n",
        "for n in range(3):\n    if n == 2:\n        print(n)\n    elif n != 1:\n        break\n",
        "for n in range(3):\n    if print(n) and n == 2:\n        print(n)\n    elif n == 1:\n        break\n",
        "for n in range(3):\n    if n == 2:\n        print(n)\n    elif n == 1.0:\n        break\n",
    ],
)
def test_a_chain_that_may_go_on_stays(text):
    line = 1 + text[: text.index("if ")].count("\n")
    with pytest.raises(RefusedError, match="always leaves the loop or the function"):
        moved(text, Hoist(SCRIPT, line))


def test_only_lines_that_we_have_made_too_long_are_broken():
    own = "print('" + "x" * 90 + "', 1)"
    text = f"{own}\nload = 3\nprint(load, load, load, load, load, load, load, load, load, load, load, load)\n"
    after = moved(text, Rename(SCRIPT, "load", "load_of_the_cable_ferry"), Fold(SCRIPT))["script.py"]
    assert own in after and printed(after) == printed(text)
    assert max(map(len, after.splitlines())) <= len(own)
