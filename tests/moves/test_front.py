"""front: what a library finds by its name hands on, and what is behind it can become a method."""

from __future__ import annotations

import pytest

from aedifex.moves.front import Front
from aedifex.program.structure.fronts import Fronts
from aedifex.source.errors import RefusedError
from tests.support.found_by_name import play_by_name, write_found_by_name
from tests.support.helpers import SCRIPT, module_of, moved, written
from tests.support.scripts import outcome

GAME = """\
import random
import pgzrun

WIDTH = 300
posts = []
score = 0


def add_post():
    posts.append({"x": WIDTH, "gap": random.randint(80, 300)})


def update(dt):
    global score
    add_post()
    for post in posts:
        post["x"] -= 3 * dt
        score += 1


def draw():
    for post in posts:
        screen.draw.line((post["x"], 0), (post["x"], post["gap"]))
    screen.draw.text(str(score), (10, 10))


def on_key_down(key, mod=0):
    global score
    if key == keys.R:
        posts.clear()
        score = 0
    draw()


pgzrun.go()
"""
FRONTS = """\
game = Script()


def update(dt):
    game.update(dt)


def draw():
    game.draw()


def on_key_down(key, mod=0):
    game.on_key_down(key, mod)


pgzrun.go()
""".replace("game", "script")
SERVER = """\
from wsgiref.simple_server import make_server

asked = 0


def application(environ, start_response):
    global asked
    asked += 1
    start_response("200 OK", [])
    return [str(asked).encode()]


if __name__ == "__main__":
    make_server("", 8000, application).serve_forever()
"""


def test_each_has_a_front_and_calls_go_to_what_is_behind():
    text = moved(GAME, Front(SCRIPT))[SCRIPT.name]
    assert "def on_key_down(key, mod=0):\n    handle_key_down(key, mod)\n\n\npgzrun.go()\n" in text
    assert "        score = 0\n    draw_all()\n" in text and "def add_post" in text
    with pytest.raises(RefusedError):
        moved(text, Front(SCRIPT))


def test_a_game_is_an_owner_with_fronts_and_its_things_are_objects():
    text = written(GAME)
    assert FRONTS in text and "def run" not in text
    assert "class Post:" in text and "self.posts.append(Post(WIDTH, random.randint(80, 300)))" in text


def test_a_server_is_given_what_stands_in_front():
    text = written(SERVER)
    assert "def application(environ, start_response):\n    return script.answer(environ, start_response)\n" in text
    assert '    make_server("", 8000, application).serve_forever()\n' in text


def test_long_answers_to_paths_are_methods():
    text = SERVER.replace(
        "    return [",
        """\
    path = environ["PATH_INFO"]
    if path == "/":
        asked += 1
        asked += 2
        print(asked)
    elif path.startswith("/buoys/"):
        name = path.split("/")[2]
        asked += len(name)
        print(name, asked)
    elif path == "/asked":
        asked -= 1
        asked += 1
        print("asked", asked)
    return [""",
    )
    found = written(text)
    assert '    elif path.startswith("/buoys/"):\n            self.answer_buoy(path)\n' in found.replace(
        "    elif", "elif", 1
    )
    assert "self.answer_index()" in found and "self.answer_asked()" in found


def test_a_script_that_only_gives_first_values_runs_nothing():
    text = "import json\n\nseen = []\n\n\ndef see(what):\n    seen.append(what)\n\n\nlast = 3\n\n\ndef count():\n"
    with pytest.raises(RefusedError, match="nothing to gather"):
        written(text + "    return len(seen) + last\n")


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("def update", "@print\ndef update"),
        ("def update", "async def update"),
        ("        score += 1", "        score += 1\n        yield score"),
        ("mod=0", "mod=WIDTH"),
        ("score = 0\n\n\ndef add", "score = 0\npgzrun.go()\n\n\ndef add"),
        ("import pgzrun", "from pgzrun import *\ngo()"),
        ("def add_post", "def update_all(): pass\n\n\ndef add_post"),
        ("\n\npgzrun.go", "\n\nclock.schedule(update, 3)\npgzrun.go"),
        ("import pgzrun", "import pgzrun, pytest\n\n\ndef test_it():\n    assert score == 0\n\n"),
        ("import pgzrun", "import pgzrun\nTITLE = 'a'\nTITLE = TITLE * 2"),
    ],
)
def test_where_that_may_be_noticed_they_stay(old, new):
    assert old in GAME
    with pytest.raises(RefusedError):
        moved(GAME.replace(old, new), Front(SCRIPT))


def test_functions_that_hand_on_and_stand_before_others_are_none():
    text = moved(GAME, Front(SCRIPT))[SCRIPT.name]
    assert [f.name for f in Fronts.of(module_of(text)).found] == ["update", "draw", "on_key_down"]
    behind = text.replace("pgzrun.go()", "print(score)\n\n\npgzrun.go()")
    assert Fronts.of(module_of(behind)).found == []


@pytest.mark.parametrize("seed", range(15))
def test_runners_find_all_that_they_found(seed):
    assert outcome(write_found_by_name(seed), None, play_by_name).partition(":")[0] in ("same", "refused")
