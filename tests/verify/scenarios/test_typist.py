"""What is typed, and what is learnt from it."""

from __future__ import annotations

import random

from aedifex.languages.python import DIALECT
from aedifex.program.model.inputs import Inputs, Option
from aedifex.verify.compare import Comparison
from aedifex.verify.running.run import Limits
from aedifex.verify.running.trace import Ending, Entry, Trace
from aedifex.verify.scenarios.search import Search
from aedifex.verify.scenarios.typist import Typist
from tests.support.helpers import module_of

INPUTS = Inputs(takes_lines=True, words=("load", "quit"), choices=("hay cart",), numbers=(200,))


def ran(*lines: str, ending: Ending) -> Trace:
    return Trace(tuple(Entry("typed", f"{line}\n") for line in lines), (), ending)


def test_a_line_that_ended_the_program_is_seldom_typed_again():
    typist = Typist(INPUTS, random.Random(1))
    typist.learn(ran("load 3", "quit", ending=Ending(0)), ("load 3", "quit", "load 4"), is_new=True)
    assert typist.ending == {"quit"}
    assert typist.good == ["load 3"]
    assert [typist.line() for _ in range(200)].count("quit") < 5
    assert typist.before_the_end(("load 3", "quit", "load 4")) == ("load 3",)


def test_running_out_of_lines_is_no_fault_of_the_last():
    typist = Typist(INPUTS, random.Random(1))
    typist.learn(ran("load 3", ending=Ending(1, "EOFError", ran_out=True)), ("load 3",), is_new=False)
    assert not typist.ending


def test_numbers_are_tried_at_their_borders():
    typist = Typist(INPUTS, random.Random(1))
    assert typist.at_borders() == []
    typist.learn(ran("load 3", ending=Ending(0)), ("load 3", "quit"), is_new=True)
    typist.ending.clear()
    typist.good = ["load 3"]
    assert typist.at_borders() == ["load 199", "load 200", "load 201"]


def test_lines_are_made_of_what_the_script_has():
    typist = Typist(INPUTS, random.Random(1))
    tokens = {token for _ in range(300) for token in typist.line().split()}
    assert {"load", "hay", "200"} <= tokens


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


def reached(tmp_path, text: str, budget: float = 6) -> float:
    module = module_of(text)
    script = tmp_path / "tide.py"
    script.write_bytes(module.source.encode())
    search = Search(Comparison(script, script, DIALECT.runner, Limits(10)), DIALECT.library.inputs_of(module))
    search.find(budget)
    return search.share


def test_declared_arguments_are_given(tmp_path):
    assert reached(tmp_path, ARGPARSE) == 1.0


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
