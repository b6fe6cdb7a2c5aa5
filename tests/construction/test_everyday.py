"""Scripts as people write them, and what a reader would look for in what becomes of them."""

from __future__ import annotations

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from tests.support.choosing import write_choices
from tests.support.declared import write_declared
from tests.support.helpers import printed, program_of
from tests.support.kinds import write_spread_columns
from tests.support.scripts import outcome

LAMPS = """\
lamp1_lit, lamp2_lit = False, True
lamp1_hours = 0
lamp2_hours = 7


def switch(n):
    global lamp1_lit, lamp2_lit
    if n == "a":
        lamp1_lit = not lamp1_lit
    elif n == "b":
        lamp2_lit = not lamp2_lit
    else:
        print("no lamp", n)


def burn():
    global lamp1_hours, lamp2_hours
    if lamp1_lit:
        lamp1_hours += 1
    if lamp2_lit:
        lamp2_hours += 1


for key in ["a", "b", "c", "a"]:
    switch(key)
    burn()
    print(lamp1_hours, lamp2_hours)
"""
PLAYERS = """\
import random

random.seed(4)
score1 = 0
score2 = 0
name1 = str(random.randint(1, 9))
name2 = str(random.randint(1, 9))
turn = 1


def show():
    print(name1, score1)
    print(name2, score2)


while score1 < 9 and score2 < 9:
    thrown = random.randint(1, 6)
    if turn == 1:
        score1 += thrown
    else:
        score2 += thrown
    turn = 3 - turn
    show()
"""
BANK = """\
boxes = {}


def open_box(name, amount):
    boxes[name] = {"seeds": amount, "notes": []}


def lend(name, amount):
    if name not in boxes:
        print("no such box")
        return
    boxes[name]["seeds"] -= amount
    boxes[name]["notes"].append(("lent", amount))


def count(name):
    print(name, boxes[name]["seeds"], boxes[name]["notes"])


open_box("peas", 40)
open_box("beans", 12)
turn = 0
while turn < 3:
    turn += 1
    lend("peas", turn)
    lend("kale", turn)
count("peas")
"""
RACERS = """\
from textwrap import TextWrapper

ada = TextWrapper()
ada.width = 10
ada.initial_indent = "> "
ada.drop_whitespace = True
bob = TextWrapper()
bob.width = 14
bob.initial_indent = "- "
bob.drop_whitespace = True
for turn in range(3):
    print(ada.fill("the cable ferry crosses"))
    print(bob.fill("the cable ferry crosses"))
"""
KEYS = """\
UP, DOWN = "u", "d"
LEFT, RIGHT = "l", "r"
ferry1_y = 3
ferry1_load = 1
ferry2_y = 5
ferry2_load = 0


def steer(key):
    global ferry1_y, ferry2_y
    if key == UP:
        ferry1_y -= 1
    if key == DOWN:
        ferry1_y += 1
    if key == LEFT:
        ferry2_y -= 1
    if key == RIGHT:
        ferry2_y += 1


for key in "uudlr":
    steer(key)
    print(ferry1_y, ferry2_y, ferry1_load, ferry2_load)
"""
STATIONS = """\
names = ["mole", "lock", "quay"]
heights = [[0] * 4 for _ in names]
means = [2, 1, 3]


def fill(s):
    for h in range(4):
        heights[s][h] = means[s] + h


def show(s):
    print(names[s], heights[s])


turn = 0
while turn < 2:
    turn += 1
    for s in range(3):
        fill(s)
        show(s)
"""
CRATES = """\
from dataclasses import dataclass


@dataclass
class Crate:
    name: str
    weight: float = 2.5


crates = {"a": Crate("seeds"), "b": Crate("rope", 12)}
lifted = 0


def is_heavy(crate):
    return crate.weight > 10


def fill(crate, more):
    crate.weight += more


while lifted < 2:
    lifted += 1
    for crate in crates.values():
        fill(crate, lifted)
        print(crate, is_heavy(crate))
"""
GULLS = """\
from collections import namedtuple

Gull = namedtuple("Gull", "name x")
gulls = [Gull("Kari", 3), Gull("Per", 8)]


def fly(gull, by):
    return gull._replace(x=gull.x + by)


for turn in range(3):
    for i, gull in enumerate(gulls):
        gulls[i] = fly(gull, turn)
    print(gulls)
"""
MENU = """\
packets = []
lent = 0
while True:
    print("1. Add")
    print("2. Lend one")
    print("3. List")
    print("4. Quit")
    choice = input("> ")
    if choice == "1":
        packets.append("peas")
        print("added")
        print(len(packets))
    elif choice == "2":
        packets.pop()
        lent += 1
        print("lent", lent)
        print("one packet less")
        print(len(packets), "left")
    elif choice == "3":
        for packet in packets:
            print(packet)
        print("these are all")
        print("of", len(packets) + lent)
    elif choice == "4":
        break
    else:
        print("what?")
        print("choose again")
        print("from 1 to 4")
"""
NOTES = """\
import os

FILE = "harbour notes.txt"


def load_notes():
    if os.path.exists(FILE):
        with open(FILE) as file:
            return file.read()
    return ""


def has_notes():
    return os.path.exists(FILE)


def show():
    print(load_notes(), has_notes())


turn = 0
while turn < 2:
    turn += 1
    show()
"""
BUTTONS = """\
buttons = [5, 6, 16]
labels = ["up", "down", "stop"]
pressed = 0


def press(number):
    global pressed
    pressed += 1
    index = buttons.index(number)
    pin = buttons[index]
    label = labels[index]
    print(pin, label, pressed)


for turn in range(2):
    press(6)
    press(16)
"""


def built(text: str) -> str:
    program = program_of(text)
    made = build(program, propose(program)).program
    return "\n".join(module.source.data.decode() for module in made.modules.values())


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        (
            LAMPS,
            [
                '{"a": self.lamp1, "b": self.lamp2}',
                "if n in self.lamps:",
                "self.lamps[n].switch()",
                "self.lamps.values():",
            ],
        ),
        (PLAYERS, ["self.players[turn].score += thrown", "{1: self.player1, 2: self.player2}", "class Player:"]),
        (BANK, ["self.boxes[name].lend(amount)", "def lend(self, amount):"]),
        (RACERS, ['Wrapper(10, "> ")', "def run(self):"]),
        (KEYS, ["for ferry in self.ferries:", "UP, DOWN)", "LEFT, RIGHT)", "key == self._up:"]),
        (STATIONS, ["self._heights = [0] * 4", "def fill(self):", "item.fill()"]),
        (CRATES, ["    def is_heavy(self):", "crate.fill(", "@dataclass"]),
        (GULLS, ["= gull.fly(turn)", "return self._replace(x=self.x + by)"]),
        (MENU, ["def show_menu", "def lend_one(self):", "self.add()"]),
        (NOTES, ["class NoteFile:", "self._path", "def load(self):", "def has_notes(self):"]),
        (BUTTONS, ["def __init__(self, pin, label):"]),
    ],
    ids=["lamps", "players", "bank", "racers", "keys", "stations", "crates", "gulls", "menu", "notes", "buttons"],
)
def test_what_a_reader_looks_for(text, expected):
    found = built(text)
    assert [part for part in expected if part not in found] == []


@pytest.mark.parametrize("write", [write_choices, write_declared, write_spread_columns])
@pytest.mark.parametrize("seed", range(10))
def test_random_scripts_of_these_sorts(write, seed):
    assert outcome(write(seed)).partition(":")[0] in ("same", "refused")


@pytest.mark.parametrize("text", [LAMPS, PLAYERS, BANK, RACERS, KEYS, STATIONS, CRATES, GULLS, NOTES, BUTTONS])
def test_they_do_what_they_did(text):
    assert printed(text)
    assert outcome(text) == "same"


BOAT = """\
import pygame

pygame.init()
screen = pygame.display.set_mode((400, 300))
boat = pygame.Rect(180, 240, 40, 40)
shore = pygame.Rect(0, 0, 400, 20)
score = 0
running = True

while running:
    for event in pygame.event.get():
        if event.type == pygame.QUIT:
            running = False
        if event.type == pygame.KEYDOWN and event.key == pygame.K_SPACE:
            score = 0
            running = True
            boat.x = 180
            boat.y = 240
    keys = pygame.key.get_pressed()
    if keys[pygame.K_LEFT] and boat.left > 0:
        boat.x -= 5
    if keys[pygame.K_RIGHT] and boat.right < 400:
        boat.x += 5
    if boat.colliderect(shore):
        score += 1
    screen.fill((0, 0, 90))
    pygame.draw.rect(screen, (90, 90, 90), shore)
    pygame.draw.rect(screen, (200, 200, 200), boat)
    pygame.display.flip()
"""


def test_a_rectangle_that_is_moved_and_drawn_is_a_thing_and_one_that_stays_is_none():
    design = propose(program_of(BOAT))
    (plan,) = design.classes
    assert [field.name for field in plan.fields] == ["rect"]
    assert {"move", "draw"} <= {method.name for method in plan.methods}
    assert "restart" not in {method.name for method in design.methods}


def test_what_begins_again_is_a_restart():
    text = BOAT.replace("            boat.x = 180\n            boat.y = 240\n", "            lives = 3\n")
    text = text.replace("score = 0\nrunning", "score = 0\nlives = 3\nrunning", 1).replace("score += 1", "lives -= 1")
    text = (
        text.replace("while running", "\n\ndef show():\n    print(score, lives, running)\n\n\nwhile running")
        + "    show()\n"
    )
    assert "restart" in {method.name for method in propose(program_of(text)).methods}
