"""Functions that take and give nothing: where only the owner calls them, they are its methods."""

from __future__ import annotations

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from tests.support.helpers import printed, program_of


def built(text: str) -> str:
    program = program_of(text)
    return build(program, propose(program)).program.main.source.data.decode()


TALK = """\
level = 0


def show_help():
    print("rain, empty or quit")


def rain(by):
    global level
    level += by
    show_help()


for hour in range(3):
    rain(hour)
show_help()
print(level)
"""


def test_what_only_the_owner_calls_is_its_own():
    text = built(TALK)
    assert "    def show_help(self):\n" in text and text.count("self.show_help()") == 2
    assert printed(text) == printed(TALK)


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("def show_help():\n", 'def show_help(word="all"):\n'),
        ('    print("rain, empty or quit")\n', '    print("rain, empty or quit")\n    return 1\n'),
        ("show_help()\nprint(level)", "tell = show_help\ntell()\nprint(level)"),
        ("def show_help():\n", "def again():\n    show_help()\n    print(2)\n    return 3\n\n\ndef show_help():\n"),
        ("def show_help():\n", "import functools\n\n\n@functools.cache\ndef show_help():\n"),
        ("level = 0\n", "level = 0\n\n\nclass Gauge:\n    def tell(self):\n        show_help()\n"),
    ],
)
def test_what_others_may_call_too_stays_a_function(old, new):
    """Careless: who else calls it has no object to ask."""
    text = TALK.replace(old, new)
    assert text != TALK and "def show_help(self" not in built(text) and printed(built(text)) == printed(text)
