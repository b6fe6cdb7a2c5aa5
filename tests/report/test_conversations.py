"""Conversations for tests: no more is typed than tells something."""

from __future__ import annotations

from collections.abc import Sequence

from hypothesis import given
from hypothesis import strategies as st

from aedifex.report.conversations import shortened


def quay(lines: Sequence[str]) -> list[str]:
    """What a program says that counts those who come, and stops at `close`."""
    said, count = ["> "], 0
    for line in lines:
        word, *rest = line.split() or [""]
        if word == "close":
            return [*said, "closed"]
        if word == "come" and rest and rest[0].isdigit():
            count += int(rest[0])
            said.append(f"{count} wait\n> ")
        elif word == "dry":
            said.append("> ")
        else:
            said.append("come N, dry or close\n> ")
    return said


def test_what_is_answered_as_before_is_not_typed_again():
    assert shortened(["x", "come 2", "y", "dry", "", "dry", "come 3", "z", "come 4"], quay) == (
        "x",
        "come 2",
        "dry",
        "come 3",
        "come 4",
    )


def test_no_more_words_are_typed_than_it_takes():
    assert shortened(["come 2 reed bed", "dry a", "x 1 2", "close now"], quay) == ("come 2", "dry", "x", "close")


def test_what_is_never_read_is_not_typed():
    assert shortened(["close", "come 2"], quay) == ("close",)


@given(st.lists(st.sampled_from(["come 1", "come 22 x", "dry", "dry b", "x", "", "close"]), max_size=30))
def test_each_way_to_answer_is_still_among_them(lines):
    ways = {answer.lstrip("0123456789") for answer in quay(lines)}
    assert {answer.lstrip("0123456789") for answer in quay(shortened(lines, quay))} == ways
