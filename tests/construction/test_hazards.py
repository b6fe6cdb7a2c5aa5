"""Scripts in which something lies in wait, written at random: they are built and do the same, or refused."""

from __future__ import annotations

import pytest

from tests.support.hazards import HAZARDS, play_apart, write_hazards
from tests.support.scripts import outcome


@pytest.mark.parametrize("seed", range(14))
def test_a_drafted_design_keeps_what_lies_in_wait(seed):
    assert outcome(write_hazards(seed), play=play_apart).startswith(("same", "refused"))


@pytest.mark.parametrize("name", HAZARDS)
@pytest.mark.parametrize("seed", range(7000, 7004))
def test_each_hazard_for_itself(name, seed):
    assert outcome(write_hazards(seed, [name]), play=play_apart).startswith(("same", "refused"))


def test_most_are_built():
    ends = [outcome(write_hazards(seed), play=play_apart) for seed in range(200, 230)]
    assert ends.count("same") > 20
