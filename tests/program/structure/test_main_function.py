"""The function that is the whole program, and code behind the guard."""

from __future__ import annotations

import pytest

from aedifex.program.structure.main_function import guard_with_state, main_function_of
from tests.support.helpers import module_of

LOOP = "def main():\n    x = 0\n    while x < 3:\n        x += 1\n"
INNER = "def main():\n    x = 0\n    def up():\n        nonlocal x\n        x += 1\n    up()\n"


@pytest.mark.parametrize(
    ("text", "is_whole"),
    [
        (f"{LOOP}main()\n", True),
        (f"{INNER}main()\n", True),
        (f"{LOOP}if __name__ == '__main__':\n    main()\n", True),
        (f"import sys\n{LOOP}sys.exit(main())\n", True),
        (f"{LOOP}end = main()\n", True),
        (f"{LOOP}main()\nmain()\n", False),
        (f"{LOOP}run(main)\n", False),
        ("def main():\n    print(1)\nmain()\n", False),
        (f"x = 1\n{LOOP}main()\n", False),
        (f"@timed\n{LOOP}main()\n", False),
        ("async def main():\n    x = 0\n    while x < 3:\n        x += 1\nmain()\n", False),
    ],
)
def test_which_function_is_the_whole_program(text, is_whole):
    assert (main_function_of(module_of(text)) is not None) is is_whole


def test_what_its_parameters_are_given():
    text = "def main(x, by=2):\n    n = 0\n    while n < 9:\n        n += x + by\nmain(3)\n"
    module = module_of(text)
    whole = main_function_of(module)
    assert [(name, module.source.slice(span)) for name, span in whole.given] == [("x", "3"), ("by", "2")]


def test_its_last_return_and_its_early_ones():
    text = "def main():\n    x = 0\n    while x < 3:\n        x += 1\n        if x == 2:\n            return\n    return x\nmain()\n"
    whole = main_function_of(module_of(text))
    assert whole.last is not None
    assert len(whole.early) == 1
    assert not whole.is_value_used


@pytest.mark.parametrize(
    ("inner", "holds"),
    [
        ("    x = 0\n    while x < 3:\n        x += 1\n", True),
        ("    print(1)\n", False),
        ("    x = 0\n    def f():\n        return x\n    f()\n", True),
    ],
)
def test_a_guard_that_holds_state(inner, holds):
    assert (guard_with_state(module_of(f"if __name__ == '__main__':\n{inner}")) is not None) is holds
