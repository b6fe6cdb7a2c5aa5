"""Objects answer what was decided outside by their fields, and the program does what it did."""

from __future__ import annotations

from textwrap import dedent

import pytest

from aedifex.design.drafting.questions import questions_of
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.tell import Tell, asked_of
from aedifex.source.errors import RefusedError
from tests.support.helpers import printed, program_of

FERRY = """
    MOST = 2


    class Ferry:
        def __init__(self, name):
            self.name = name
            self.load = []
            self.rope = 9
            self.state = "open"
            self.skipper = None


    one, other = Ferry("swan"), Ferry("heron")
    """


def told(code: str, asks: str, name: str = "answer") -> str:
    program = program_of(dedent(FERRY) + dedent(code))
    after = perform(program, Tell(program.main.path, "Ferry", asks, name)).main.source.data.decode()
    assert printed(after) == printed(program.main.source.data.decode())
    return after


def asked(code: str) -> dict[str, str]:
    """The questions that have a name in a script, with that."""
    module = program_of(dedent(FERRY) + dedent(code)).main
    scope = next(s.defines for s in module.block.statements if s.defines is not None)
    return {question.asks: question.name for question in questions_of(module, scope)}


@pytest.mark.parametrize(
    ("code", "asks", "calls"),
    [
        ("print(len(one.load) >= MOST)", "len(self.load) >= MOST", ["one.answer()"]),
        ("if not one.load and other.rope > 3: print(1)", "not self.load", ["if one.answer() and other.rope > 3"]),
        ("for f in (one, other):\n    print(f.rope < 3 or f.load)", "self.rope < 3 or self.load", ["f.answer()"]),
        ("def tired(f, n):\n    return f.rope < n\nprint(tired(one, 4))", "self.rope < n", ["f.answer(n)"]),
        ("print([f.name for f in (one, other) if f.rope == 9])", "self.rope == 9", ["if f.answer()]"]),
        ("one.mate = other\nprint(one.mate.rope > 3, one.mate.rope > 3)", "self.rope > 3", ["one.mate.answer(), one"]),
        (
            "fleet = [one, other]\nfleet.sort(key=lambda f: f.rope > 2)\nprint(fleet[0].name)",
            "self.rope > 2",
            ["f.answer()"],
        ),
        ("while one.rope > 3:\n    one.rope -= 1\nprint(one.rope)", "self.rope > 3", ["while one.answer():"]),
        ("print((one.rope\n) > 3)", "self.rope > 3", None),
        ("print(f'{one.rope > 3=}')", "self.rope > 3", None),
        ("one = None\nprint(other.rope > 3)", "self.rope > 3", None),
        ("def f(b=None):\n    return b.rope > 3\nprint(f(one), f)", "self.rope > 3", None),
        (
            "def f(b=None):\n    return b.rope > 3 if b else 0\nprint(f(), f(one))",
            "self.rope > 3",
            ["return b.answer() if b else 0"],
        ),
        ("class Cart:\n    rope = 3\nfor f in (one, Cart()):\n    print(f.rope > 3)", "self.rope > 3", None),
        ("class Raft(Ferry):\n    pass\nprint(one.rope > 3)", "self.rope > 3", None),
        ("print(one.rope > other.rope)", "self.rope > other.rope", ["print(one.answer(other))"]),
        ("def n():\n    return 2\nprint(one.rope > n())", "self.rope > n()", None),
    ],
)
def test_what_is_told(code: str, asks: str, calls: list[str] | None) -> None:
    if calls is None:
        with pytest.raises(RefusedError, match=r"nothing asks|inherits"):
            told(code, asks)
        return
    after = told(code, asks)
    assert all(call in after for call in calls)
    assert f"        return {asks}\n" in after


def test_a_name_in_use_is_refused() -> None:
    with pytest.raises(RefusedError, match="a member `load` already"):
        told("print(one.rope > 3)", "self.rope > 3", "load")


def test_what_is_asked_is_listed() -> None:
    program = program_of(dedent(FERRY) + "print(one.rope > 3 and one.state == 'open', other.rope > 3)\n")
    listed = asked_of(program.main, "Ferry")
    assert listed == ["self.rope > 3 and self.state == 'open'", "self.rope > 3", "self.state == 'open'"]


BOTH_EQUAL = "self.rope == other.rope and self.state == other.state"
NEAR = "abs(self.rope - other.rope) < 3 and abs(self.name - other.name) < MOST"
OVER = "self.rope < other.rope + 3 and self.rope > other.rope and self.name > other.name"


@pytest.mark.parametrize(
    ("code", "names"),
    [
        ("print(len(one.load) >= MOST)", {"len(self.load) >= MOST": "is_full"}),
        ("print(len(one.load) < MOST)", {"len(self.load) < MOST": "has_room"}),
        ("print(not one.load)", {"not self.load": "has_no_load"}),
        ("print(one.skipper is None)", {"self.skipper is None": "has_no_skipper"}),
        ("print(one.skipper is not None)", {"self.skipper is not None": "has_skipper"}),
        ("print(one.state == 'open')", {"self.state == 'open'": "is_open"}),
        ("one.rope -= 1\nprint(0 < one.rope)", {"0 < self.rope": "has_rope"}),
        ("one.rope -= 1\nprint(one.rope <= 0)", {"self.rope <= 0": "is_out_of_rope"}),
        ("one.rope = one.rope - 1\nprint(one.rope < 3)", {"self.rope < 3": "is_short_of_rope"}),
        ("print(one.rope < 3)", {}),
        ("print(one.rope == other.rope and one.state == other.state)", {BOTH_EQUAL: "is_at"}),
        ("print(abs(one.rope - other.rope) < 3 and abs(one.name - other.name) < MOST)", {NEAR: "is_near"}),
        (
            "print(\n    (one.rope < other.rope + 3\n     and one.rope > other.rope\n     and one.name > other.name)\n)",
            {OVER: "touches"},
        ),
        ("print(one.rope < other.rope and one.name > 3)", {}),
        ("print(one.name == 'swan')", {}),
    ],
)
def test_what_questions_are_called(code: str, names: dict[str, str]) -> None:
    assert asked(code) == names


def test_members_reached_by_their_text_are_not_added_to() -> None:
    with pytest.raises(RefusedError, match="by their text"):
        told("for word in ('name', 'rope'):\n    print(getattr(one, word), one.rope > 3)", "self.rope > 3")
