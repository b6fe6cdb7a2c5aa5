"""Random scripts that decide outside of their objects do the same when the objects answer."""

from __future__ import annotations

import pytest

from aedifex.construction.propose import propose
from tests.support.errands import write_errand
from tests.support.hazards import play_apart
from tests.support.helpers import program_of
from tests.support.scripts import outcome
from tests.support.stories import write_story


@pytest.mark.parametrize("seed", range(6))
def test_stories_are_told_the_same(seed):
    assert outcome(write_story(seed)) == "same"


def test_what_stories_are_written_for_is_found():
    designs = [propose(program_of(write_story(seed))) for seed in range(20, 26)]
    assert all(any(plan.questions for plan in design.all_classes) for design in designs)
    assert any(design.constants for design in designs) and any(design.texts for design in designs)


@pytest.mark.parametrize("seed", range(4))
def test_errands_do_the_same(seed):
    assert outcome(write_errand(seed), play=play_apart) == "same"


def test_objects_do_their_part_of_errands():
    designs = [propose(program_of(write_errand(seed))) for seed in range(16)]
    answering = [m for design in designs for plan in design.kinds for m in plan.methods if m.answers]
    assert len(answering) >= 5 and all(m.lines is not None for m in answering)
