"""Some statements that could become a method."""

from __future__ import annotations

from dataclasses import dataclass

from aedifex.design.document.design import ClassPlan


@dataclass(frozen=True)
class Candidate:
    """Some statements that could become a method: of a class, or of the owner where `plan` is None.

    `routine` is where they stand, `first` and `last` are lines of the script as it was read; the first of `names` that
    is free is the method's. It is worth the while only as long as what it is to shorten, the lines `around` it, has
    more than `limit` lines left; `is_outermost` says that it must not lie in another one. `values` are parameters for
    the plain values in which what is written alike elsewhere differs.
    """

    plan: ClassPlan | None
    routine: str
    first: int
    last: int
    names: tuple[str, ...]
    around: tuple[int, int] = (0, 0)
    limit: int = 0
    is_outermost: bool = False
    values: tuple[str, ...] = ()

    def lies_across(self, other: Candidate) -> bool:
        """Whether two overlap, and neither lies inside the other."""
        is_apart = self.last < other.first or other.last < self.first
        return not is_apart and not self.holds(other) and not other.holds(self)

    def holds(self, other: Candidate) -> bool:
        """Whether another lies inside it, and is smaller."""
        return self.first <= other.first and other.last <= self.last and not self.is_same(other)

    def is_same(self, other: Candidate) -> bool:
        """Whether two are made of the same lines."""
        return (self.first, self.last) == (other.first, other.last)
