"""Grouping the nodes of a weighted graph so that what belongs together stands together.

The measure is weighted modularity with a resolution (M. E. J. Newman, "Analysis of weighted networks", Physical Review
E 70, 2004; J. Reichardt, S. Bornholdt, "Statistical mechanics of community detection", Physical Review E 74, 2006): the
weight inside the groups, less what chance would put there. The search moves single nodes while that helps, then whole
groups as if they were nodes, then single nodes again (V. D. Blondel et al., "Fast unfolding of communities in large
networks", Journal of Statistical Mechanics, 2008). It is deterministic: ties go to what comes first.
"""

from __future__ import annotations

from collections.abc import Hashable, Mapping, Sequence
from typing import TypeVar

N = TypeVar("N", bound=Hashable)
_ROUNDS = 20
_LEAST = 1e-9


def clusters(nodes: Sequence[N], edges: Mapping[N, Mapping[N, float]], resolution: float = 1.0) -> list[list[N]]:
    """Groups of nodes, each in the order of `nodes`; the higher the resolution, the smaller they are."""
    number = {node: n for n, node in enumerate(nodes)}
    near = [{number[other]: weight for other, weight in edges[node].items()} for node in nodes]
    group = list(range(len(nodes)))
    while True:
        level = _collapsed(near, group)
        search = _Search(level, list(range(len(level))), resolution)
        search.move()
        joined = [search.group[g] for g in _numbered(group)]
        if len(set(joined)) == len(set(group)):
            break
        group = joined
    last = _Search(near, group, resolution)
    last.move()
    found: dict[int, list[N]] = {}
    for n, node in enumerate(nodes):
        found.setdefault(last.group[n], []).append(node)
    return list(found.values())


def _numbered(group: Sequence[int]) -> list[int]:
    """The same groups, numbered in the order in which they begin."""
    numbers: dict[int, int] = {}
    return [numbers.setdefault(g, len(numbers)) for g in group]


def _collapsed(near: Sequence[Mapping[int, float]], group: Sequence[int]) -> list[dict[int, float]]:
    """The graph of the groups; the weight inside one is an edge to itself."""
    numbers = _numbered(group)
    level: list[dict[int, float]] = [{} for _ in set(numbers)]
    for n, row in enumerate(near):
        for other, weight in row.items():
            a, b = numbers[n], numbers[other]
            level[a][b] = level[a].get(b, 0.0) + weight
    return level


def modularity(groups: Sequence[Sequence[N]], edges: Mapping[N, Mapping[N, float]], resolution: float = 1.0) -> float:
    """The measure of a grouping, between -1 and 1."""
    home = {node: n for n, group in enumerate(groups) for node in group}
    degree = {node: sum(edges[node].values()) for node in home}
    whole = sum(degree.values())
    if whole <= 0:
        return 0.0
    inside = sum(weight for node in home for other, weight in edges[node].items() if home[node] == home.get(other))
    by_chance = sum(sum(degree[node] for node in group) ** 2 for group in groups)
    return inside / whole - resolution * by_chance / whole**2


class _Search:
    """Moves nodes between groups."""

    def __init__(self, near: Sequence[Mapping[int, float]], group: Sequence[int], resolution: float) -> None:
        self.near = near
        self.group = list(group)
        self.degree = [sum(row.values()) for row in near]
        self.chance = resolution / (sum(self.degree) or 1.0)
        self.weight: dict[int, float] = {}
        for n, g in enumerate(self.group):
            self.weight[g] = self.weight.get(g, 0.0) + self.degree[n]

    def move(self) -> None:
        """Move single nodes to where they gain most, until none gains."""
        for _ in range(_ROUNDS):
            if not any([self.move_one(n) for n in range(len(self.near))]):
                return

    def move_one(self, n: int) -> bool:
        """Move one node to the group that gains most; tell whether that is another."""
        here = self.group[n]
        to: dict[int, float] = {here: 0.0}
        for other, weight in self.near[n].items():
            if other != n:
                to[self.group[other]] = to.get(self.group[other], 0.0) + weight
        self.weight[here] -= self.degree[n]
        gains = {g: weight - self.chance * self.degree[n] * self.weight[g] for g, weight in to.items()}
        best = max(gains, key=lambda g: (gains[g], g == here, -g))
        if gains[best] <= gains[here] + _LEAST:
            best = here
        self.group[n] = best
        self.weight[best] += self.degree[n]
        return best != here
