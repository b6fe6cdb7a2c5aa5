"""What is done to functions as values that a method would not stand."""

from __future__ import annotations

import pytest

from aedifex.program.analysis.function_identity import why_not_bound
from tests.support.helpers import module_of


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("handlers = [f]\n", None),
        ("f()\nprint(f is not None)\n", None),
        ("def g(h):\n    return h is f\ng(f)\n", "the same one"),
        ("handlers = [f]\nif handlers[0] is f:\n    print(1)\n", "the same one"),
        ("x = 1\nhandlers = [f]\nprint(x is None)\n", None),
        ("def mark(h):\n    h.seen = True\nmark(f)\n", "hung on"),
        ("def mark(*, h):\n    h.seen = True\nmark(h=f)\n", "hung on"),
        ("def mark(h):\n    print(h.__name__)\nmark(f)\n", None),
    ],
)
def test_identity_and_attributes(text, reason):
    module = module_of(f"def f():\n    pass\n{text}")
    found = why_not_bound(module, module.function("f"))
    assert (found is None) if reason is None else (found is not None and reason in found[1])


def test_the_place_of_an_argument_counts_behind_the_receiver():
    module = module_of(
        "def f():\n    pass\nclass K:\n    def mark(self, h):\n        h.seen = 1\nK().mark(f)\nk = K()\nk.mark(f)\n"
    )
    assert why_not_bound(module, module.function("f")) is not None
