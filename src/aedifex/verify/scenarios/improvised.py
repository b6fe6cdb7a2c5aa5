"""Lines that are made up while a program runs, and what is learnt from that for the next run."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field
from typing import Any


@dataclass(frozen=True)
class Improvised:
    """The orders of one that types in a run: `most` lines, then, if he `leaves`, those known to end it well.

    `words`, `choices` and `numbers` are the script's own (see `Inputs`). `heard` is what was asked of typed lines in
    earlier runs, as the stage of the language notes it. One that `is_bold` also types what ended a run before.
    """

    most: int
    seed: int
    is_bold: bool = False
    leaves: bool = True
    words: tuple[str, ...] = ()
    choices: tuple[str, ...] = ()
    numbers: tuple[int, ...] = ()
    heard: Mapping[str, Any] = field(default_factory=dict)

    def as_plan(self) -> dict[str, Any]:
        """For the stage."""
        return asdict(self)


def joined(one: Mapping[str, Any], two: Mapping[str, Any]) -> dict[str, Any]:
    """What was heard in either of two runs."""
    found = dict(one)
    for key, value in two.items():
        found[key] = _joined(one[key], value) if key in one else value
    return found


def _joined(one: Any, two: Any) -> Any:
    if isinstance(one, Mapping):
        return joined(one, two)
    if isinstance(one, list):
        return [*one, *(each for each in two if each not in one)]
    return max(one, two)
