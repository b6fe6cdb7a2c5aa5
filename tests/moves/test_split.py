"""split: what a main loop goes over has a name of its own, and the variable that functions use is given it."""

from __future__ import annotations

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.moves.split import Split
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed, program_of

TURNS = """\
seen = []


def tell(word):
    seen.append(turn)
    print(word, turn, len(seen))


for turn, word in enumerate(["ebb", "flood"]):
    # the tide
    tell(word)
    if turn:
        break
else:
    print("all")
print(turn)
"""


def test_the_loop_has_a_name_of_its_own():
    text = moved(TURNS, Split(SCRIPT, "turn"))[SCRIPT.name]
    assert 'for next_turn, word in enumerate(["ebb", "flood"]):\n    turn = next_turn\n    # the tide\n' in text
    assert printed(text) == printed(TURNS)


@pytest.mark.parametrize(
    ("text", "name"),
    [
        (TURNS, "word"),
        (TURNS, "seen"),
        (TURNS.replace("seen.append(turn)", "seen.append(1)").replace("word, turn, len", "word, len"), "turn"),
        ("for n in range(2): print(n)\n\n\ndef f():\n    return n\n\n\nprint(f())\n", "n"),
        ("print([n for n in range(2)])\nn = 1\n\n\ndef f():\n    return n\n\n\nprint(f())\n", "n"),
    ],
)
def test_other_variables_stay(text, name):
    with pytest.raises(RefusedError):
        moved(text, Split(SCRIPT, name))


def test_no_field_is_the_variable_of_a_loop():
    program = program_of(TURNS)
    text = build(program, propose(program)).program.texts[program.main.path].data.decode()
    assert "for next_turn, word in" in text and "self.turn = next_turn" in text
