"""part: a class that does several jobs becomes several, and what others call of the first stays."""

from __future__ import annotations

from pathlib import Path

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.design.document.reading import parse
from aedifex.design.document.writing import write
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.parting import Part, PartMember
from aedifex.moves.part import parts_of
from aedifex.source.errors import DesignError, RefusedError
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
        ("self.c += 1", "", "sets or calls `c`, which stays"),
        ("return self.greet(self.a)", "    def greet(self, n):\n        return n", "uses `greet`, which stays"),
        ("return [self.c for n in 'ab'], lambda: self.c", "", "in code that runs later"),
        ("print(self.c)\nyield self.a", "", "cannot gain a parameter"),
        ("change()\nreturn self.c", "def change():\n    h.c = 5\nh = Harbour(1)", "may change what"),
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


def test_what_a_method_reads_of_what_stays_is_put_behind_its_arguments():
    rest = "    def turn(self, n):\n        self.c += 1\n        return self.go(n)\nh = Harbour(3)\nprint(h.turn(2), h.turn(4))"
    text = simple("self.a = n\nself.c = 2", "self.a += self.c * n\nreturn self.a", rest).replace(
        "go(self)", "go(self, n)"
    )
    result = parted(text, "a", "go")
    assert "    def go(self, n, c):\n        self.a += c * n\n" in result
    assert "        return self.tide.go(n, self.c)\n" in result and result.count("def go(") == 1


def test_where_other_code_calls_the_class_gives_what_stays():
    text = simple("self.a = n\nself.c = 2", "return self.a + self.c + n", "h = Harbour(1)\nprint(h.go(), h.go(4))")
    result = parted(text.replace("go(self)", "go(self, n=1)"), "a", "go")
    assert "    def go(self, n=1, *, c):\n        return self.a + c + n\n" in result
    assert "    def go(self, n=1):\n        return self.tide.go(n, c=self.c)\n" in result


def test_what_is_read_of_a_part_is_given_to_another():
    text = simple("self.a = n\nself.c = 2", "return self.a + self.c", "h = Harbour(3)\nprint(h.go(), h.c)")
    first = perform(program_of(text), Part(SCRIPT, "Harbour", "Wind", "wind", (PartMember("c", "force"),)))
    after = perform(first, Part(SCRIPT, "Harbour", "Tide", "tide", (PartMember("a", "level"), PartMember("go", "go"))))
    result = after.main.source.data.decode()
    assert "        return self.tide.go(self.wind.force)\n" in result
    assert "    def go(self, force):\n        return self.level + force\n" in result


HUT = """\
import random


class Hut:
    def __init__(self):
        # gauge
        self.rain = 0
        self.clock = 0
        # days
        self.totals = []
        self.wettest = 0
        # bell
        self.rings = 0
        self.loud = True

    # ---- gauge
    def measure(self):
        self.clock += 1
        self.rain += random.randint(0, 3)
        self.remember()

    def time(self):
        return self.clock % 24

    # ---- days
    def remember(self):
        self.totals.append(self.rain)
        self.wettest = max(self.wettest, self.rain)

    def mean(self):
        return sum(self.totals) / len(self.totals)

    # ---- bell
    def ring(self):
        if self.rain > 9 and self.loud:
            self.rings += 1
            print("ring", self.rings)

    def report(self):
        print(self.time(), self.mean(), self.wettest, self.rings)


random.seed(4)
hut = Hut()
for turn in range(9):
    hut.measure()
    hut.ring()
hut.report()
"""


def test_a_class_is_divided_by_its_sections():
    program = program_of(HUT)
    for move in parts_of(program, "Hut"):
        program = perform(program, move)
    result = program.main.source.data.decode()
    assert printed(result) == printed(HUT)
    assert [line for line in result.splitlines() if line.startswith("class")] == [
        "class Gauge:",
        "class Days:",
        "class Bell:",
        "class Hut:",
    ]
    assert "        self.gauge.measure()\n        self.days.remember(self.gauge.rain)\n" in result
    assert "        self.bell.ring(self.gauge.rain)\n" in result
    assert "        print(self.gauge.time(), self.days.mean(), self.days.wettest, self.bell.rings)\n" in result
    assert "# ----" not in result


def test_a_draft_divides_such_a_class_and_says_so():
    program = program_of(HUT)
    design = propose(program)
    assert [(part.name, part.whole) for part in design.parts] == [("Gauge", "Hut"), ("Days", "Hut"), ("Bell", "Hut")]
    assert [(m.routine, m.name, m.lines) for m in design.parts[0].methods] == [
        ("time", "time", None),
        ("measure", "measure", (18, 19)),
    ]
    again = parse(Path("hut.design.toml"), write(design))
    assert again.parts and build(program, again).program.texts == build(program, design).program.texts


@pytest.mark.parametrize(
    ("old", "new", "words"),
    [
        ('of = "Hut"', 'of = "Hat"', "no class `Hat`"),
        ('name = "Gauge"', 'name = "class"', "cannot be used as a name"),
        ('{ from = "rain", name = "rain" },', "", "uses|sets"),
        ('object = "bell"', "", "needs a `object`"),
    ],
)
def test_a_part_that_cannot_be(old, new, words):
    program = program_of(HUT)
    text = write(propose(program)).replace(old, new, 1)
    with pytest.raises((DesignError, RefusedError), match=words):
        build(program, parse(Path("hut.design.toml"), text))


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
