"""Grouping a graph: a partition, never worse than the start, the same each time."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from aedifex.design.drafting.clusters import clusters, modularity

pairs = st.tuples(st.integers(0, 11), st.integers(0, 11), st.floats(0.1, 5))


def graph(edges):
    nodes = list(range(12))
    found = {node: {} for node in nodes}
    for one, other, weight in edges:
        if one != other:
            found[one][other] = found[one].get(other, 0.0) + weight
            found[other][one] = found[one][other]
    return nodes, found


@given(st.lists(pairs, max_size=40), st.sampled_from([0.4, 1.0, 2.0]))
def test_a_grouping_is_a_partition_and_no_worse_than_none(edges, resolution):
    nodes, near = graph(edges)
    groups = clusters(nodes, near, resolution)
    assert sorted(node for group in groups for node in group) == nodes
    alone = modularity([[node] for node in nodes], near, resolution)
    assert modularity(groups, near, resolution) >= alone - 1e-9
    assert clusters(nodes, near, resolution) == groups


@given(st.lists(pairs, max_size=40))
def test_no_single_move_makes_a_grouping_better(edges):
    nodes, near = graph(edges)
    groups = clusters(nodes, near)
    best = modularity(groups, near)
    for node in nodes:
        for target in groups:
            moved = [[n for n in group if n != node] + ([node] if group is target else []) for group in groups]
            assert modularity(moved, near) <= best + 1e-6


def test_two_cliques_with_a_bridge_are_two_groups():
    edges = [(a, b, 1.0) for clique in (range(4), range(4, 8)) for a in clique for b in clique if a < b]
    nodes, near = graph([*edges, (0, 4, 0.5)])
    groups = clusters(nodes[:8], {n: near[n] for n in nodes[:8]})
    assert groups == [[0, 1, 2, 3], [4, 5, 6, 7]]


def test_the_measure_of_a_known_graph():
    """Two triangles joined by one edge: 12 of the 14 edge ends lie inside, and chance would put half of them there."""
    edges = [(0, 1, 1.0), (1, 2, 1.0), (0, 2, 1.0), (3, 4, 1.0), (4, 5, 1.0), (3, 5, 1.0), (2, 3, 1.0)]
    _, near = graph(edges)
    near = {n: near[n] for n in range(6)}
    assert abs(modularity([[0, 1, 2], [3, 4, 5]], near) - (12 / 14 - 0.5)) < 1e-9
