"""What is built is what was built: a part of the net; `make net` compares all of it."""

from __future__ import annotations

import json

import pytest

from tests.support.net import NET, digest

_DIGESTS = json.loads(NET.read_text("utf-8"))["digests"]
_SHARE = 20
_OURS = [name for name in _DIGESTS if not name.startswith("field/")]
_CHOSEN = [name for number, name in enumerate(_OURS) if name.startswith("sample/") or number % _SHARE == 0]


@pytest.mark.parametrize("name", _CHOSEN)
def test_the_same_is_built_as_ever(name):
    assert digest(name) == _DIGESTS[name]
