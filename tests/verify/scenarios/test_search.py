"""What is typed, pressed and given, and what it reaches."""

from __future__ import annotations

import random
from collections import Counter
from dataclasses import replace

import pytest

from aedifex.languages.python import DIALECT
from aedifex.program.model.inputs import Inputs, Option, Request
from aedifex.verify.compare import Comparison
from aedifex.verify.running.lines import in_ranges
from aedifex.verify.running.run import Limits
from aedifex.verify.running.trace import Entry, Trace
from aedifex.verify.scenarios.search import Search
from aedifex.verify.scenarios.typist import Typist
from aedifex.verify.scenarios.visitor import Visitor
from tests.support.helpers import module_of

INPUTS = Inputs(takes_lines=True, words=("load", "quit"), choices=("hay cart",), numbers=(200,))


def test_words_and_numbers_are_those_of_the_script():
    typist = Typist(INPUTS, random.Random(1))
    tokens = {typist.token() for _ in range(300)}
    assert {"load", "hay cart", "199", "200", "201"} <= tokens


def test_what_an_answer_gave_to_know_one_by_is_sent_with_more():
    login, boats = Request(("POST",), "/login", json=("name", "password")), Request(("GET",), "/boats")
    asked = (login, replace(boats, headers=(("authorization", "Bearer "), ("x-token", ""))))
    inputs = Inputs(requests=asked, values={"name": ("ada", "bo"), "password": ("tide", "kite")})
    chance = random.Random(1)
    visitor = Visitor(inputs, Typist(inputs, chance), chance)
    visitor.learn(Trace((Entry("answer", '200\n{"accessToken": "t1-0", "name": "ada"}'),)))
    events = list(visitor.events(300, 1))
    sent = Counter(tuple(event.sent.get("headers", {}).items()) for event in events if event.value == "GET /boats")
    assert sent.most_common(1)[0][0] == (("authorization", "Bearer t1-0"), ("x-token", "t1-0"))
    pairs = Counter(tuple(event.sent.get("json", {}).values()) for event in events if "/login" in str(event.value))
    assert {pair for pair, _ in pairs.most_common(2)} == {("ada", "tide"), ("bo", "kite")}


ARGPARSE = """
    import argparse

    parser = argparse.ArgumentParser()
    parser.add_argument("ferry", choices=["red", "blue"])
    parser.add_argument("carts", nargs="*", type=int)
    parser.add_argument("-s", "--slow", action="store_true")
    parser.add_argument("--tide", type=float, required=True)
    parser.add_argument("--version", action="version", version="1")
    given = parser.parse_args()
    if given.slow:
        print("slow", given.ferry)
    if given.ferry == "blue" and given.carts:
        print("blue", given.carts)
    print(given.tide)
"""


def test_declared_arguments_are_found():
    options = DIALECT.library.inputs_of(module_of(ARGPARSE)).options
    assert options == (
        Option((), ("red", "blue"), is_needed=True),
        Option((), ("3", "10", "0", "-1"), is_needed=False),
        Option(("-s", "--slow")),
        Option(("--tide",), ("1.5", "3"), is_needed=True),
    )


def searched(tmp_path, text: str, budget: float = 6) -> Search:
    module = module_of(text)
    script = tmp_path / "tide.py"
    script.write_bytes(module.source.encode())
    search = Search(Comparison(script, script, DIALECT.runner, Limits(10)), DIALECT.library.inputs_of(module))
    search.find(budget)
    return search


def reached(tmp_path, text: str, budget: float = 6) -> float:
    return searched(tmp_path, text, budget).share


def test_declared_arguments_are_given(tmp_path):
    assert reached(tmp_path, ARGPARSE, 30) == 1.0


def test_a_window_is_filled_in_and_pressed(tmp_path):
    text = """
        import tkinter as tk

        root = tk.Tk()
        first, second = tk.Entry(root), tk.Entry(root)
        carts = tk.Listbox(root)

        def add():
            try:
                total = float(first.get()) + float(second.get())
            except ValueError:
                print("no numbers")
                return
            carts.insert(tk.END, "a cart")
            print(total)

        def picked(event):
            print("picked", carts.curselection())

        def clear():
            print("cleared")

        carts.bind("<<ListboxSelect>>", picked)
        tk.Button(root, text="Add", command=add).pack()
        menu = tk.Menu(root)
        menu.add_command(label="Clear", command=clear)
        tk.mainloop()
    """
    assert reached(tmp_path, text, 20) == 1.0


def test_a_terminal_screen_is_played(tmp_path):
    text = """
        import curses

        level = 0

        def main(screen):
            global level
            curses.curs_set(0)
            screen.timeout(100)
            while True:
                screen.erase()
                screen.border()
                screen.addstr(2, 3, f"level {level}", curses.A_BOLD)
                screen.refresh()
                key = screen.getch()
                if key == curses.KEY_UP:
                    level += 1
                elif key == ord("d"):
                    level -= 1
                elif key == ord("q"):
                    break

        curses.wrapper(main)
        print(level)
    """
    assert reached(tmp_path, text) == 1.0


def test_drawn_things_are_touched_wherever_they_are(tmp_path):
    text = """
        import random
        import turtle

        kites = [turtle.Turtle() for _ in range(2)]
        for kite in kites:
            kite.penup()
            kite.goto(random.randint(-200, 200), random.randint(-200, 200))

        def first(x, y):
            print("first")

        def second(x, y):
            print("second")

        kites[0].onclick(first)
        kites[1].onclick(second)
        turtle.mainloop()
    """
    assert reached(tmp_path, text, 15) == 1.0


DESK = """
    import sys

    stock = {"beet": 4, "kale": 2}
    names = []

    def amount(text):
        try:
            return int(text)
        except ValueError:
            print("a number, please")
            return 0

    print("the seed library")
    for line in sys.stdin:
        words = line.split()
        if not words:
            continue
        if words[0] == "join":
            if words[1] in names:
                print("already there")
            names.append(words[1])
        elif words[0] == "take":
            kind, count = words[1:]
            if kind not in stock:
                print("no such seed")
            elif amount(count) > stock[kind]:
                print("too many")
            elif amount(count) > 0:
                stock[kind] -= amount(count)
        elif line.startswith("call "):
            if line[5:].strip() == "the heron":
                print("it comes")
        elif words[0][0] == "!" and words[0][1:].isdigit():
            print("a shout of", words[0])
        elif words[0] == "close":
            print("left:", stock, len(names))
            break
"""


def test_commands_are_learnt_from_what_the_script_asks_of_them(tmp_path):
    search = searched(tmp_path, DESK, 40)
    assert search.share == 1.0
    assert [site["leaves"] for site in search.heard.values()] == [["close"]]


def test_long_conversations_come_to_their_end(tmp_path):
    stories = searched(tmp_path, DESK, 10).kept[-2:]
    assert all(len(story.lines) > 100 for story in stories)
    assert all(story.lines[-1].startswith("close") for story in stories)


def test_what_was_typed_is_played_again_as_it_was(tmp_path):
    search = searched(tmp_path, DESK, 3)
    for scenario in search.kept:
        typed = [e.text for e in search.comparison.run_before(scenario).trace.entries if e.kind == "typed" and e.text]
        assert "".join(f"{line}\n" for line in scenario.lines).startswith("".join(typed))


def test_answers_to_questions_are_learnt_at_each_question(tmp_path):
    text = """
        log = {}
        while True:
            choice = input("1 note 2 read 3 leave ")
            if choice == "1":
                day = input("day: ")
                log[day] = float(input("level: "))
            elif choice == "2":
                day = input("day: ")
                if day in log and log[day] >= 12:
                    print("high")
                elif day in log:
                    print("low")
            elif choice == "3":
                break
        print(len(log))
    """
    assert reached(tmp_path, text, 40) == 1.0


@pytest.mark.parametrize(("chance", "courses"), [("random.random()", 3), ("0.7", 1)])
def test_chance_takes_other_courses_where_nothing_comes_from_outside(tmp_path, chance, courses):
    text = f"""
        import random

        level = 0
        for hour in range(40):
            if {chance} < 0.5:
                level += 1
        print(level)
    """
    found = searched(tmp_path, text).kept
    assert [scenario.seed for scenario in found] == list(range(courses))


def test_words_of_a_script_that_reads_none_stand_on_the_command_line():
    text = "import sys\n\ncommand = sys.argv[1]\nif command == 'add':\n    print(int(sys.argv[2]))\n"
    inputs = DIALECT.library.inputs_of(module_of(text))
    assert inputs.arguments == ("add",)
    assert DIALECT.library.inputs_of(module_of(text + "print(input() == 'load')\n")).arguments == ()


def test_of_very_many_lines_the_first_are_told():
    assert in_ranges([1, 2, 3, 7]) == "1-3, 7"
    assert in_ranges(range(1, 401, 2)).endswith("77, 79, and 160 more")
