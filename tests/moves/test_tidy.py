"""No more blank lines than people leave."""

from __future__ import annotations

import pytest

from aedifex.moves.tidy import Tidy, is_untidy
from tests.support.helpers import SCRIPT, moved, program_of


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("a = 1\n\n\n\n\nb = 2\n", "a = 1\n\n\nb = 2\n"),
        ("a = 1\n\n\nb = 2\n", "a = 1\n\n\nb = 2\n"),
        ("a = 1\n\n\n\n# about b\n\n\n\nb = 2\n", "a = 1\n\n\n# about b\n\n\nb = 2\n"),
        ('a = """\n\n\n\n"""\nb = 2\n', 'a = """\n\n\n\n"""\nb = 2\n'),
        ("def f():\n    a = 1\n\n\n\n    return a\n", "def f():\n    a = 1\n\n\n\n    return a\n"),
    ],
)
def test_between_top_level_statements(text, expected):
    assert moved(text, Tidy(SCRIPT))["script.py"] == expected
    assert is_untidy(program_of(text), SCRIPT) is (text != expected)
