"""Variables that the definitions of a script need where they are."""

from __future__ import annotations

import pytest

from aedifex.program.structure.pinned_state import PinnedState
from aedifex.program.structure.state import Constants
from tests.support.helpers import module_of


def pinned(text: str) -> set[str]:
    module = module_of(text)
    return {symbol.name for symbol in PinnedState(module, Constants.of(module)).symbols}


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("ropes = make()\nclass Gull:\n    def fly(self):\n        return ropes\n", {"ropes"}),
        ("ropes = make()\nclass Gull:\n    rope = ropes\n", {"ropes"}),
        ("wind = ask()\ndef blow(by=wind):\n    pass\n", {"wind"}),
        ("wind = ask()\nwind = 3\ndef blow(by=wind):\n    pass\n", set()),
        ("LIMIT = 3\ndef blow(by=LIMIT):\n    pass\n", set()),
        ("sea = look()\nwind = sea.wind\ndef blow(by=wind):\n    pass\n", {"sea", "wind"}),
        ("sea = look()\nsea = 3\nwind = sea.wind\ndef blow(by=wind):\n    pass\n", set()),
        ("if look():\n    wind = 1\nclass Gull:\n    def fly(self):\n        return wind\n", set()),
        ("wind = ask()\ndef blow():\n    return wind\n", set()),
    ],
)
def test_what_stays_at_the_top_level(text, expected):
    assert pinned(text) == expected


def test_what_a_class_calls_stays_with_the_state_that_it_uses():
    text = (
        "log = open_log()\ndef note(text):\n    log.write(text)\nclass Gull:\n    def cry(self):\n        note('a')\n"
    )
    assert pinned(text) == {"log"}


def test_a_function_with_state_that_moves_holds_nothing():
    text = "n = 0\ndef note():\n    global n\n    n += 1\nclass Gull:\n    def cry(self):\n        note()\n"
    assert pinned(text) == set()
