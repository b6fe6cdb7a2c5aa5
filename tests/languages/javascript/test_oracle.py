"""Each name in JavaScript means what JavaScript's own tools say."""

from __future__ import annotations

import pytest

from tests.support.javascript_names import TOOLS, differences, has_tools, theirs
from tests.support.javascript_scopes import write_names

pytestmark = pytest.mark.skipif(not has_tools(), reason="npm has not installed what JavaScript's own tools are")


def test_names_mean_the_same_in_the_tools_themselves():
    own = sorted(path for path in TOOLS.rglob("*.*js") if path.is_file())
    assert len(own) > 10
    assert list(differences(own)) == []


def test_names_mean_the_same_in_random_scripts(tmp_path):
    paths = []
    for seed in range(300):
        paths.append(tmp_path / f"random{seed}.js")
        paths[-1].write_text(write_names(seed))
    answered = [path for path, meant in theirs(paths) if meant is not None]
    assert len(answered) > 200
    assert list(differences(paths)) == []
