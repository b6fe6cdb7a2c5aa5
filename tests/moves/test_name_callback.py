"""name_callback: handlers of the main code get a name, and do what they did."""

from __future__ import annotations

import pytest

from aedifex.moves.name_callback import NameCallbacks
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed
from tests.support.scripts import outcome

TEXT = """\
queue = []
level = [0]


def onkey(what, key, *more):
    queue.append(what)


# keys
onkey(lambda: level.append(1) or level.append(2), "space")
for n in range(3):
    onkey(lambda: (level.append(n), n)[1], "Page Up")
onkey(lambda a, *b, **c: [a, b, c, level[0]], key="q")
onkey(lambda: level.clear(), "c")
onkey(lambda: level, "l")
onkey(what=lambda: -len(level), key="<Return>")
print([what() for what in queue[:4]], level, queue[4](1, 2, x=3))
queue[5]()
print(level, queue[6](), queue[7]())
"""


def named(text: str) -> str:
    result = moved(text, NameCallbacks(SCRIPT))["script.py"]
    assert printed(result) == printed(text)
    return result


def test_handlers_are_named_after_what_they_answer_to():
    text = named(TEXT)
    assert "def on_space():\n    return level.append(1) or level.append(2)\n" in text
    assert 'onkey(on_space, "space")\n' in text
    assert "def on_page_up():\n    return (level.append(n), n)[1]\n" in text
    assert "def on_q(a, *b, **c):\n    return [a, b, c, level[0]]\n" in text
    assert "def on_return():\n    return -len(level)\n" in text


def test_a_plain_call_or_name_stays():
    text = named(TEXT)
    assert 'onkey(lambda: level.clear(), "c")\n' in text
    assert 'onkey(lambda: level, "l")\n' in text


@pytest.mark.parametrize(
    "handler",
    [
        "lambda n=n: (n, 1)",
        "lambda: (m := 3, m)",
        "lambda: (\n    1, 2)",
    ],
)
def test_what_cannot_be_carried_elsewhere_stays(handler):
    with pytest.raises(RefusedError, match="no handler"):
        moved(f"n = 1\nprint(list(map({handler}, [])))\n", NameCallbacks(SCRIPT))


INSIDE = """\
queue = []


def onkey(what, key):
    queue.append(what)


def board(size, *names):
    total = size
    for n in range(3):
        onkey(lambda: (n, total)[0] + size, "Up")
    total += 1
    for name in names:
        # what a ring does
        def ring(times=2, *more, loud=False, **rest):
            \"\"\"Ring.\"\"\"
            sound = name * times  # the sound
            return [sound, total, more, loud, rest, [name for _ in range(size)]]

        print(ring(1, 2))
        onkey(ring, name)

    def stop():
        queue.clear()

    onkey(stop, "q")
    total += 1
    print(ring(), ring(3, loud=True), total)


def low():
    def ring():
        return "low"

    onkey(ring, "l")


board(2, "a", "b")
low()
for what in queue[:-2]:
    print(what())
print(queue[-1](), queue[3](1, 2, loud=3, x=4))
queue[-2]()
print(queue)
"""


def test_handlers_inside_functions_get_what_they_need_when_they_are_called():
    text = named(INSIDE)
    assert "def on_up(size, total, n):\n    return (n, total)[0] + size\n" in text
    assert 'onkey(lambda: on_up(size, total, n), "Up")\n' in text
    assert "# what a ring does\ndef ring_2(size, total, name, times=2, *more, loud=False, **rest):\n" in text
    assert (
        "onkey(lambda times=2, *more, loud=False, **rest: ring_2(size, total, name, times, *more, loud=loud, **rest)"
        in text
    )
    assert "print(ring_2(size, total, name), ring_2(size, total, name, 3, loud=True), total)\n" in text
    assert "\n\ndef stop():\n    queue.clear()\n\n\n" in text and 'onkey(stop, "q")\n' in text


@pytest.mark.parametrize(
    "inside",
    [
        "f(lambda: (later, 1))\n    later = 2",
        "x = 1\n    def g():\n        nonlocal x\n        x += 1\n    g()\n    f(lambda: (x, 1))",
        "def g():\n        return 1\n    f(g)\n    f(g)",
        "def g():\n        return 1\n    g.seen = 1\n    f(g)",
        "def g():\n        return f(g)\n    f(g)",
        "def g(n=[]):\n        return n\n    f(g)",
        "def g():\n        yield 1\n    f(g)",
        "g = 1\n    def g():\n        return 1\n    f(g)",
        "@f\n    def g():\n        return 1\n    f(g)",
        "k = int\n    def g(n: k):\n        return 1\n    f(g)",
        "def g():\n        return 1\n    f(g)\n    print(locals())",
    ],
)
def test_handlers_that_would_see_something_else_stay(inside):
    text = f"def f(g):\n    return g\ndef h():\n    {inside}\nprint(f(1))\n"
    with pytest.raises(RefusedError, match="no handler"):
        moved(text, NameCallbacks(SCRIPT))


def test_threads_see_what_changes_meanwhile():
    text = "import threading\ndef h():\n    on = True\n    t = threading.Thread(target=lambda: (on, 1))\n    on = False\n    t.start()\nh()\n"
    with pytest.raises(RefusedError, match="no handler"):
        moved(text, NameCallbacks(SCRIPT))


def test_handlers_in_classes_stay():
    text = "def f(g):\n    return g\nclass C:\n    k = f(lambda: (1, 2))\nprint(C.k())\n"
    with pytest.raises(RefusedError):
        moved(text, NameCallbacks(SCRIPT))


def test_a_script_with_them_is_built():
    assert (
        outcome(
            TEXT.replace("level = [0]", "level = [0]\nturns = 0\n\n\ndef turn():\n    global turns\n    turns += 1\n")
        )
        == "same"
    )
