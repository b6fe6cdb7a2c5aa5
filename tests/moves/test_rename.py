"""rename, seal: by meaning and not by spelling."""

from __future__ import annotations

import pytest

from aedifex.moves.rename import Rename
from aedifex.moves.seal import Seal
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed

SHELF = """
n = 1  # n counts


def take(n, step=1):
    total = n + step
    return f"{n=} {total}"


def put():
    global n
    n += 1
    rows = [n for n in range(3)]
    return rows


print(take(n), take(n=n, step=2), put(), "n", n)
"""


def renamed(text: str, old: str, new: str) -> str:
    result = moved(text, Rename(SCRIPT, old, new))["script.py"]
    assert printed(result) == printed(text)
    return result


def test_a_variable_is_renamed_where_it_is_meant():
    result = renamed(SHELF, "n", "count")
    assert "count = 1  # n counts" in result
    assert "def take(n, step=1):" in result
    assert "global count\n    count += 1" in result
    assert "[n for n in range(3)]" in result
    assert 'take(count), take(n=count, step=2), put(), "n", count' in result


def test_a_parameter_is_renamed_with_its_keywords_and_a_template_keeps_its_text():
    result = renamed(SHELF, "take.n", "amount")
    assert "def take(amount, step=1):" in result
    assert "take(amount=n, step=2)" in result
    assert 'f"n={amount!r} {total}"' in result


def test_a_function_and_a_local_are_renamed():
    assert "def fetch(n, step=1):" in renamed(SHELF, "take", "fetch")
    assert "result = n + step" in renamed(SHELF, "take.total", "result")


@pytest.mark.parametrize(
    ("old", "new", "reason"),
    [
        ("n", "take", "means something else"),
        ("take.total", "n", "in use here"),
        ("take", "print", "cannot be used"),
        ("take", "class", "cannot be used"),
        ("take.total", "range", "cannot be used"),
        ("missing", "other", "no name"),
        ("take.missing", "other", "no name"),
        ("nobody.x", "other", "no single"),
    ],
)
def test_what_would_clash_is_refused(old, new, reason):
    with pytest.raises(RefusedError, match=reason):
        moved(SHELF, Rename(SCRIPT, old, new))


@pytest.mark.parametrize(
    ("text", "old", "new", "reason"),
    [
        ("x = 1\ndef f():\n    y = 2\n    return x\nprint(f())\n", "x", "y", "means something else"),
        ("import math\nprint(math.pi)\n", "math", "m", "imported"),
        ("x = 1\nprint(globals()['x'])\n", "x", "y", "globals"),
        ("def f(a):\n    return a\ng = f\nprint(g(a=1))\n", "f.a", "b", "by its name"),
        ("def f(a):\n    return a\nprint(f(**{'a': 1}))\n", "f.a", "b", "by its name"),
        ("class C:\n    def m(self, a):\n        return a\nprint(C().m(a=1))\n", "C.m.a", "b", "by its name"),
        ("x = 1\ndef f():\n    return [x for y in [1]]\nprint(f())\n", "x", "y", "something else"),
    ],
)
def test_what_cannot_be_followed_is_refused(text, old, new, reason):
    with pytest.raises(RefusedError, match=reason):
        moved(text, Rename(SCRIPT, old, new))


BUOY = """
class Buoy:
    def __init__(self, x):
        self.x = x
        self.rings = 0
        self.hidden = 1

    def ring(self):
        self.rings += self.hidden
        return self


class Quay:
    def __init__(self):
        self.buoy = Buoy(4)
        self.hidden = 7

    def show(self):
        print(self.buoy.x, self.buoy.rings, self.hidden)


quay = Quay()
quay.buoy.ring()
quay.show()
"""


def test_a_member_is_renamed_through_every_object_that_is_known():
    result = renamed(BUOY, "Buoy.rings", "strokes")
    assert "self.strokes += self.hidden" in result
    assert "self.buoy.x, self.buoy.strokes" in result
    assert "quay.buoy.sound()" in renamed(BUOY, "Buoy.ring", "sound")


def test_only_what_nobody_else_uses_is_sealed():
    result = moved(BUOY, Seal(SCRIPT, ("Buoy", "Quay")))["script.py"]
    assert printed(result) == printed(BUOY)
    assert "self.rings += self._hidden" in result
    assert "self._hidden = 7" in result
    assert "self.x = x" in result
    assert "self.buoy = Buoy(4)" in result


@pytest.mark.parametrize(
    ("more", "reason"),
    [
        ("for thing in [quay.buoy]:\n    print(thing.rings)\n", "may or may not"),
        ("class Big(Buoy):\n    pass\n", "inherits"),
        ("print(getattr(quay.buoy, 'rings'))\n", "by its text"),
        ("print(quay.buoy.__dict__)\n", "by its text"),
    ],
)
def test_members_that_may_be_reached_otherwise_are_left_alone(more, reason):
    with pytest.raises(RefusedError, match=reason):
        moved(BUOY + more, Rename(SCRIPT, "Buoy.rings", "strokes"))
    result = moved(BUOY + more, Seal(SCRIPT, ("Buoy",)))["script.py"]
    assert "self.rings +=" in result


def test_a_taken_member_name_is_refused():
    for new in ("x", "ring"):
        with pytest.raises(RefusedError, match="in use already"):
            moved(BUOY, Rename(SCRIPT, "Buoy.rings", new))
