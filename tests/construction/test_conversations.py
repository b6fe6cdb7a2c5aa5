"""Loops that talk with the user, one question after another: they are the program's run."""

from __future__ import annotations

import pytest

from aedifex.construction.propose import propose
from aedifex.source.errors import RefusedError
from tests.support.helpers import program_of, written
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


FOUND = """\
carts = []


def add(name):
    carts.append({"name": name, "load": 0})


def find(name):
    for cart in carts:
        if cart["name"] == name:
            return cart
    return None


def tip(cart):
    print("tipping", cart["name"], cart["load"])
    cart["load"] = 0


add("red")
add("blue")
found = None
while True:
    name = input("> ")
    if name == "":
        break
    found = find(name)
    if found is None:
        print("no such cart")
    elif name == "red":
        found["load"] += 2
        tip(found)
"""


def test_what_was_found_is_told_what_to_do_and_things_are_made_in_the_constructor():
    design = propose(program_of(FOUND))
    assert [method.name for method in design.kinds[0].methods] == ["tip"]
    text = written(FOUND)
    set_up, run = text.index('self.add("red")'), text.index("def run")
    assert set_up < run
    assert "found = None" not in text
    assert "found.tip()" in text


def test_a_loop_that_only_computes_is_none():
    text = "total = 0\nfor tide in [2, 5]:\n    total += tide\nprint(total)\n"
    with pytest.raises(RefusedError):
        propose(program_of(text))


COMMANDS = """\
carts = []
turns = 0


def add(name):
    carts.append({"name": name, "load": 0, "tipped": 0})


add("red")
add("blue")
while turns < 9:
    turns += 1
    command = input("> ")
    # do what is asked for
    if command == "list":
        for cart in carts:
            print(cart["name"], cart["load"])
        print("turns", turns)
    elif command == "help":
        print("list, help, tip")
        print("or nothing")
    elif command == "tip":
        cart = carts[0]
        if cart["load"] > 2:
            print("tipping", cart["name"])
            cart["tipped"] += 1
            cart["load"] = 0
    for cart in carts:
        cart["load"] += 1
"""


def test_lines_whose_end_has_become_a_method_can_still_be_one():
    design = propose(program_of(COMMANDS))
    carved = {method.name: method.lines for method in design.methods if method.lines is not None}
    taken = {method.name: method.lines for plan in design.kinds for method in plan.methods}
    assert any(lines is not None and lines[1] == 27 for lines in taken.values())
    assert any(first <= 16 and last == 27 for first, last in carved.values())
    assert outcome(COMMANDS) == "same"
