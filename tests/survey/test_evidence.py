"""What speaks for things belonging together."""

from __future__ import annotations

from itertools import combinations

from aedifex.design.drafting.naming import ACTION_WORDS, ATTRIBUTE_WORDS
from aedifex.survey.evidence import Evidence
from tests.support.helpers import module_of


def weights(text: str) -> dict[frozenset[str], float]:
    module = module_of(text)
    variables = [s for s in module.symbols if "_" in s.name and s.name[0] not in "fg"]
    evidence = Evidence(module, variables, ATTRIBUTE_WORDS, ACTION_WORDS)
    nodes = list(evidence.edges)
    return {
        frozenset((one.name, other.name)): evidence.edges[one].get(other, 0.0) for one, other in combinations(nodes, 2)
    }


def test_edges_are_the_same_in_both_directions():
    module = module_of("kite_x = 0\nkite_y = kite_x\n\n\ndef f():\n    global kite_x\n    kite_x = kite_y\n\n\nf()\n")
    edges = Evidence(module, module.symbols[:2], ATTRIBUTE_WORDS, ACTION_WORDS).edges
    assert all(edges[other][one] == weight for one in edges for other, weight in edges[one].items())


def test_writing_says_more_than_reading():
    found = weights("q_one = 0\n\nr_two = 0\ndef f():\n    global q_one\n    q_one = r_two\n")
    assert found[frozenset(("f", "q_one"))] > found[frozenset(("f", "r_two"))] > 0


def test_a_function_that_touches_many_says_less_of_each():
    few = weights("q_one = 0\ndef f():\n    global q_one\n    q_one = 1\n")
    many = weights("q_one = 0\nr_two = 0\ns_three = 0\ndef f():\n    global q_one\n    q_one = r_two + s_three\n")
    assert few[frozenset(("f", "q_one"))] > many[frozenset(("f", "q_one"))]


def test_a_rare_word_says_more_than_a_common_one():
    found = weights("kite_a = 0\n\n\nkite_b = 0\n\n\nboat_a = 0\n\n\nboat_b = 0\n\n\nboat_c = 0\n\n\nboat_d = 0\n")
    assert found[frozenset(("kite_a", "kite_b"))] > found[frozenset(("boat_a", "boat_d"))] > 0
    assert found[frozenset(("kite_a", "boat_a"))] == 0


def test_words_that_only_describe_say_nothing():
    found = weights("kite_speed = 0\n\n\nboat_speed = 0\n")
    assert found[frozenset(("kite_speed", "boat_speed"))] == 0


def test_what_stands_together_belongs_together_a_little():
    found = weights("q_one = 0\nr_two = 0\n\ns_three = 0\n\n\nt_four = 0\n")
    near, blank, far = (frozenset(p) for p in (("q_one", "r_two"), ("r_two", "s_three"), ("s_three", "t_four")))
    assert found[near] > found[blank] > found[far] == 0
