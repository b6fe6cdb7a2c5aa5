"""A routine that is the whole program, and whose name and heading others rely on."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Enclosed:
    """What has been taken away around the body of such a routine while its body stands at the top level.

    `heading` is its text up to its body, decorators included, and `closing` the top-level code that uses it; `names`
    are the names that either of them mentions. `given` tells under which name each parameter's value stands in the
    meantime.
    """

    name: str
    heading: str
    closing: str
    names: frozenset[str]
    given: tuple[tuple[str, str], ...] = ()
    gives_value: bool = False
    is_async: bool = False
