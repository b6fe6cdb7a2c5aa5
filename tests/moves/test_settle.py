"""settle: plain first values come before what is said; what has to do with them keeps them where they are."""

from __future__ import annotations

import pytest

from aedifex.construction.propose import propose
from aedifex.moves.settle import Settle
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed, program_of
from tests.support.scripts import outcome

QUAY = """\
crates = 2


def greet():
    print("hello from the quay", crates)


@
while turns > 0:
    turns -= 1
    crates += fish
    fish += 1
print(crates, fish)
"""


def settled(*lines: str) -> str:
    text = QUAY.replace("@", "\n".join(lines))
    result = moved(text, Settle(SCRIPT))["script.py"]
    assert printed(result) == printed(text)
    return result


def test_first_values_come_with_their_comments():
    text = settled(
        'print("open")', "greet()", "", "# what is caught", "fish = 3", 'print("now")', "turns, empty = 2, []"
    )
    assert '# what is caught\nfish = 3\nturns, empty = 2, []\n\nprint("open")\ngreet()\n' in text


@pytest.mark.parametrize(
    "lines",
    [
        ["turns = 2", "fish = 3", 'print("open")'],
        ['print("open")', "fish = len('abc')", "turns = 2", "print(turns)"],
        ["fish = 1", "turns = 2", 'print("open", fish)', "fish = 3"],
        ['print("open")', "turns = 2; fish = 3"],
        ['print("open")', "if crates:", "    turns = 2", "fish = 3", "print(fish)"],
        ['print("open")', "fish = crates", "turns = crates"],
    ],
)
def test_what_is_in_its_place_stays(lines):
    with pytest.raises(RefusedError):
        settled(*lines)


def test_what_is_said_about_a_value_keeps_all_in_place():
    text = QUAY.replace("@", "greet()\ncrates = 4\nturns = 2\nfish = 3").replace("crates = 2\n", "", 1)
    with pytest.raises(RefusedError):
        moved(text, Settle(SCRIPT))


def test_the_constructor_says_nothing():
    text = QUAY.replace("@", 'print("open")\nfish = 3\nprint("now")\nturns = 2')
    program = program_of(text)
    assert outcome(text) == "same"
    assert not propose(program).methods


def test_chance_begins_anew_when_the_program_runs_and_tables_come_before():
    text = settled(
        "import random", "random.seed(2)", 'print("open")', 'ways = {"quay": ["pier"]}', "turns, fish = 2, 3"
    )
    assert text.index("ways =") < text.index("random.seed(2)") < text.index('print("open")')


def test_constants_between_first_values_come_with_them():
    text = settled('print("open")', "fish = 3", 'NAMES = ["ida", "bo"]', "turns = 2")
    assert 'fish = 3\nNAMES = ["ida", "bo"]\nturns = 2\n\nprint("open")\n' in text
