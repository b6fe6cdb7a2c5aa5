"""What differs is told apart, and what does not is called the same."""

from __future__ import annotations

import os

import pytest

from aedifex.languages.python import DIALECT
from aedifex.verify.compare import Comparison
from aedifex.verify.running.run import Limits
from aedifex.verify.scenarios.scenario import Scenario
from tests.verify.pairs import ALIKE, APART, Pair

TYPED = Scenario(lines=("3 apples", "quit"), turns=20)


def verdict(tmp_path, pair: Pair):
    before, after = tmp_path / "before", tmp_path / "after"
    (tmp_path / "shared.txt").write_text("outside\n")
    for folder, text in ((before, pair.text), (after, pair.other)):
        folder.mkdir()
        (folder / "tide.py").write_text(text + "\n")
    (before / "data.txt").write_text("level 3\n")
    (before / "link.txt").symlink_to("data.txt")
    (before / "out.txt").symlink_to("../shared.txt")
    (before / "locked.txt").write_text("locked\n")
    (before / "locked.txt").chmod(0o444)
    (before / "odd").mkdir()
    for name in (b"two\nlines", b"tab\t", b"\xff\xfe", "été".encode()):
        (before / "odd" / os.fsdecode(name)).write_text("odd")
    comparison = Comparison(before / "tide.py", after / "tide.py", DIALECT.runner, Limits(seconds=10))
    found = comparison.compare([TYPED])
    assert not list((tmp_path / "after").glob("data*"))
    return found


@pytest.mark.parametrize("pair", APART, ids=lambda pair: pair.name)
def test_programs_that_differ_are_told_apart(tmp_path, pair):
    assert verdict(tmp_path, pair).divergence is not None


@pytest.mark.parametrize("pair", ALIKE, ids=lambda pair: pair.name)
def test_programs_that_do_not_differ_are_called_the_same(tmp_path, pair):
    found = verdict(tmp_path, pair)
    assert found.divergence is None, (found.divergence.before, found.divergence.after)
    assert found.entries
