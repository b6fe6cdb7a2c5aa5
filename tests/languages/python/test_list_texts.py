"""Texts of lists in which the same stands again and again."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from aedifex.languages.python.stage.list_texts import text_of_list

LISTS = st.lists(st.lists(st.sampled_from([0, 1]), max_size=2), max_size=3).map(
    lambda runs: [x for x in runs for _ in range(4)]
)


@given(LISTS)
def test_the_text_makes_the_list_anew(value):
    shared = eval(text_of_list([*map(repr, value)], is_shared=True))
    own = eval(text_of_list([*map(repr, value)], is_shared=False))
    assert shared == own == value
    assert len({*map(id, own)}) == len(own)


def test_what_stands_there_often_is_written_once():
    assert text_of_list(["0"] * 9 + ["1", "2"], is_shared=True) == "[0] * 9 + [1, 2]"
    assert text_of_list(["[0]"] * 6, is_shared=False) == "[[0] for _ in range(6)]"
    assert text_of_list([], is_shared=True) == "[]"
