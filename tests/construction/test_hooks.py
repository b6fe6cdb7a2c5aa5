"""Scripts whose functions a runner finds by their names: these stay, and hand on to what has the state."""

from __future__ import annotations

from tests.support.helpers import written

BALLOON = """\
import pgzrun

WIDTH = 400


class Balloon:
    def __init__(self, x, y):
        self.x = x
        self.y = y
        self.vx = 3
        self.up = 1


balloon = Balloon(50, 100)


def draw():
    screen.clear()


def update(dt):
    # blown by the wind
    balloon.x += balloon.vx * dt
    if balloon.x > WIDTH:
        balloon.vx = -balloon.vx

    # and always rising
    balloon.y -= balloon.up
    if balloon.y < 0:
        balloon.y = 300


pgzrun.go()
"""


def test_a_function_found_by_its_name_hands_on():
    text = written(BALLOON)
    assert "def update(dt):\n    balloon.update(dt)\n" in text
    assert "    def update(self, dt):\n        # blown by the wind\n        self._x += self._vx * dt\n" in text


def test_the_first_of_several_comments_is_no_name_for_all():
    assert "blow" not in written(BALLOON).replace("# blown by the wind", "")


SKETCH = """\
from p5 import *

kite_x = 100
kite_y = 200


def move_kite():
    global kite_x, kite_y
    kite_x += 2
    kite_y -= 1


def draw_kite():
    rect(kite_x, kite_y, 10, 10)
    circle(kite_x, kite_y + 20, 4)


def draw():
    background(220)
    move_kite()
    draw_kite()


run()
"""


def test_no_method_only_calls_another_of_its_class():
    text = written(SKETCH)
    assert "def draw():\n    background(220)\n    kite.move()\n    kite.draw()\n" in text
    assert text.count("def draw(") == 2


CREW = """\
crew = []


def hire(name, strength):
    crew.append({"name": name, "strength": strength, "tired": 0})


def pull():
    for person in crew:
        person["tired"] += 1
        print(person["name"], person["strength"] - person["tired"])


def drop_out():
    for person in crew[:]:
        if person["tired"] >= person["strength"]:
            print(person["name"], "lets go")
            person["tired"] = 0
            crew.remove(person)


hire("Ida", 2)
hire("Ole", 3)
while crew:
    pull()
    drop_out()
"""


def test_nothing_takes_itself_out_of_what_holds_it():
    text = written(CREW)
    assert "remove(self)" not in text
    assert "remove(person)" in text
