"""Loops that talk with the user, one question after another: they are the program's run."""

from __future__ import annotations

import pytest

from aedifex.construction.propose import propose
from aedifex.source.errors import RefusedError
from tests.support.helpers import program_of
from tests.support.scripts import outcome

QUIZ = """\
print("The harbour quiz")
score = 0
questions = ["What is the sea made of?", "How many tides a day?"]
answers = ["water", "2"]
for i in range(len(questions)):
    reply = input(questions[i] + " ")
    if reply == answers[i]:
        print("Yes!")
        score += 1
print("Score", score)
"""


def test_a_loop_that_asks_is_the_run_of_an_owner():
    design = propose(program_of(QUIZ))
    assert design.owner
    assert [field.name for field in design.kinds[0].fields] == ["prompt", "answer"]
    assert outcome(QUIZ) == "same"


def test_a_loop_that_only_computes_is_none():
    text = "total = 0\nfor tide in [2, 5]:\n    total += tide\nprint(total)\n"
    with pytest.raises(RefusedError):
        propose(program_of(text))
