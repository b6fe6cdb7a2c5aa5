from __future__ import annotations

import pytest

from aedifex.moves.adopt import Adopt, NewMethod
from aedifex.moves.form import Form, NewField
from aedifex.moves.inject import Inject
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed

FORM = Form(SCRIPT, "Ferry", "ferry", (NewField("ferry_x", "x"),))


def adopt(*pairs: str) -> Adopt:
    return Adopt(SCRIPT, "Ferry", "ferry", tuple(NewMethod(*pair.split(":")) for pair in pairs))


def same(text: str, *moves) -> str:
    result = moved(text, FORM, *moves)["script.py"]
    assert printed(result) == printed(text)
    return result


def test_functions_become_methods_with_their_comments():
    result = same(
        '''
        ferry_x = 1
        # go on
        def move_ferry(n=1):
            """Go."""
            global ferry_x
            text = """
        not indented
            """
            ferry_x += n  # planks
            if ferry_x < 3:
                move_ferry(n + 1)
            print(text)
        move_ferry()
        for act in (move_ferry, lambda: move_ferry(2)):
            act()
        print(ferry_x)
        ''',
        adopt("move_ferry:move"),
    )
    assert "    # go on\n    def move(self, n=1):" in result
    assert "            self.move(n + 1)" in result
    assert "(ferry.move, lambda: ferry.move(2))" in result
    assert '"""\nnot indented' in result


def test_what_is_only_read_is_passed_in():
    result = same(
        """
        ferry_x = 1
        tide = 2
        def rise():
            global tide
            tide += 1
        def move_ferry(n, step=1):
            global ferry_x
            ferry_x += n * tide + step
            if ferry_x < 9:
                move_ferry(n)
        rise()
        move_ferry(2)
        move_ferry(n=3)
        print(ferry_x)
        """,
        Inject(SCRIPT, "move_ferry", "tide", None, "tide"),
        adopt("move_ferry:move"),
    )
    assert "def move(self, n, step=1, *, tide):" in result
    assert "self.move(n, tide=tide)" in result
    assert "ferry.move(n=3, tide=tide)" in result


@pytest.mark.parametrize(
    ("body", "reason"),
    [
        ("print(tide)\n    rise()\n    print(tide)", "may change"),
        ("return lambda: tide", "later"),
        ("yield tide", "runs on"),
        ("return (tide for _ in range(2))", "later"),
        ("def inner():\n        return tide\n    return inner", "later"),
    ],
)
def test_what_may_change_meanwhile_is_not_passed(body, reason):
    text = (
        "ferry_x = 1\ntide = 2\ndef rise():\n    global tide\n    tide += 1\n"
        f"def move_ferry():\n    print(ferry_x)\n    {body}\nrise()\nmove_ferry()\n"
    )
    with pytest.raises(RefusedError, match=reason):
        moved(text, FORM, Inject(SCRIPT, "move_ferry", "tide", None, "tide"))


def test_a_handler_is_given_nothing():
    text = "ferry_x = 1\ntide = 2\ndef move_ferry():\n    print(ferry_x, tide)\nact = move_ferry\nact()\n"
    with pytest.raises(RefusedError, match="handed on"):
        moved(text, FORM, Inject(SCRIPT, "move_ferry", "tide", None, "tide"))


@pytest.mark.parametrize(
    ("function", "reason"),
    [
        ("def f():\n    print(ferry_x, tide)", "not part of Ferry"),
        ("def g():\n    print(tide)\ndef f():\n    g()", "works on state outside"),
        ("def f(self):\n    print(self, ferry_x)", "`self` itself"),
        ("import functools\n@functools.cache\ndef f():\n    return ferry_x", "decorated"),
        ("def f(a=tide):\n    return ferry_x, a", "signature"),
        ("def f():\n    return ferry_x\nf.seen = 1", "attribute of the function"),
        ("def f():\n    return ferry_x\ndef f():\n    return 2", "more than once"),
        ("if tide:\n    def f():\n        return ferry_x", "inside another"),
        ("__hidden = 2\ndef f():\n    return ferry_x, __hidden", "something else inside a class|not part"),
    ],
)
def test_refusals_name_the_reason(function, reason):
    text = f"ferry_x = 1\ntide = 2\ntide += 1\n{function}\n"
    with pytest.raises(RefusedError, match=reason):
        moved(text, FORM, adopt("f:f"))


def test_a_name_that_is_taken_is_refused():
    with pytest.raises(RefusedError, match="already"):
        moved("ferry_x = 1\ndef f():\n    print(ferry_x)\n", FORM, adopt("f:x"))


def test_an_inner_class_keeps_its_own_receiver():
    result = same(
        """
        ferry_x = 1
        def f():
            class Cart:
                def weight(self):
                    return id(self) > 0
            return Cart().weight(), ferry_x
        print(f())
        """,
        adopt("f:f"),
    )
    assert "return Cart().weight(), self.x" in result


def test_a_capturing_receiver_is_refused():
    text = """
        ferry_x = 1
        def f():
            class Cart:
                def weight(self):
                    return ferry_x
            return Cart().weight()
        print(f())
    """
    with pytest.raises(RefusedError, match="would not lead"):
        moved(text, FORM, adopt("f:f"))
