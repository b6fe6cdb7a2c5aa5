"""A routine that is the whole program, and whose name and heading others rely on."""

from __future__ import annotations

from collections.abc import Mapping
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

    @property
    def parameter_of(self) -> Mapping[str, str]:
        """The parameter for each name that stands for what the routine is given."""
        return {value: name for name, value in self.given}
