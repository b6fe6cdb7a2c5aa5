"""name_callback: handlers of the main code get a name, and do what they did."""

from __future__ import annotations

import pytest

from aedifex.moves.name_callback import NameCallbacks
from aedifex.source.errors import RefusedError
from tests.helpers import SCRIPT, moved, printed
from tests.oracle.scripts import outcome

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
    with pytest.raises(RefusedError, match="no anonymous handler"):
        moved(f"n = 1\nprint(list(map({handler}, [])))\n", NameCallbacks(SCRIPT))


def test_handlers_inside_functions_and_classes_stay():
    text = "def f(g):\n    return g\ndef h():\n    return f(lambda: (1, 2))\nclass C:\n    k = f(lambda: (1, 2))\nprint(h()())\n"
    with pytest.raises(RefusedError):
        moved(text, NameCallbacks(SCRIPT))


def test_a_script_with_them_is_built():
    assert (
        outcome(
            TEXT.replace("level = [0]", "level = [0]\nturns = 0\n\n\ndef turn():\n    global turns\n    turns += 1\n")
        )
        == "same"
    )
