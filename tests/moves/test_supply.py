"""supply: the script's own classes are given what they used of the script."""

from __future__ import annotations

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.supply import Supply
from aedifex.source.errors import RefusedError
from tests.support.class_families import write_family
from tests.support.helpers import SCRIPT, printed, program_of
from tests.support.scripts import outcome

LOG = "class Log:\n    pass\nlog = Log()\nlog.n = 0\n"


def supplied(text: str, variable: str = "log", name: str = "Boat") -> str:
    result = perform(program_of(text), Supply(SCRIPT, name, variable)).main.source.data.decode()
    assert printed(result) == printed(text)
    assert "    self.log.n" in result or variable != "log" or "log=" in result or "the_log" in result
    return result


@pytest.mark.parametrize(
    ("head", "made", "given"),
    [
        ("def __init__(self, x):", "Boat(1)", ["def __init__(self, x, log):", "Boat(1, log)"]),
        ("def __init__(self, x=1):", "Boat()", ["def __init__(self, x=1, *, log):", "Boat(log=log)"]),
        ("def __init__(self, *x):", "Boat(1, 2)", ["def __init__(self, *x, log):", "Boat(1, 2, log=log)"]),
        ("def __init__(self, x, *, y=2):", "Boat(1)", ["def __init__(self, x, *, y=2, log):", "Boat(1, log=log)"]),
        ("def __init__(self, x):", "Boat(x=1)", ["def __init__(self, x, log):", "Boat(x=1, log=log)"]),
        ("def __init__(self, x):", "Boat(*[1])", ["def __init__(self, x, log):", "Boat(*[1], log=log)"]),
        ("def __init__(me, x):", "Boat(1)", ["me, x, log):\n        me.x = x\n        me.log = log\n", "Boat(1, log)"]),
    ],
)
def test_the_constructor_takes_one_more(head, made, given):
    receiver = "me" if "(me" in head else "self"
    text = f"""\
{LOG}
class Boat:
    {head}
        {receiver}.x = x

    def go(self, n):
        log.n += n
        return [log.n for _ in range(2)]


boat = {made}
print(boat.go(2), boat.x, log.n, isinstance(boat, Boat))
"""
    result = supplied(text)
    for part in given:
        assert part in result
    assert "        self.log.n += n\n        return [self.log.n for _ in range(2)]\n" in result


def test_a_class_without_constructor_gets_one_below_its_docstring():
    text = f'{LOG}class Boat:\n    """A boat."""\n\n    def go(self):\n        log.n += 1\nboat = Boat()\nboat.go()\nprint(log.n)\n'
    assert '    """A boat."""\n\n    def __init__(self, log):\n        self.log = log\n\n    def go' in supplied(text)


def test_it_stands_below_the_docstring_and_before_all_else():
    text = f'{LOG}class Boat:\n    def __init__(self):\n        """Make it."""\n        self.go()\n    def go(self):\n        log.n += 1\nBoat()\nprint(log.n)\n'
    assert '        """Make it."""\n        self.log = log\n        self.go()\n' in supplied(text)


def test_objects_that_the_class_makes_itself_get_it_too():
    text = f"{LOG}class Boat:\n    def __init__(self, n):\n        self.n = n\n    def split(self):\n        log.n += 1\n        return Boat(self.n // 2)\nprint(Boat(4).split().n, log.n)\n"
    assert "return Boat(self.n // 2, self.log)" in supplied(text)


def test_a_function_is_given_as_it_is():
    text = "n = 0\ndef note(k):\n    global n\n    n += k\nclass Boat:\n    def go(self):\n        note(2)\n        return note\nb = Boat()\nprint(b.go() is note, n)\n"
    assert "        self.note(2)\n        return self.note\n" in supplied(text, "note")


def test_a_library_class_below_it_gives_another_name():
    text = f"import threading\n{LOG}name = Log()\nname.n = 4\nclass Boat(threading.Thread):\n    def __init__(self):\n        super().__init__()\n    def run(self):\n        log.n += name.n\nb = Boat()\nb.start()\nb.join()\nprint(log.n)\n"
    assert "self.the_name = the_name" in supplied(text, "name")


CLASS = "{before}class Boat{bases}:\n    def __init__(self, n):\n        self.n = n\n    def go(self):\n{go}\n{after}\n"


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"after": "b = Boat(1)\nb.go()\nlog = Log()\nb.go()"}, "not bound once"),
        ({"before": "class Log:\n    n = 0\nif True:\n    log = Log()\n"}, "not bound once"),
        ({"before": "class Log:\n    n = 0\n", "after": "b = Boat(1)\nlog = Log()\nlog.n = 0\nb.go()"}, "no value yet"),
        (
            {
                "before": "class Log:\n    n = 0\ndef make():\n    return Boat(2)\nb = 0\n",
                "after": "b = make()\nlog = Log()\nlog.n = 0",
            },
            "no value yet",
        ),
        ({"after": "things = [Boat]\nthings[0](2).go()"}, "otherwise than to make an object"),
        ({"after": "class Ship(Boat):\n    pass\nShip(2).go()"}, None),
        ({"after": "Boat.__init__(Boat(1), 3)"}, "otherwise than to make an object"),
        ({"after": "Boat(**{'n': 2}).go()"}, "cannot be seen"),
        ({"after": "def f(log):\n    return Boat(2)\nf(1).go()"}, "means something else"),
        ({"after": "print(vars(Boat(2)))"}, "cannot be seen"),
        ({"after": "import copy\ncopy.copy(Boat(2)).go()"}, "copied or stored"),
        ({"bases": "(dict)"}, None),
        ({"bases": "(Log)"}, None),
        ({"go": "        pass\n    n = log"}, "no object of Boat is at hand"),
        ({"go": "        pass\n    @staticmethod\n    def far():\n        return log"}, "no object of Boat is at hand"),
        (
            {"go": "        def inner(self):\n            return log\n        return inner(3)"},
            "no object of Boat is at hand",
        ),
        ({"go": "        return log\n    def __setattr__(self, a, b):\n        pass"}, "cannot be seen"),
    ],
)
def test_what_could_be_noticed(change, words):
    given = {
        "before": LOG,
        "bases": "",
        "go": "        log.n += self.n",
        "after": "b = Boat(2)\nb.go()\nprint(log.n)",
    } | change
    text = CLASS.format(**given)
    if words is None:
        supplied(text)
        return
    with pytest.raises(RefusedError, match=words):
        supplied(text)


GAME = """\
import random

points = 0
lives = 3
level = 1


class Gull:
    def __init__(self, x):
        self.x = x

    def fly(self):
        global points, lives
        self.x += level
        if self.x > 4:
            points += 1
            self.x = 0
        if random.random() < 0.1:
            lives -= 1
        return add(2)


def add(n):
    global points
    points += n
    return points


def climb():
    global level
    level += 1


gulls = [Gull(n) for n in range(3)]
for turn in range(6):
    for gull in gulls:
        print(gull.fly(), gull.x)
    climb()
    print(points, lives, level)
"""


def test_a_script_whose_classes_use_changing_state_is_built():
    assert outcome(GAME) == "same"


def test_what_classes_share_is_no_longer_global(tmp_path, cli):
    (tmp_path / "gulls.py").write_text(GAME)
    assert cli("draft", "gulls.py").returncode == 0
    assert cli("build", "gulls.design.toml", "--into", "built").returncode == 0
    text = (tmp_path / "built" / "gulls.py").read_text()
    assert "global" not in text and "self.state.points += 1" in text and "Gull(n, " in text


HEIRS = """\
{log}
class Boat:
    def __init__(self, n):
        self.n = n

    def go(self):
        log.n += self.n


class Ship(Boat):
    def __init__(self, n, crew):
        super().__init__(n)
        self.crew = crew

    def go(self):
        log.n += self.crew
        super().go()


class Tug(Boat):
    pass


for boat in (Boat(1), Ship(2, 3), Tug(4)):
    boat.go()
    print(log.n, isinstance(boat, Ship))
"""


def heirs(old: str = "", new: str = "") -> str:
    assert old in HEIRS
    return HEIRS.replace(old, new).replace("{log}", LOG)


def test_what_comes_from_the_class_hands_it_on():
    made = supplied(heirs())
    assert "    def __init__(self, n, crew, log):\n        super().__init__(n, log)\n        self.crew = crew\n" in made
    assert "self.log.n += self.crew" in made and "(Boat(1, log), Ship(2, 3, log), Tug(4, log))" in made
    assert "Boat.__init__(self, n, log)" in supplied(heirs("super().__init__(n)", "Boat.__init__(self, n)"))


@pytest.mark.parametrize(
    ("old", "new", "words"),
    [
        ("        super().__init__(n)\n", "        self.n = n\n", "does not let its base set up"),
        ("super().__init__(n)", "super().__init__(n)\n        super().__init__(n)", "does not let its base set up"),
        ("super().__init__(n)", "if crew:\n            super().__init__(n)", "does not let its base set up"),
        (
            "super().__init__(n)",
            "self.n = self.crew = 2\n        self.go()\n        super().__init__(n)",
            "does not let",
        ),
        ("super().__init__(n)", "super().__init__(log.n)", "before the object is set up"),
        ("super().__init__(n)", "super().__init__(**{'n': n})", "cannot be seen"),
        ("class Tug(Boat)", "class Tug(Boat, LookupError)", "comes from several classes"),
        (
            "class Tug(Boat):\n    pass",
            "class Tug(Boat):\n    def __setattr__(self, a, b):\n        self.__dict__[a] = b",
            "seen",
        ),
    ],
)
def test_what_comes_from_it_may_stand_in_the_way(old, new, words):
    """Careless: an object without what it is given, or a base that is given nothing."""
    with pytest.raises(RefusedError, match=words):
        supplied(heirs(old, new))


def test_a_class_that_comes_from_another_keeps_it_itself():
    made = supplied(heirs("log.n += self.n", "print(self.n)"), name="Ship")
    assert "class Boat:\n    def __init__(self, n):\n" in made and "Tug(4))" in made


@pytest.mark.parametrize("seed", range(6))
def test_random_families_do_the_same(seed):
    assert outcome(write_family(seed, is_python=True)).partition(":")[0] in ("same", "refused")


BOARD = """\
print("the quay opens")


class Board:
    def __init__(self):
        self.lines = []
        print("a board")


board = Board()
count = 0


class Gull:
    def fly(self):
        global count
        count += 1
        board.lines.append(count)
        return far()


def far():
    return len(board.lines) * 2


def start():
    print(Gull().fly(), board.lines)


while count < 4:
    start()
"""


def test_what_would_stay_in_front_of_an_effect_is_given_too(tmp_path, cli):
    assert outcome(BOARD) == "same"
    (tmp_path / "quay.py").write_text(BOARD)
    assert cli("draft", "quay.py").returncode == 0
    assert cli("build", "quay.design.toml", "--into", "built").returncode == 0
    text = (tmp_path / "built" / "quay.py").read_text()
    assert "        self.board = Board()\n" in text
    assert "Gull(self.board, self.state, self.far).fly()" in text or ("Gull(" in text and "global" not in text)
    assert "\n\n\n\n" not in text


STAYING = """\
import sys

out = sys.stdout
points = 0


class Gull:
    def __init__(self, n):
        self.n = n

    def fly(self):
        global points
        points += self.n
        out.write(f"{points}\\n")


def show(gulls, to=out):
    for gull in gulls:
        gull.fly()
    to.write("seen\\n")


show([Gull(1), Gull(2)])
print(points)
"""


def test_what_stays_at_the_top_is_not_given_as_well():
    assert outcome(STAYING) == "same"
    program = program_of(STAYING)
    made = build(program, propose(program)).program.main.source.data.decode()
    assert "out = sys.stdout\n" in made and "def __init__(self, n, out" not in made
