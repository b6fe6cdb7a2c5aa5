from __future__ import annotations

import pytest

from tests.support.helpers import module_of


@pytest.mark.parametrize(
    ("text", "line", "word", "touches"),
    [
        ("x = 1\nglobals()['x'] = 2\n", 2, "globals", {"x"}),
        ("globals().update(x=1)\n", 1, "globals", None),
        ("for n in vars(): pass\n", 1, "vars", None),
        ("print(dir())\n", 1, "dir", None),
        ("exec('x = 1')\n", 1, "exec", None),
        ("y = eval(input())\n", 1, "eval", None),
        ("import sys\nm = sys.modules[__name__]\n", 2, "sys.modules", None),
        ("import __main__\n__main__.x = 1\n", 2, "__main__", {"x"}),
        ("from __main__ import x\n", 1, "script itself", {"x"}),
        ("import __main__ as m\nsetattr(m, 'x', 1)\n", 2, "setattr", None),
        ("import timeit\ntimeit.timeit('f()')\n", 1, "timeit", None),
        ("from cProfile import run\nrun('main()')\n", 1, "cProfile", None),
        ("import inspect\nf = inspect.currentframe().f_globals\n", 2, "f_globals", None),
        ("def f(): pass\nf.__globals__['x'] = 1\n", 2, "__globals__", None),
        ("try: x\nexcept NameError: x = 1\n", 2, "NameError", None),
        ("from nowhere_at_all import *\nsail()\n", 1, "nowhere_at_all", {"sail"}),
        ("def f():\n    a = 1\n    return locals()\n", 3, "locals", {"a"}),
    ],
)
def test_each_place_where_names_cannot_be_followed(text, line, word, touches):
    found = [h for h in module_of(text).hindrances if word in h.reason]
    assert [h.line for h in found][:1] == [line]
    assert found[0].touches == (None if touches is None else frozenset(touches))


@pytest.mark.parametrize(
    "text",
    [
        "vars(thing)\n",
        "dir(thing)\n",
        "def globals(): pass\nglobals()\n",
        "thing.eval('x')\n",
        "import sys\nsys.path.append('x')\n",
        "setattr(thing, 'x', 1)\ngetattr(thing, 'y')\n",
        "try: x = 1\nexcept ValueError: pass\n",
        "from turtle import *\nforward(1)\n",
    ],
)
def test_what_can_be_followed_is_no_hindrance(text):
    assert module_of(text).hindrances == []
