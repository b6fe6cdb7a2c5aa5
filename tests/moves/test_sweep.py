"""sweep: only what nothing can reach goes."""

from __future__ import annotations

import pytest

from aedifex.moves.sweep import Sweep
from tests.support.helpers import SCRIPT, moved, printed


def swept(text: str) -> str:
    result = moved(text, Sweep(SCRIPT))["script.py"]
    assert printed(result) == printed(text)
    return result


def test_functions_imports_and_declarations_without_use_go():
    text = """\
import math
import os, random
from time import (
    sleep,
    time,
)

seed = 4


# never called
def old_tide():
    return older_tide() + math.pi


def older_tide():
    return old_tide()


def tide():
    global seed
    return random.Random(seed).random() + time() * 0


print(tide())
"""
    assert (
        swept(text)
        == """\
import random
from time import time

seed = 4


def tide():
    return random.Random(seed).random() + time() * 0


print(tide())
"""
    )


def test_a_field_that_is_only_set_goes():
    text = """\
class Gauge:
    def __init__(self):
        self.level = 2
        self.unit = "mm"  # nobody asks

    def reset(self):
        self.unit = ""


g = Gauge()
g.reset()
print(g.level)
"""
    result = swept(text)
    assert "unit" not in result
    assert "def reset(self):\n        pass" in result


@pytest.mark.parametrize(
    "text",
    [
        "import turtle\nprint(1)\n",
        "import this_is_ours\n",
        "from __future__ import annotations\nprint(1)\n",
        "__all__ = ['helper']\ndef helper():\n    return 1\n",
        "def helper():\n    return 1\nprint(sorted(globals())[0])\n",
        "import atexit\n@atexit.register\ndef helper():\n    return 1\n",
        "def helper(x=print('made')):\n    return 1\n",
        "def main():\n    return 1\n",
        "class C:\n    def __init__(self):\n        self.x = print('made')\nC()\n",
        "class C:\n    def __init__(self):\n        self.x = 1\nprint(vars(C()))\n",
        "class C:\n    def __init__(self):\n        self.x = 1\nfor c in [C()]:\n    print(c.x)\n",
    ],
)
def test_what_may_be_noticed_stays(text):
    assert moved(text, Sweep(SCRIPT))["script.py"] == text
