"""Scripts written at random, built by drafted and by random designs: they print what they printed."""

from __future__ import annotations

import random

import pytest

from tests.support.carving import carved
from tests.support.parting import parted
from tests.support.repeats import gathered, write_repeats
from tests.support.scripts import outcome, write_classes, write_script, write_whole
from tests.support.sections import write_sections


@pytest.mark.parametrize("seed", range(6))
def test_a_drafted_design_changes_nothing(seed):
    assert outcome(write_script(seed)).startswith(("same", "refused: no variable is shared"))


@pytest.mark.parametrize("seed", range(1000, 1006))
def test_a_random_design_is_refused_or_changes_nothing(seed):
    assert outcome(write_script(seed), random.Random(seed)).startswith(("same", "refused"))


@pytest.mark.parametrize("seed", range(2000, 2005))
def test_a_script_that_is_one_function_is_built_too(seed):
    assert outcome(write_whole(seed)).startswith(("same", "refused: no variable is shared"))


@pytest.mark.parametrize("seed", range(5000, 5005))
def test_a_script_with_a_class_of_its_own_is_built_too(seed):
    assert outcome(write_classes(seed)).startswith(("same", "refused"))


def test_scripts_with_classes_are_mostly_built():
    ends = [outcome(write_classes(seed)) for seed in range(5000, 5016)]
    assert ends.count("same") > 12


@pytest.mark.parametrize("seed", range(7000, 7005))
def test_a_script_with_a_class_in_sections_is_built_too(seed):
    assert outcome(write_sections(seed)).startswith(("same", "refused: no variable is shared"))


@pytest.mark.parametrize("seed", range(3000, 3007))
def test_carving_changes_nothing(seed):
    assert carved(write_script(seed), random.Random(seed)).startswith(("same", "refused"))


@pytest.mark.parametrize("seed", range(8000, 8005))
def test_what_stands_in_several_places_may_stand_in_one(seed):
    text = write_repeats(seed)
    assert gathered(text, random.Random(seed)).startswith(("same", "refused"))
    assert carved(text, random.Random(seed), 6).startswith(("same", "refused"))
    assert outcome(text).startswith(("same", "refused: no variable is shared"))


def test_random_statements_are_mostly_carved():
    ends = [carved(write_script(seed), random.Random(seed)) for seed in range(3000, 3026)]
    assert ends.count("same") > 25


@pytest.mark.parametrize("seed", range(4000, 4005))
def test_parting_a_class_changes_nothing(seed):
    assert parted(write_script(seed), random.Random(seed)).startswith(("same", "refused"))


def test_classes_are_mostly_parted():
    ends = [parted(write_script(seed), random.Random(seed)) for seed in range(4000, 4026)]
    assert ends.count("same") > 20


def test_random_designs_are_mostly_built():
    ends = [outcome(write_script(seed), random.Random(seed)) for seed in range(1000, 1026)]
    assert ends.count("same") > 10
