"""Long code becomes a list of calls; small things stay as they are."""

from __future__ import annotations

from textwrap import dedent

from aedifex.build.carry import build
from aedifex.build.prepare import prepared
from aedifex.build.propose import propose
from tests.helpers import program_of

LOOP = """
    import random

    ferry_x, ferry_speed = 0, 0
    ferry_load = []
    money = 5
    turn = 0


    def move_ferry():
        global ferry_x
        ferry_x += ferry_speed


    def show():
        print(turn, ferry_x, ferry_load, money)


    print("open")
    while True:
        turn += 1
        try:
            words = input("> ").split()
        except EOFError:
            break
        if not words:
            continue
        command = words[0]
        if command == "quit":
            break
        elif command == "left":
            ferry_speed = -1
        elif command == "right":
            ferry_speed = len(words)
        elif command == "empty":
            ferry_load.clear()
            ferry_speed = 0
        elif command == "look":
            show()
            continue
        else:
            print("what is", command)
            continue
        move_ferry()
        if random.random() < 0.1:
            money -= 1
        show()
    print("closed", money)
    """


def drafted(text):
    return propose(prepared(program_of(text)))


def built(text):
    program = program_of(text)
    return build(program, propose(prepared(program))).program


def test_a_long_turn_becomes_methods_of_the_owner():
    names = [method.name for method in drafted(LOOP).methods]
    assert names == ["handle_command"]
    longer = LOOP.replace("        turn += 1\n", "        turn += 1\n" + "        money += turn % 2\n" * 3)
    assert [method.name for method in drafted(longer).methods] == ["handle_command", "take_turn"]


def test_commands_become_actions_of_what_they_drive():
    (ferry,) = drafted(LOOP).classes
    actions = [method.name for method in ferry.methods if method.lines is not None]
    assert actions == ["go_left", "go_right"]


def test_the_owner_takes_streams_where_it_does_all_the_talking():
    assert drafted(LOOP).streams
    assert not drafted(
        dedent(LOOP).replace("ferry_x += ferry_speed", "ferry_x += ferry_speed\n    print('splash')")
    ).streams


def test_the_loop_is_a_short_list_of_calls():
    text = built(LOOP).main.source.data.decode()
    run = text[text.index("    def run(self)") : text.index("\n\ndef main")]
    assert "            if not self.handle_command(words, command):\n                break\n        print(" in run
    assert len(run.splitlines()) < 15
    assert "            self.ferry.go_right(words)\n" in text


def test_a_short_loop_stays_as_it_is():
    text = "n = 0\nstep = 1\ndef f():\n    global n\n    n += step\nwhile n < 4:\n    f()\n    print(n)\n"
    assert drafted(text).methods == []
