"""Random scripts that decide outside of their objects do the same when the objects answer."""

from __future__ import annotations

import pytest

from aedifex.construction.propose import propose
from tests.support.helpers import program_of
from tests.support.scripts import outcome
from tests.support.stories import write_story


@pytest.mark.parametrize("seed", range(8))
def test_stories_are_told_the_same(seed):
    assert outcome(write_story(seed)) == "same"


def test_what_stories_are_written_for_is_found():
    designs = [propose(program_of(write_story(seed))) for seed in range(20, 26)]
    assert all(any(plan.questions for plan in design.all_classes) for design in designs)
    assert any(design.constants for design in designs) and any(design.texts for design in designs)
