"""settle: plain first values come before what is said; what has to do with them keeps them where they are."""

from __future__ import annotations

import pytest

from aedifex.construction.propose import propose
from aedifex.moves.settle import Settle
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed, program_of, written
from tests.support.scripts import outcome
from tests.support.talks import play_typed

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


DRAWN = """\
import random
from random import choice

KITES = ["red", "blue"]
random.seed(3)
print("open")
@
while turns > 0:
    turns -= 1
    print(fish)
print("closed")
"""


@pytest.mark.parametrize(
    "value",
    [
        "random.randint(1, 6)",
        "random.randrange(6)",
        "random.random()",
        "choice(KITES)",
        "random.choice('abc')",
        "random.sample([1, 2], 2)",
    ],
)
def test_what_is_drawn_comes_before_what_is_said(value):
    text = DRAWN.replace("@", f"fish = {value}\nturns = 2")
    result = moved(text, Settle(SCRIPT))["script.py"]
    assert printed(result) == printed(text)
    assert result.index("fish =") < result.index('print("open")')


@pytest.mark.parametrize(
    "value",
    [
        "random.randint(6, 1)",
        "random.randrange(0)",
        "random.choice('')",
        "random.sample([1, 2], 3)",
        "random.randint(1, len(KITES))",
        "random.shuffle(KITES)",
        "random.randrange(*KITES)",
    ],
)
def test_what_might_not_be_drawn_stays(value):
    with pytest.raises(RefusedError):
        moved(DRAWN.replace("@", f"fish = {value}\nturns = 2"), Settle(SCRIPT))


@pytest.mark.parametrize("said", ["tell()", "print(Kite())", "random.seed(4)", "print(random.random())"])
def test_nothing_is_drawn_before_what_may_draw_too(said):
    kite = "class Kite:\n    def __str__(self):\n        return str(random.random())\n\n\n"
    tell = "def tell():\n    print(random.random())\n\n\n"
    text = DRAWN.replace("@", "fish = random.randint(1, 6)\nturns = 2").replace('print("open")', said)
    text = text.replace("random.seed(3)\n", f"random.seed(3)\n\n\n{kite}{tell}", 1)
    with pytest.raises(RefusedError):
        moved(text, Settle(SCRIPT))


def test_what_is_asked_belongs_to_the_run():
    text = DRAWN.replace("@", 'name = input("who? ")\nprint("hello", name)\nfish = random.randint(1, 6)\nturns = 2')
    result = written(text)
    assert result.index("randint") < result.index("def run") < result.index("who?")
    assert outcome(text, play=play_typed) == "same"


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
