"""What runners find by its name stays where they find it."""

from __future__ import annotations

import pytest

from aedifex.languages.python.runners import all_runners
from tests.support.helpers import module_of


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("import pgzrun\nWIDTH = 3\ndef draw(): pass\ndef rise(): pass\n", {"WIDTH", "draw"}),
        ("def draw():\n    screen.clear()\n", {"draw"}),
        ("def draw():\n    print('x')\n", set()),
        ("import pytest\ndef test_one(): pass\ndef help_test(): pass\n", {"test_one"}),
        ("from p5 import *\ndef setup(): pass\ndef key_pressed(): pass\n", {"setup", "key_pressed"}),
        ("import flask\napp = flask.Flask('x')\nlevel = 3\n", {"app"}),
        ("import pytest\ntest_lamps = False\ntest_lamps = not test_lamps\ntest_all = print(3)\n", {"test_all"}),
        ("def reply(event, context): pass\ndef other(event): pass\n", {"reply"}),
        ("def reply(event, context): pass\nprint(reply(1, 2))\n", set()),
        ("import discord\ndef setup(bot): pass\n", {"setup"}),
    ],
)
def test_what_is_found(text, expected):
    module = module_of(text)
    assert set(module.found_by_name) == expected
    assert {f.name for f in module.functions if f.is_called_from_outside} <= expected


def test_each_runner_is_a_file_of_its_own():
    assert len({runner.name for runner in all_runners()}) == len(all_runners()) >= 5
