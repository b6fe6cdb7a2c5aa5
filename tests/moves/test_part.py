"""part: a class that does several jobs becomes several, and what others call of the first stays."""

from __future__ import annotations

import pytest

from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.parting import Part, PartMember
from aedifex.moves.part import parts_of
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, printed, program_of

HARBOUR = '''\
import random

LIMIT = 2


class Harbour:
    """Keeps the quay."""

    def __init__(self, start, name="quay"):
        self.name = name
        # how high the water stands
        self.tide_level = start  # metres
        self.tide_direction = 1
        self.money = 0
        self.guests = []

    def turn_tide(self):
        if abs(self.tide_level) > LIMIT:
            self.tide_direction = -self.tide_direction

    # the water moves
    def move_tide(self, amount=0.5):
        """Let the tide move on."""
        self.tide_level += amount * self.tide_direction
        self.turn_tide()
        return self.tide_level

    def pay(self, coins, *more, times=1, **rest):
        self.money += (coins + sum(more)) * times

    def greet(self, guest):
        self.guests.append(guest)
        self.pay(2, 3, times=2)

    def report(self):
        return f"{self.name}: {self.tide_level:.1f} {self.money} {self.guests}"


harbour, other = Harbour(0.5), Harbour(1.5, "mole")
quay = Harbour(0.25)
for turn in range(9):
    print(quay.move_tide(), quay.tide_direction)
    quay.greet(f"guest {turn}")
    quay.pay(1, 2, times=3, extra=4)
    print(quay.report())
'''
TIDE = (
    PartMember("tide_level", "level"),
    PartMember("tide_direction", "direction"),
    PartMember("move_tide", "move"),
    PartMember("turn_tide", "turn"),
)


def parted(text: str, *members: str | PartMember, into: str = "Tide", field: str = "tide") -> str:
    chosen = tuple(PartMember(m, m) if isinstance(m, str) else m for m in members)
    after = perform(program_of(text), Part(SCRIPT, "Harbour", into, field, chosen))
    result = after.main.source.data.decode()
    assert printed(result) == printed(text)
    return result


def test_the_jobs_of_a_class_are_found():
    (part,) = parts_of(program_of(HARBOUR), "Harbour")
    assert (part.new_class, part.instance, part.members) == ("Tide", "tide", (TIDE[0], TIDE[1], TIDE[3], TIDE[2]))


def test_the_new_class_is_written_as_the_old_one_was():
    result = parted(HARBOUR, *TIDE)
    assert (
        '''\
class Tide:
    """The tide."""

    def __init__(self, level):
        # how high the water stands
        self.level = level  # metres
        self.direction = 1

    def turn(self):
'''
        in result
    )
    assert '    # the water moves\n    def move(self, amount=0.5):\n        """Let the tide move on."""\n' in result
    assert "        self.name = name\n        self.tide = Tide(start)\n        self.money = 0\n" in result
    assert "    def move_tide(self, amount=0.5):\n        return self.tide.move(amount)\n\n    def pay" in result
    assert "def turn_tide" not in result and "{self.tide.level:.1f}" in result and "quay.tide.direction" in result


def test_calls_are_handed_on_with_all_kinds_of_arguments():
    result = parted(HARBOUR, "money", "guests", "pay", "greet", into="Till", field="till")
    assert "        self.till.pay(coins, *more, times=times, **rest)\n" in result


SIMPLE = "class Harbour:\n    def __init__(self, n):\n{init}\n    def go(self):\n{go}\n{rest}\n"


def simple(init: str, go: str = "return self.a", rest: str = "h = Harbour(3)\nprint(h.go())") -> str:
    def block(text: str) -> str:
        return "\n".join(f"        {line}" for line in text.splitlines())

    return SIMPLE.format(init=block(init), go=block(go), rest=rest)


@pytest.mark.parametrize(
    "init",
    [
        "self.a = n",
        "self.a = n\nself.b = self.a * 2",
        "self.a = [n]\nself.b = len(self.a)",
        "self.c = 1\nself.a = self.c + n\nself.b = 2",
        "self.a = 1\nself.c = n\nself.b = n",
        "m = n + 1\nself.a = m\nself.b = lambda: m",
        "self.a = n\nself.b = 5\nself.a += self.b\nself.b = 7",
        "self.a = n\nself.b = [x for x in range(n)]\nprint(self.a, self.b)",
        "self.a = 1\nif n:\n    self.a = 2\nself.c = self.a",
    ],
)
def test_first_values_are_worked_out_in_their_order(init):
    used = [name for name in ("a", "b") if f"self.{name} =" in init]
    result = parted(simple(init), *used, "go")
    assert "self.tide = Tide(" in result


@pytest.mark.parametrize(
    ("init", "words"),
    [
        ("self.b = 1\nif n:\n    self.a = 1\nelse:\n    self.a = 2", "does not simply set"),
        ("self.a = self.c = n", "sets none of the fields directly"),
        ("self.a, self.c = n, 2", "sets none of the fields directly"),
        ("self.c = 1\nself.a = 1\nself.b = self.a + self.c", "names that stay"),
        ("self.a = 1\nprint('hello')\nself.b = 2", "stands between"),
        ("self.a = 1\nself.c = n\nself.b = len(str(n))", "cannot be worked out earlier"),
        ("self.a = 1\nself.c = n\nn = 4\nself.b = n", "cannot be worked out earlier"),
        ("self.go()\nself.a = 1", "is used here before"),
        ("print(self)\nself.a = 1", "is used here before"),
        ("self.a = 1\nself.b = lambda: self.a", "code that runs later"),
        ("self.a = 1; self.b = 2", "shares its line"),
        ("pass", "none of the members named is a field"),
    ],
)
def test_first_values_that_must_stay(init, words):
    text = simple(init, go="return 3")
    used = [name for name in ("a", "b") if f"self.{name} =" in init or f"self.{name}," in init] or ["a"]
    with pytest.raises(RefusedError, match=words):
        parted(text, *used)


@pytest.mark.parametrize(
    ("go", "rest", "words"),
    [
        ("return self", "", "hands its object on"),
        ("return self.c", "", "uses `c`, which stays"),
        ("self = 4", "", "is no plain method"),
        ("return super().__hash__()", "", "depends on the class"),
        ("return __class__", "", "depends on the class"),
        ("return self.a", "class Pier(Harbour):\n    pass", "inherits or is inherited from"),
        ("return self.a", "def peek(thing):\n    return thing.a", "may or may not be of"),
        ("return self.a", "print(Harbour.go)", "may or may not be of"),
        ("return self.a", "print(getattr(Harbour(1), 'a'))", "by their text"),
        ("return self.a", "import copy\nh = copy.copy(Harbour(1))", "copied or stored"),
        ("return self.a", "    other = go", "itself uses or redefines"),
        ("return self.a", "    def __getattr__(self, name):\n        return 1", "itself decides"),
        ("return self.a", "class Tide:\n    pass", "`Tide` is in use"),
        ("return self.a", "    def tide(self):\n        return 2", "member `tide` is in use"),
        ("return f'{self.a=}'", "", "shows its own text"),
    ],
)
def test_what_would_mean_something_else(go, rest, words):
    with pytest.raises(RefusedError, match=words):
        parted(simple("self.a = n\nself.c = 2", go, rest), "a", "go")


@pytest.mark.parametrize(
    "head",
    [
        "@property\n    def go(self)",
        "@staticmethod\n    def go(self=None)",
        "def go(self, n=[])",
        "def go(self, n=LIMIT())",
    ],
)
def test_methods_that_are_not_plain(head):
    text = f"LIMIT = int\nclass Harbour:\n    def __init__(self):\n        self.a = 1\n    {head}:\n        return 3\n"
    with pytest.raises(RefusedError):
        parted(text, "a", "go")


@pytest.mark.parametrize(
    "go", ["yield self.a\nyield 2", "return [self.a for _ in 'ab']", "def inner():\n    return self.a\nreturn inner()"]
)
def test_generators_and_inner_functions_go_along(go):
    rest = "h = Harbour(3)\nprint(*h.go())" if "yield" in go else "h = Harbour(3)\nprint(h.go())"
    assert "return self.tide.go()" in parted(simple("self.a = n", go, rest), "a", "go")


def test_bound_methods_stay_handlers():
    text = simple(
        "self.a = n\nself.later = [self.go]", "self.a += 1\nprint(self.a)", "h = Harbour(2)\nh.later[0]()\nh.go()"
    )
    assert "self.later = [self.tide.go]" in parted(text, "a", "go")


def test_other_files_follow():
    other = "from script import Harbour\nq = Harbour(1)\nprint(q.a, q.go())\n"
    program = program_of(simple("self.a = n", rest="pass"), quay=other)
    after = perform(
        program, Part(SCRIPT, "Harbour", "Tide", "tide", (PartMember("a", "level"), PartMember("go", "rise")))
    )
    texts = {path.name: module.source.data.decode() for path, module in after.modules.items()}
    assert "print(q.tide.level, q.go())" in texts["quay.py"]
    assert "    def go(self):\n        return self.tide.rise()\n" in texts["script.py"]


def test_a_pattern_that_asks_for_a_member():
    rest = "match Harbour(3):\n    case Harbour(a=3):\n        print('three')"
    with pytest.raises(RefusedError):
        parted(simple("self.a = n", rest=rest), "a", "go")


def test_a_class_with_one_job():
    with pytest.raises(RefusedError, match="all do one job"):
        parts_of(program_of(simple("self.a = n")), "Harbour")
