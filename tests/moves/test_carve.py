"""carve: by data flow, and only where control comes out at the end."""

from __future__ import annotations

import random

import pytest

from aedifex.moves.carve import Carve
from aedifex.source.errors import RefusedError
from tests.support.carving import carved as carved_at_random
from tests.support.guards import write_guards
from tests.support.helpers import SCRIPT, moved, printed

TEXT = """\
total = 0
kite_x = 3


def bend(n):
    m = n * 2
    # doubles it
    k = m + 1
    if k > 3:
        m = k
    return m + k


while total < 5:
    total += 1
    # moves the kite
    step = total * 2
    kite_x += step
    if kite_x > 10:
        print("far", bend(kite_x))
        kite_x = 0
    print(step)
print(total, kite_x)
"""


def carved(text: str, routine: str, first: int, last: int, **more) -> str:
    result = moved(text, Carve(SCRIPT, routine, first, last, "carved", **more))["script.py"]
    assert printed(result) == printed(text)
    return result


def test_what_is_needed_comes_in_and_what_is_used_goes_out():
    result = carved(TEXT, "bend", 7, 10)
    assert "def carved(m):\n    # doubles it\n    k = m + 1\n    if k > 3:\n        m = k\n    return m, k\n" in result
    assert "    m = n * 2\n    m, k = carved(m)\n    return m + k\n" in result


def test_what_leaves_a_function_where_it_ends_anyway_asks_nothing():
    text = (
        "def f(n):\n    print(n)\n    if n > 2:\n        if n > 5:\n            print('far')\n            return\n"
        "        print('near')\n    else:\n        print('here')\n\n\nf(1)\nf(3)\nf(9)\n"
    )
    assert "    if n > 2:\n        carved(n)\n    else:\n" in carved(text, "f", 4, 7)
    assert "if not carved(n):" in carved(text.replace("\n\n\nf(1)", "\n    print('end')\n\n\nf(1)"), "f", 4, 7)


@pytest.mark.parametrize("line", ["    kites = 4\n", "    kites = 4\n    del kites\n    kites = 5\n"])
def test_names_of_a_class_stay_its_own(line):
    with pytest.raises(RefusedError, match="stands in a class"):
        carved(f"class Quay:\n{line}\n\nprint(Quay.kites)\n", "<main>", 2, 1 + line.count("\n"))


def test_what_was_made_before_is_deleted_there():
    text = "def f(n):\n    k = [n]\n    print(k)\n    del k\n    return n\nprint(f(2))\n"
    with pytest.raises(RefusedError, match="is deleted here"):
        carved(text, "f", 4, 4)
    assert "def carved(n):\n    k = [n]\n    print(k)\n    del k\n" in carved(text, "f", 2, 4)


def test_lines_of_a_method_become_a_method():
    text = (
        "class Quay:\n    def __init__(self):\n        self.kites = []\n\n    def fly(self, wind):\n        high = wind * 2\n"
        "        self.kites.append(high)\n        if high > 3:\n            self.kites.append(0)\n        return high\n\n"
        "    def land(self):\n        self.kites.clear()\n\n\nquay = Quay()\nprint(quay.fly(1), quay.fly(4), quay.kites)\n"
    )
    result = carved(text, "Quay.fly", 7, 9)
    assert (
        "        high = wind * 2\n        self.carved(high)\n        return high\n\n    def carved(self, high):\n"
        in result
    )
    for other in ("class Mole(Quay):\n    def carved(self):\n        return 3\n", "print(hasattr(quay, 'carved'))\n"):
        with pytest.raises(RefusedError, match="in use already"):
            carved(text + other, "Quay.fly", 7, 9)
    with pytest.raises(RefusedError, match="no plain function"):
        carved(text.replace("    def fly", "    @print\n    def fly"), "Quay.fly", 8, 10)


def test_state_that_lives_on_is_shared_and_what_is_of_one_turn_is_handed_over():
    result = carved(TEXT, "<main>", 16, 21)
    assert "def carved():\n    global kite_x\n    # moves the kite\n    step = total * 2\n" in result
    assert "    total += 1\n    step = carved()\n    print(step)\n" in result


def test_a_value_that_may_stay_as_it_was_is_passed_in():
    text = "def f(n):\n    x = 1\n    if n:\n        x = 2\n    return x\nprint(f(0), f(1))\n"
    assert "def carved(n, x):" in carved(text, "f", 3, 4)


def test_statements_inside_loops_and_conditions_can_be_carved():
    text = "def f(n):\n    s = 0\n    for i in range(n):\n        if i % 2:\n            s += i\n            s *= 2\n    return s\nprint(f(5))\n"
    result = carved(text, "f", 5, 6)
    assert "            s = carved(s, i)\n" in result or "            s = carved(i, s)\n" in result


def test_text_over_several_lines_keeps_its_inside():
    text = 'def f(n):\n    if n:\n        t = """a\n  b {}""".format(n)\n        print(t)\nf(1)\n'
    assert '    t = """a\n  b {}""".format(n)\n' in carved(text, "f", 3, 5)


@pytest.mark.parametrize(
    ("body", "lines", "reason"),
    [
        ("if n:\n        return n\n    print(n)\n    return 1", (2, 3), "returns a value from"),
        (
            "if n:\n        return 2\n    elif n == 0:\n        return 3\n    print(n)\n    return 1",
            (2, 5),
            "returns a value from",
        ),
        (
            "for i in range(3):\n        if i:\n            break\n        elif n:\n            return 4\n    return 1",
            (3, 6),
            "returns from the function in one case",
        ),
        (
            "for i in range(3):\n        if i:\n            break\n        elif n:\n            continue\n        n -= 1\n    return n",
            (3, 6),
            "goes on with it in another",
        ),
        (
            "k = 0\n    for i in range(3):\n        k += i\n        if i:\n            break\n    return k",
            (4, 6),
            "`k` would then not be returned",
        ),
        ("import os\n    return 1", (2, 2), "imports, defines"),
        ("x = 1; y = 2\n    return x + y", (2, 2), "shares its line"),
        ("x = 1\n    g = lambda: x\n    return g()", (2, 2), "run later"),
        (
            "try:\n        x = int(n)\n        x += 1\n    except ValueError:\n        x = 0\n    return x",
            (3, 4),
            "caught further out",
        ),
        ("if n:\n        x = 1\n    if n:\n        print(x)\n    return n", (4, 5), "may not have a value"),
        ("for i in range(3):\n        print(i)\n    return 1", (3, 4), "no whole statements"),
        ("print(locals())\n    x = 1\n    return x", (3, 3), "locals"),
    ],
)
def test_what_cannot_be_carved_is_refused(body, lines, reason):
    text = f"def f(n):\n    {body}\nprint(f(1))\n"
    with pytest.raises(RefusedError, match=reason):
        moved(text, Carve(SCRIPT, "f", *lines, "carved"))


@pytest.mark.parametrize(
    ("body", "lines", "function", "call"),
    [
        (
            "for i in range(4):\n        if i == 2:\n            break\n        print(i)\n    return 1",
            (3, 4),
            "    if i == 2:\n        return False\n    return True\n",
            "        if not carved(i):\n            break\n        print(i)\n",
        ),
        (
            "for i in range(4):\n        if i == n:\n            continue\n        print(i)\n    return 1",
            (3, 5),
            "    if i == n:\n        return\n    print(i)\n",
            "        carved(n, i)\n    return 1\n",
        ),
        (
            "for i in range(4):\n        if i == n:\n            continue\n        print(i)\n        if i > 2:\n            break\n    return 1",
            (3, 7),
            "    if i == n:\n        return True\n    print(i)\n    if i > 2:\n        return False\n    return True\n",
            "        if not carved(n, i):\n            break\n    return 1\n",
        ),
        (
            "print(n)\n    if n:\n        return 2\n    return 1",
            (3, 4),
            "    if n:\n        return 2\n    return 1\n",
            "    print(n)\n    return carved(n)\n",
        ),
        (
            "if n > 5:\n        return True\n    print(n)\n    return False",
            (2, 3),
            "    if n > 5:\n        return False\n    return True\n",
            "    if not carved(n):\n        return True\n    print(n)\n",
        ),
        (
            "if n > 5:\n        return\n    print(n)\n    print(2)",
            (2, 3),
            "    if n > 5:\n        return False\n    return True\n",
            "    if not carved(n):\n        return\n    print(n)\n",
        ),
        (
            "for i in range(4):\n        for j in range(3):\n            if j > i:\n                break\n            print(j)\n    return 1",
            (3, 6),
            "    for j in range(3):\n        if j > i:\n            break\n        print(j)\n",
            "        carved(i)\n    return 1\n",
        ),
    ],
)
def test_what_leaves_a_loop_or_the_function_becomes_an_answer(body, lines, function, call):
    text = f"def f(n):\n    {body}\nprint(f(1), f(7))\n"
    result = carved(text, "f", *lines)
    assert function in result
    assert call in result


def test_an_answer_that_is_asked_last_is_handed_on():
    text = "n = 0\nwhile True:\n    n += 1\n    print(n)\n    if n > 3:\n        break\n    print('-')\nprint(n)\n"
    once = carved(text, "<main>", 4, 7)
    assert "while True:\n    n += 1\n    if not carved():\n        break\n" in once
    first = once.splitlines().index("while True:") + 2
    twice = moved(once, Carve(SCRIPT, "<main>", first, first + 2, "turn"))["script.py"]
    assert "    n += 1\n    return carved()\n" in twice
    assert printed(twice) == printed(text)


def test_a_run_inside_a_body_may_raise_as_before():
    text = "def f(n):\n    try:\n        print(n)\n        print(1 // n)\n    except ZeroDivisionError:\n        print('no')\nf(0)\nf(1)\n"
    assert "        carved(n)\n" in carved(text, "f", 3, 4)


def test_the_type_of_shared_state_stays_where_it_is():
    text = "n: int = 1\ndef f():\n    global n\n    n += 1\nf()\nprint(n)\n"
    with pytest.raises(RefusedError, match="declares the type"):
        moved(text, Carve(SCRIPT, "<main>", 1, 1, "carved"))


def test_what_all_ways_set_has_a_value():
    text = "def f(n):\n    try:\n        x = int(n)\n    except ValueError:\n        return 0\n    if x:\n        y = 1\n    else:\n        raise SystemExit\n    print(x)\n    print(y)\n    return 1\nprint(f('1'), f('a'))\n"
    assert "carved(x, y)" in carved(text, "f", 10, 11)


def test_what_a_handler_passes_over_may_have_none():
    text = "def f(n):\n    try:\n        x = int(n)\n    except ValueError:\n        pass\n    if n == '1':\n        print(x)\n        print(x)\n    return 1\nprint(f('1'), f('a'))\n"
    with pytest.raises(RefusedError, match="may not have a value"):
        moved(text, Carve(SCRIPT, "f", 7, 8, "carved"))


TWINS = """\
level = 0
log = []


def rise(n):
    global level
    step = n * 2
    level += step
    log.append(level)
    return step


def storm(n):
    global level
    if n:
        # the same again
        step = n * 2
        level += step
        log.append(level)
        print(step)


def other(level):
    step = level * 2
    level += step
    log.append(level)
    return level


print(rise(2), storm(3), other(4), level, log)
n = 5
step = n * 2
level += step
log.append(level)
print(step, level)
"""


def test_what_is_written_alike_elsewhere_becomes_the_same_call():
    result = carved(TWINS, "rise", 7, 9)
    assert result.count("step = carved(n)\n") == 2
    assert "        # the same again\n        step = carved(n)\n        print(step)\n" in result
    assert "def other(level):\n    step = level * 2\n" in result


def test_what_may_run_before_the_function_is_there_stays():
    text = "n = 1\nprint(n)\nprint(n + 1)\n\n\ndef f(n):\n    print(n)\n    print(n + 1)\nf(2)\n"
    result = carved(text, "f", 7, 8)
    assert result.startswith("n = 1\nprint(n)\nprint(n + 1)\n")


IDLE = """\
level = 0.0
total = 0
for hour in range(6):
    level = hour / 2
    if level > 1:
        total += 1
print(total)
"""


def test_a_first_value_that_nothing_looks_at_any_more_goes():
    assert "level = 0.0" not in carved(IDLE, "<main>", 4, 6)


def test_a_value_inside_of_what_is_carved_stays():
    text = IDLE.replace(
        "    level = hour / 2",
        "    if hour > 2:\n        level = 3\n        other = hour\n    else:\n        level = 1",
    )
    assert "level = 3\n" in carved(text, "<main>", 4, 10)


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("print(total)", "print(total, level)"),
        ("level = 0.0", "level = 0.0; other = 1"),
        ("level = 0.0", "# the level of the river\nlevel = 0.0"),
        ("level = 0.0", "level = float(0)"),
        ("print(total)", "print(total)\nif total > 9:\n    print(level)"),
        ("level = hour / 2", "level += hour / 2"),
    ],
)
def test_a_first_value_that_may_be_wanted_stays(old, new):
    text = IDLE.replace(old, new)
    first = text[: text.index("    level")].count("\n") + 1
    assert "level = " in carved(text, "<main>", first, first + 2).partition("def ")[0]


AROUND = """\
import contextlib


def f(n):
    x = 0
    for i in range(4):
        {around}
            x = 10 // (n - i)
            x += i
            print(x)
        {behind}
    {last}


print(f(2))
"""


@pytest.mark.parametrize(
    ("around", "behind", "last"),
    [
        ("with contextlib.suppress(ZeroDivisionError):", "print('next')", "return x"),
        ("with contextlib.suppress(ZeroDivisionError):", "print(x)", "return n"),
        ("try:", "except ZeroDivisionError:\n            print(x)", "return n"),
        ("try:", "finally:\n            print(x)", "return n"),
    ],
)
def test_what_is_looked_at_after_an_error_is_not_handed_back(around, behind, last):
    text = AROUND.format(around=around, behind=behind, last=last)
    with pytest.raises(RefusedError, match="caught further out"):
        moved(text, Carve(SCRIPT, "f", 8, 9, "carved"))


@pytest.mark.parametrize("caught", ["ZeroDivisionError", "Exception"])
def test_what_only_a_handler_looks_at_is_not_lost(caught):
    text = f"def f(n):\n    k = 0\n    try:\n        k = 2\n        print(10 // n)\n    except {caught}:\n        return k\n"
    with pytest.raises(RefusedError, match="`k` would then not be returned"):
        moved(f"{text}    return n\n\n\nprint(f(0))\n", Carve(SCRIPT, "f", 4, 5, "carved"))


def test_what_nobody_looks_at_after_an_error_is_handed_back():
    text = AROUND.format(around="with contextlib.suppress(ZeroDivisionError):", behind="print('next')", last="return n")
    text = text.replace("    x = 0\n", "    print(n)\n").replace("x += i", "x += n")
    result = moved(text, Carve(SCRIPT, "f", 8, 9, "carved"))["script.py"]
    assert "            x = carved(n, i)\n" in result
    assert printed(result) == printed(text)


@pytest.mark.parametrize("first", ["if x > 1:", "k = 2\n    if x > 1:"])
def test_a_condition_may_be_the_first_to_miss_a_value(first):
    text = f"def f(n):\n    if n:\n        x = n\n    {first}\n        n += x\n    return n\n\n\nprint(f(3))\n"
    last = 5 + first.count("\n")
    assert "carved(" in moved(text, Carve(SCRIPT, "f", 4, last, "carved"))["script.py"]
    with pytest.raises(RefusedError, match="may not have a value"):
        moved(text.replace("if x > 1", "if n and x"), Carve(SCRIPT, "f", 4, last, "carved"))


@pytest.mark.parametrize("seed", range(22))
def test_random_scripts_that_catch_errors_say_the_same(seed):
    assert not carved_at_random(write_guards(seed), random.Random(seed)).startswith("different")
