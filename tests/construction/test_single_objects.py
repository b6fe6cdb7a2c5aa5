"""What functions do with an object that the main code holds becomes its method."""

from __future__ import annotations

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.moves.adopt import Adopt, NewMethod
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, program_of
from tests.support.scripts import outcome
from tests.support.single_objects import write_single_objects

TANKS = """\
class Tank:
    def __init__(self, level):
        self.level = level

    def is_below(self):
        return self.level < tank.level


tank = Tank(3)
spare = Tank(1)
day = 0


def leak():
    tank.level -= 1
    if tank.level < 0:
        tank.level = 0


while day < 4:
    day += 1
    leak()
    if tank.level == 1:
        tank.level += 5
        print("filled", tank.level)
print(tank.level, spare.is_below())
"""


def test_functions_and_lines_about_one_object_are_its_methods():
    program = program_of(TANKS)
    made = build(program, propose(program)).program
    text = "\n".join(module.source.data.decode() for module in made.modules.values())
    assert "    def leak(self):\n        self.level -= 1\n" in text
    assert "        if self.level == 1:\n            self.level += 5\n" in text
    assert "            tank.leak()\n" in text


def test_another_object_of_the_class_is_not_taken_for_it():
    text = moved(TANKS, Adopt(SCRIPT, "Tank", "tank", (NewMethod("leak", "leak"),)))[SCRIPT.name]
    assert "return self.level < tank.level" in text
    assert "        self.level -= 1\n" in text


def test_what_may_hold_another_object_later_is_left():
    with pytest.raises(RefusedError, match="may hold another object later"):
        moved(TANKS + "tank = spare\nleak()\n", Adopt(SCRIPT, "Tank", "tank", (NewMethod("leak", "leak"),)))


@pytest.mark.parametrize("seed", range(12))
def test_random_scripts_do_the_same(seed):
    assert outcome(write_single_objects(seed)).startswith(("same", "refused"))


LOGS = """\
import pygame

screen = pygame.display.set_mode((400, 300))
logs = []
missed = 0


def add(x):
    logs.append({"x": x, "y": 0, "speed": 2, "width": 40})


def move_logs():
    global missed
    for log in logs:
        log["y"] += log["speed"]
        if log["y"] > 300:
            log["y"] = 0
            missed += 1


def draw():
    screen.fill("blue")
    for log in logs:
        pygame.draw.rect(screen, "brown", (log["x"], log["y"], log["width"], 9))
    pygame.display.flip()


add(3)
add(90)
while missed < 9:
    for event in pygame.event.get():
        if event.type == pygame.QUIT:
            missed = 9
    move_logs()
    draw()
"""


def test_what_draws_an_object_is_handed_the_window():
    program = program_of(LOGS)
    made = build(program, propose(program)).program
    text = "\n".join(module.source.data.decode() for module in made.modules.values())
    assert "    def draw(self, screen):\n        pygame.draw.rect(screen, " in text
    assert "    def move(self):\n        self.y += self._speed\n" in text
    assert "log.draw(self.screen)" in text and "log.move()" in text
