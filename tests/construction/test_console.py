"""Where a script talks and computes, what computes is a class that is silent, and a console does the talking."""

from __future__ import annotations

import ast
from textwrap import dedent

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.program.analysis.talk import Talk
from tests.support.helpers import module_of, program_of
from tests.support.scripts import outcome
from tests.support.talks import play_typed, write_talk

SAVINGS = """
    balance = 0
    history = []
    year = 1


    def deposit():
        global balance
        amount = int(input("how much? "))
        if amount <= 0:
            print("that is nothing")
            return
        balance += amount
        history.append(amount)
        print("now", balance)


    def next_year():
        global balance, year
        gain = balance // 10
        balance += gain
        year += 1
        print("gained", gain)


    def average():
        return sum(history) / len(history) if history else 0


    while True:
        word = input("> ")
        if word == "in":
            deposit()
        elif word == "year":
            next_year()
        elif word == "average":
            print(average())
        elif word == "empty":
            balance = 0
            history = []
            print("all gone")
        else:
            break
    print("bye", balance, year)
    """


def _design(text: str):
    return propose(program_of(text))


def test_what_computes_is_a_class_that_never_talks():
    design = _design(SAVINGS)
    (plan,) = design.classes
    assert (design.owner, plan.name, design.streams) == ("Console", "Script", True)
    assert {method.name for method in plan.methods} == {"average", "deposit", "next_year", "empty"}
    built = build(program_of(SAVINGS), design).program
    tree = ast.parse(built.main.source.data)
    (silent,) = (node for node in tree.body if isinstance(node, ast.ClassDef) and node.name == "Script")
    names = {node.id for node in ast.walk(silent) if isinstance(node, ast.Name)}
    assert names.isdisjoint({"print", "input"})


def test_what_is_done_alone_has_the_name_of_the_word_or_function_that_does_it():
    by_name = {method.name: method for method in _design(SAVINGS).classes[0].methods}
    assert by_name["deposit"].lines is not None and by_name["deposit"].routine == "deposit"
    assert by_name["empty"].routine == "<main>"


def test_it_stays_one_class_where_a_stream_is_used_itself():
    text = "import sys\n" + dedent(SAVINGS)
    assert _design(text.replace("print(average())", "sys.stdout.write(str(average()))")).owner != "Console"
    assert _design(text.replace('input("> ")', "sys.stdin.readline().strip()")).owner != "Console"


def test_little_state_stays_one_class():
    text = dedent(SAVINGS).replace("year = 1\n", "").replace("balance, year", "balance").replace("    year += 1\n", "")
    assert _design(text).owner != "Console"


def test_a_thing_that_the_script_names_is_no_console():
    text = SAVINGS.replace("balance", "purse_coins").replace("history", "purse_notes")
    text = text.replace('print("now", purse_coins)', "")
    design = _design(text)
    assert design.owner == "Script" and [plan.name for plan in design.classes] == ["Purse"]


def test_who_talks_is_told_by_what_it_calls():
    module = module_of("""
        def ask():
            return input()

        def tell():
            return [str(ask())]

        def count(n):
            return n + 1

        tell()
        count(3)
        """)
    talk = Talk.of(module)
    assert {routine.name for routine in talk.routines} == {"ask", "tell"}
    assert [talk.talks(statement) for statement in module.block.statements[-2:]] == [True, False]


@pytest.mark.parametrize("seed", range(6))
def test_talks_are_the_same(seed):
    assert outcome(write_talk(seed), play=play_typed) == "same"


def test_most_talks_get_a_console():
    owners = [propose(program_of(write_talk(seed))).owner for seed in range(12)]
    assert owners.count("Console") >= 6
