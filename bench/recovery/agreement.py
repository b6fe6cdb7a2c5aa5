"""How far two groupings of the same things agree."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Hashable, Mapping
from math import comb

Grouping = Mapping[str, Hashable]


def adjusted_rand(one: Grouping, other: Grouping) -> float:
    """The adjusted Rand index: 1 for equal groupings, 0 on average for random ones.

    L. Hubert, P. Arabie, "Comparing partitions", Journal of Classification 2, 1985.
    """
    things = list(one)
    pairs = sum(comb(n, 2) for n in Counter((one[t], other[t]) for t in things).values())
    first = sum(comb(n, 2) for n in Counter(one[t] for t in things).values())
    second = sum(comb(n, 2) for n in Counter(other[t] for t in things).values())
    expected = first * second / comb(len(things), 2)
    most = (first + second) / 2
    return 1.0 if most == expected else (pairs - expected) / (most - expected)


def mojo_fm(found: Grouping, wanted: Grouping) -> float:
    """MoJoFM: 1 less the moves and joins from the found grouping to the wanted one, over the most there could be.

    Z. Wen, V. Tzerpos, "An effectiveness measure for software clustering algorithms", IWPC 2004.
    """
    overlaps: dict[Hashable, Counter[Hashable]] = defaultdict(Counter)
    for thing, group in found.items():
        overlaps[group][wanted[thing]] += 1
    kept = sum(max(counts.values()) for counts in overlaps.values())
    best = {group: [g for g, n in counts.items() if n == max(counts.values())] for group, counts in overlaps.items()}
    joins = len(overlaps) - _most_distinct(best)
    moves = len(found) - kept + joins
    return 1.0 - moves / _most_moves(wanted) if _most_moves(wanted) else 1.0


def _most_distinct(best: Mapping[Hashable, list[Hashable]]) -> int:
    """The size of a largest matching between found groups and the wanted ones that suit them best."""
    taken: dict[Hashable, Hashable] = {}

    def place(group: Hashable, seen: set[Hashable]) -> bool:
        for wish in best[group]:
            if wish not in seen:
                seen.add(wish)
                if wish not in taken or place(taken[wish], seen):
                    taken[wish] = group
                    return True
        return False

    return sum(place(group, set()) for group in best)


def _most_moves(wanted: Grouping) -> int:
    groups = 0
    for size in sorted(Counter(wanted.values()).values()):
        groups += size > groups
    return len(wanted) - groups
