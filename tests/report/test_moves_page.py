"""The page of the moves is the one that they make."""

from __future__ import annotations

from pathlib import Path

from aedifex.moves.registry import descriptions
from aedifex.report.moves_page import moves_page

_PAGE = Path(__file__).parents[2] / "docs" / "moves.md"


def test_the_page_is_up_to_date():
    assert _PAGE.read_text("utf-8") == moves_page(descriptions())


def test_each_move_is_on_it():
    text = moves_page(descriptions())
    for description in descriptions():
        assert description.name in text
