"""What stands in several places with other arguments is one function where they could as well be passed in."""

from __future__ import annotations

import pytest

from aedifex.design.dividing.repeats import repeats
from tests.support.drawings import write_drawings
from tests.support.helpers import module_of
from tests.support.several_files import outcome_of_files

DRAW = """
    import board

    screen = board.Board()
    score = 3


    def total():
        return score * 2


    def told():
        print("told")
        return score


    def top(row):
        screen.attron(1)
        screen.addstr({0})
        screen.attroff(1)


    def end(row):
        screen.attron(1)
        screen.addstr({1})
        screen.attroff(1)


    top(1)
    end(2)
    """


def found(first: str, second: str) -> list[tuple[str, ...]]:
    module = module_of(DRAW.format(first, second))
    return [
        tuple(module.source.slice(repeat.values[0][place]) for hole in repeat.holes for place in hole)
        for repeat in repeats(module)
    ]


@pytest.mark.parametrize(
    "second",
    ['2, 4, "%d" % score', "row, 4, total()", "row + 1, 4, str(score)", "2, len('ab'), f'{score}'", "-1, 0, None"],
)
def test_what_only_looks_can_be_passed_in(second):
    assert [len(values) > 0 for values in found("1, 9, 'quay'", second)] == [True]


@pytest.mark.parametrize(
    "second",
    ["2, 4, told()", "2, 4, [score]", "2, 4, (last := 3)", "2, 4, lambda: 3", "2, 4, sum(n for n in (1, 2))", "*row"],
)
def test_what_does_more_stays_where_it_is(second):
    assert found("1, 9, 'quay'", second) == []


def test_behind_what_is_seen_nothing_may_fail():
    text = DRAW.replace("attron(1)", "addstr(0, 0, 'now')")
    module = module_of(text.format("1, 9, 'quay'", "2, 4, 'x' * score"))
    assert not repeats(module)
    assert repeats(module_of(text.format("1, 9, 'quay'", "2, 4, score")))


def test_own_classes_that_the_language_calls_keep_all_in_place():
    shown = "\n\n\n    class Boat:\n        def __str__(self):\n            return told()\n"
    text = DRAW.replace("score = 3\n", f"score = 3{shown}")
    assert not repeats(module_of(text.format("1, 9, 'quay'", "2, 4, str(score)")))


@pytest.mark.parametrize("seed", range(5))
def test_drawings_are_the_same(seed):
    assert outcome_of_files(write_drawings(seed)) == "same, apart"
