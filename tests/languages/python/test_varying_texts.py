"""Texts that differ in one number or word become one text that shows it."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from aedifex.languages.python.varying_texts import varying_text


@pytest.mark.parametrize(
    ("literals", "expected"),
    [
        (['"lift 1 opens"', '"lift 2 opens"'], ('f"lift {', '} opens"', ("1", "2"), True)),
        (["'Team 10'", "'Team 11'", "'Team 2'"], ("f'Team {", "}'", ("10", "11", "2"), True)),
        (['"red wins"', '"blue wins"'], ('f"{', '} wins"', ('"red"', '"blue"'), False)),
        (['"lift1"', '"lift2"'], None),
        (['"a {x} 1"', '"a {x} 2"'], None),
        (['"lift 01"', '"lift 02"'], None),
        (['"one of 1"', "'one of 2'"], None),
        (['"1 of 3"', '"2 of 4"'], None),
        (['"red"', '"blue"'], None),
        (["3", "4"], None),
    ],
)
def test_how_texts_vary(literals, expected):
    found = varying_text(literals)
    assert (tuple(found) if found is not None else None) == expected


@given(st.lists(st.from_regex(r"[a-c]{0,3} ?[0-2a]{0,2} ?[a-c]{0,2}", fullmatch=True), min_size=2, max_size=4))
def test_the_one_text_shows_each(texts):
    found = varying_text([repr(text) for text in texts])
    if found is not None:
        assert [eval(f"{found.before}value{found.behind}", {"value": eval(v)}) for v in found.values] == texts
