"""Going through a draft in the terminal."""

from __future__ import annotations

import sys
import tomllib
from pathlib import Path

import pytest

from aedifex.demo import samples


@pytest.fixture
def ask(cli, tmp_path):
    sample = next(iter(Path(sys.modules["aedifex.demo"].__file__).parent.glob("ferry/*.py")))
    (tmp_path / sample.name).write_bytes(sample.read_bytes())

    def run(*answers: str):
        done = cli("draft", sample.name, "--ask", typed="\n".join(answers) + "\n")
        design = tmp_path / "cable_ferry.design.toml"
        plans = tomllib.loads(design.read_text())["class"] if design.exists() else []
        return done, {plan["name"]: plan for plan in plans}

    return run


def test_the_sample_is_there():
    assert "ferry" in samples()


def test_accepting_all_changes_nothing(ask):
    done, plans = ask("accept", "done")
    assert done.returncode == 0
    assert list(plans) == ["Ferry", "Tide", "Queue"]


def test_a_class_is_renamed_merged_and_split(ask):
    done, plans = ask("name Boat", "accept", "merge Queue", "split Losses lost", "done")
    assert done.returncode == 0
    assert list(plans) == ["Boat", "Tide", "Losses"]
    assert plans["Boat"]["instances"] == ["boat"]
    assert plans["Boat"]["file"] == "boat.py"
    assert {field["from"] for field in plans["Tide"]["fields"]} >= {"tide", "queue"}
    assert [field["from"] for field in plans["Losses"]["fields"]] == ["queue_lost"]
    assert done.stdout.count("tight class cohesion") == 4


def test_members_move_and_classes_go(ask):
    _, plans = ask("move move owner", "move trips owner", "accept", "drop", "done")
    assert list(plans) == ["Ferry", "Queue"]
    assert "ferry_trips" not in {field["from"] for field in plans["Ferry"]["fields"]}


@pytest.mark.parametrize(
    ("answer", "words"),
    [
        ("fly", "not understood"),
        ("move nothing owner", "no member"),
        ("merge Ferry", "itself"),
        ("merge Nobody", "no class"),
        ("name class", "cannot be used"),
        ("name Tide", "given twice"),
        ("move wear Tide", "may change"),
        ("?", "keep the class"),
    ],
)
def test_what_cannot_be_done_is_said_and_changes_nothing(ask, answer, words):
    done, plans = ask(answer, "done")
    assert words in done.stdout
    assert list(plans) == ["Ferry", "Tide", "Queue"]


def test_stopping_writes_nothing(ask):
    done, plans = ask("accept")
    assert done.returncode == 130
    assert plans == {}
