"""What the test of a call asserts, of all that came of it."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence

from aedifex.program.dialect.testing import Played, TestedCall, TestedClass

_FEW = 8
_FEW_MOVING = 2
_ANYTHING = re.compile(r"\bANY\b")


def is_known(text: str) -> bool:
    """Whether a text makes a value anew, and does not stand for anything."""
    return not _ANYTHING.search(text)


def known_fields(played: Played) -> dict[str, str]:
    """The fields whose values can be told."""
    return {name: text for name, text in played.after.items() if is_known(text)}


def shows_all(played: Played) -> bool:
    """Whether all fields can be told, and are few enough to be asserted at once."""
    return len(known_fields(played)) == len(played.after) <= _FEW


def fields_to_assert(played: Played, moving: Collection[str]) -> dict[str, str]:
    """Of many fields those that changed; where none did, those that are `moving` otherwise."""
    known = known_fields(played)
    names = played.changed or [name for name in played.after if name in moving]
    return {name: known[name] for name in names if name in known}


def moving_fields(tested: TestedClass) -> Collection[str]:
    """The fields that the calls of a class change, where they are few."""
    moving = frozenset(name for call in tested.calls for name in call.played.changed)
    return moving if len(moving) <= _FEW_MOVING else frozenset()


def calls_by_method(tested: TestedClass) -> Mapping[str, Sequence[TestedCall]]:
    """The calls of each method of a class."""
    found: dict[str, list[TestedCall]] = defaultdict(list)
    for call in tested.calls:
        found[call.method].append(call)
    return found
