"""answer and inline: an object does its part and says whether the program's turn comes; what is left goes to its place."""

from __future__ import annotations

import pytest

from aedifex.moves.answer import Answer
from aedifex.moves.inline import Inline
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed

KITES = """\
lost = 0
kites = [[9, "red"], [3, "blue"]]


def fly_kite(kite, wind):
    global lost
    kite[0] -= wind
@

for kite in kites:
    fly_kite(kite, 5)
print(lost, kites)
"""


def script(*lines: str) -> str:
    return KITES.replace("@", "".join(f"    {line}\n" for line in lines))


def answered(text: str, line: int) -> str:
    result = moved(text, Answer(SCRIPT, "fly_kite", line, "fly"))["script.py"]
    assert printed(result) == printed(text)
    return result


def test_a_last_condition_is_the_answer():
    result = answered(script("if kite[0] < 0:", "    lost += 1", "    print(kite)"), 9)
    assert "def fly(kite, wind):\n    kite[0] -= wind\n    return kite[0] < 0\n" in result
    assert "    if fly(kite, wind):\n        lost += 1\n        print(kite)\n" in result


def test_other_conditions_are_asked():
    result = answered(script("if kite[0]:  # up", "    # gone", "    lost += 1"), 10)
    assert "    if kite[0]:  # up\n        return True\n    return False\n" in result
    assert "    if fly(kite, wind):\n        # gone\n        lost += 1\n" in result


def test_what_leaves_early_says_no():
    result = answered(
        script("if kite[0] > 3:", "    return", "if kite[0] < 0:", "    lost += 1", "else:", "    kite[0] = 7"), 11
    )
    assert "        return False\n" in result
    assert "        return True\n    else:\n        kite[0] = 7\n    return False\n" in result


@pytest.mark.parametrize(
    ("lines", "line", "words"),
    [
        (["low = kite[0] < 0", "if low:", "    lost += low"], 10, "needs `low`"),
        (["lost += 1", "if kite[0] < 0:", "    lost += 1"], 10, "`lost` is set before"),
        (["if kite[0] < 0:", "    lost += 1", "    return lost"], 9, "gives a value back"),
        (["if kite[0] < 0:", "    lost += 1", "print(kite)"], 9, "does not begin the end of a branch"),
        (["for n in kite:", "    lost += 1"], 9, "does not begin the end of a branch"),
        (["if kite[0] < 0:", "    lost += len([k for k in kite])"], 9, "scopes of its own"),
    ],
)
def test_what_cannot_be_divided_is_refused(lines, line, words):
    with pytest.raises(RefusedError) as refused:
        moved(script(*lines), Answer(SCRIPT, "fly_kite", line, "fly"))
    reasons = [refused.value.reason, *(other.reason for other in refused.value.others)]
    assert any(words in reason for reason in reasons)


def inlined(text: str) -> str:
    result = moved(text, Inline(SCRIPT, "fly_kite"))["script.py"]
    assert printed(result) == printed(text)
    return result


def test_a_parameter_is_what_is_given():
    text = script("if kite[0] < 0:", "    # gone", "    lost += 1").replace("kite, 5)", "one, gust)")
    text = text.replace("for kite in kites:\n", "gust = 5\nfor one in kites:\n")
    assert "for one in kites:\n    one[0] -= gust\n    if one[0] < 0:\n        # gone\n        lost += 1\n" in inlined(
        text
    )


def test_state_is_declared_where_it_is_set_now():
    text = script("lost += 1").replace(
        "for kite in kites:\n    fly_kite(kite, 5)",
        "def fly_all():\n    wind = 5\n    for kite in kites:\n        fly_kite(kite, wind)\n\n\nfly_all()",
    )
    assert (
        "def fly_all():\n    global lost\n    wind = 5\n    for kite in kites:\n        kite[0] -= wind\n"
        in inlined(text)
    )


@pytest.mark.parametrize(
    ("text", "words"),
    [
        (script("print(lost)"), "`5` might be another value"),
        (script("kite = 3").replace(", 5)", ", lost)"), "sets variables of its own"),
        (script("lost += 1").replace(", 5)", ", lost)"), "`lost` might be another value"),
        (script("return 3").replace(", 5)", ", lost)"), "returns from its middle"),
        (script("print(2)") + "fly_kite(kites[0], 5)\n", "not called in one place only"),
        (script("print(2)").replace("    fly_kite(kite, 5)", "    print(fly_kite(kite, 5))"), "not called in one place only"),
        (script("print(sum(kite[:1]))").replace("for kite in kites:\n    fly_kite(kite, 5)", "def all_of():\n    sum = 5\n    for kite in kites:\n        fly_kite(kite, sum)\n\n\nall_of()"), "`sum` means something else"),
        (script("print(2)").replace("    global lost", '    """Fly."""\n    global lost'), "has a text"),
    ],
)  # fmt: skip
def test_what_would_mean_something_else_is_refused(text, words):
    printed(text)
    with pytest.raises(RefusedError) as refused:
        moved(text, Inline(SCRIPT, "fly_kite"))
    reasons = [refused.value.reason, *(other.reason for other in refused.value.others)]
    assert any(words in reason for reason in reasons)


@pytest.mark.parametrize(
    "text",
    [
        "lost = 0\ndef f(k):\n    global lost\n    yield k\n    if k[0] < 0:\n        lost += 1\nprint([*f([1])])\n",
        "lost = 0\nasync def f(k):\n    global lost\n    k[0] -= 1\n    if k[0] < 0:\n        lost += 1\n",
        "lost = 0\ndef f(k):\n    global lost\n    print(locals())\n    if k[0] < 0:\n        lost += 1\nf([1])\n",
    ],
    ids=["a generator", "one that is awaited", "names looked up"],
)
def test_what_runs_otherwise_is_not_divided(text):
    with pytest.raises(RefusedError):
        moved(text, Answer(SCRIPT, "f", 6, "g"))


@pytest.mark.parametrize(
    "text",
    [
        "def f(k):\n    print(locals())\nfor k in [1]:\n    f(k)\n",
        "import sys\nif len(sys.argv) > 5:\n    def f(k):\n        print(k)\nfor k in [1]:\n    f(k)\n",
        "for k in [1]:\n    try:\n        f(k)\n    except NameError:\n        print('none')\ndef f(k):\n    print(k)\n",
        "def g(k):\n    f(k)\ntry:\n    g(1)\nexcept NameError:\n    print('none')\ndef f(k):\n    print(k)\ng(2)\n",
        "def f(k: print('read')):\n    print(k)\nfor k in [1]:\n    f(k)\n",
        "def f(k):\n    print(k)\nclass A:\n    for k in [1]:\n        f(k)\n",
        "def f(k):\n    yield k\nfor k in [1]:\n    f(k)\n",
        "def f(k):\n    print(k)\nfor k in [1]:\n    f(k)\nprint('f' in globals())\n",
        "def f(k):\n    print([k for k in [k]])\nfor k in [1]:\n    f(k)\n",
        "def f(*k):\n    print(k)\nfor k in [1]:\n    f(k)\n",
    ],
)
def test_what_is_more_than_its_lines_is_not_put_in_place(text):
    with pytest.raises(RefusedError):
        moved(text, Inline(SCRIPT, "f"))
