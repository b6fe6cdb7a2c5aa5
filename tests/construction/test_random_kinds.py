"""Scripts written at random in which things of one kind occur: they become classes, and do what they did."""

from __future__ import annotations

import pytest

from tests.support.absences import play_absent, write_absences
from tests.support.kinds import STORES, kinds_found
from tests.support.scripts import outcome


@pytest.mark.parametrize("store", STORES)
@pytest.mark.parametrize("seed", range(9000, 9004))
def test_things_of_one_kind_do_what_they_did(store, seed):
    assert outcome(STORES[store](seed)).startswith("same")


@pytest.mark.parametrize("seed", range(9000, 9006))
def test_what_may_not_be_there_does_what_it_did(seed):
    assert outcome(write_absences(seed), play=play_absent) == "same"


@pytest.mark.parametrize(("store", "share"), [("twins", 0.9), ("columns", 0.6), ("records", 0.6), ("rows", 0.3)])
def test_most_kinds_are_found(store, share):
    found = [kinds_found(STORES[store](seed), [store]) > 0 for seed in range(9000, 9016)]
    assert sum(found) >= share * len(found)
