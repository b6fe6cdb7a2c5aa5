"""What stays at the top level so that the rest can move."""

from __future__ import annotations

import pytest

from aedifex.program.structure.left_behind import LeftBehind
from tests.support.helpers import module_of

RISE = "def rise():\n    global level, total\n    level += 1\n    total += level\n"
LOOP = "while level < 5:\n    rise()\n    print(level, total)\n"


def left(text: str) -> tuple[set[str], set[str]] | None:
    found = LeftBehind(module_of(text)).find()
    return None if found is None else ({s.name for s in found.symbols}, {f.name for f in found.functions})


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        (f"level = total = 0\n{RISE}{LOOP}", (set(), set())),
        (
            "level, total, step = 0, 0, 3\ndef rise(by=step):\n    global total\n    total += by\nrise()\nstep = 4\n",
            None,
        ),
        (
            f"level = 0\ntotal = 0\nother = 0\n{RISE}if input():\n    def more():\n        global other\n        other += 1\n{LOOP}",
            ({"other"}, {"more"}),
        ),
        (
            f"level = total = 0\nseen = []\n{RISE}class Kite:\n    def fly(self):\n        seen.append(self)\n{LOOP}",
            ({"seen"}, set()),
        ),
        (
            f"level = total = 0\nseen = None\n{RISE}class Kite:\n    def fly(self):\n        global seen\n        seen = 1\n{LOOP}",
            ({"seen"}, set()),
        ),
        (f"level = total = 0\n{RISE}def rise():\n    global level\n    level += 9\n{LOOP}", None),
    ],
)
def test_what_is_left(text, expected):
    assert left(text) == expected


def test_what_a_decorator_registers_goes_along():
    text = f"level = total = 0\nhooks = []\n{RISE}@hooks.append\ndef show():\n    print(level)\n{LOOP}"
    found = LeftBehind(module_of(text)).find()
    assert found is not None
    assert [s.references[0].name for s in found.inline] == ["show"] or len(found.inline) == 1


def test_where_things_are_found_by_name_nothing_goes_along():
    text = f"import flask\napp = flask.Flask('x')\nlevel = total = 0\n{RISE}@app.route('/')\ndef show():\n    return str(level)\n{LOOP}"
    found = LeftBehind(module_of(text)).find()
    assert found is None or not found.inline
