from __future__ import annotations

import pytest

from aedifex.survey.words import nouns_of, singular, words_of


@pytest.mark.parametrize(
    ("name", "words"),
    [
        ("ferry_x", ["ferry", "x"]),
        ("ferryX", ["ferry", "x"]),
        ("xFerry", ["x", "ferry"]),
        ("FERRY_X", ["ferry", "x"]),
        ("kite2_pull", ["kite", "2", "pull"]),
        ("HTTPServer", ["http", "server"]),
        ("_", []),
        ("größe", ["gr", "öß", "e"]),
    ],
)
def test_words_of_names(name, words):
    assert words_of(name) == words


@pytest.mark.parametrize(
    ("plural", "one"),
    [
        ("kites", "kite"),
        ("ferries", "ferry"),
        ("boxes", "box"),
        ("branches", "branch"),
        ("glass", "glass"),
        ("bus", "bus"),
        ("status", "status"),
        ("is", "is"),
    ],
)
def test_singular(plural, one):
    assert singular(plural) == one


def test_numbers_are_no_nouns():
    assert nouns_of("kite2_loads") == ["kite", "load"]
