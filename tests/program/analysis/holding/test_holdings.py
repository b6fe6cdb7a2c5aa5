"""Which places may hold the same objects, where these get lost, and where there may be none."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from aedifex.program.analysis.holding.absence import Absence
from aedifex.program.analysis.holding.holding import Holding, join
from aedifex.program.analysis.holding.inference import Holdings
from tests.support.helpers import module_of

_MADE = "def make(n):\n    return {'x': n, 'y': 2}\n\n\nthing = make(1)\n"


def holders(text: str) -> set[str]:
    """The names that may hold what `thing` holds."""
    module = module_of(text)
    holding = Holdings.of(module).of_symbol(module.scope.symbols["thing"])
    return {symbol.name for symbol in holding.symbols} - {"thing"}


@pytest.mark.parametrize(
    ("flow", "names"),
    [
        ("other = thing", {"other"}),
        ("things = [thing]\nfor one in things:\n    print(one['x'])", {"one"}),
        ("def use(it):\n    print(it['x'])\nuse(thing)", {"it"}),
        ("def use(it):\n    print(it['x'])\nuse(it=thing)", {"it"}),
        ("by = {'a': thing}\nfor key, one in by.items():\n    print(key, one['x'])", {"one"}),
        ("by = {'a': thing}\nfor key in by:\n    one = by[key]", {"one"}),
        ("pair = thing, 1\none, number = pair", {"one"}),
        ("things = []\nthings.append(thing)\none = max(things, key=lambda it: it['x'])", {"one", "it"}),
        ("one = thing if 1 else None", {"one"}),
        ("one = next((it for it in [thing] if it['x']), None)", {"one", "it"}),
        ("class Box:\n    def __init__(self, it):\n        self.it = it\none = Box(thing).it", {"one", "it"}),
        ("for number, one in enumerate([thing]):\n    pass", {"one"}),
        ("number = thing['x']", set()),
        ("text = f\"{thing['x']}\"", set()),
    ],
)
def test_what_flows_together(flow, names):
    assert holders(_MADE + flow) == names


@pytest.mark.parametrize(
    ("use", "is_lost"),
    [
        ("print(thing['x'])", False),
        ("print(thing)", True),
        ("print([thing])", True),
        ("import json\njson.dump({'a': [thing]}, open('f', 'w'))", True),
        ("unknown(thing)", True),
        ("f'{thing}'", True),
        ("thing['x'] += 1", False),
        ("len([thing])", False),
        ("lambda: thing['x']", False),
        ("later = lambda: thing\nunknown(later)", True),
    ],
)
def test_what_gets_lost(use, is_lost):
    module = module_of(_MADE + use)
    assert (Holdings.of(module).of_symbol(module.scope.symbols["thing"]).lost is not None) is is_lost


@pytest.mark.parametrize(
    ("text", "may"),
    [
        ("def find():\n    return {'x': 1}\none = find()", False),
        ("def find(n):\n    if n:\n        return {'x': 1}\none = find(2)", True),
        ("def find(n):\n    if n:\n        return {'x': 1}\n    else:\n        return {'x': 2}\none = find(2)", False),
        ("one = {'x': 1}\nif 2:\n    one = None", True),
        ("things = [{'x': 1}, None]\nfor one in things:\n    pass", True),
        ("things = [{'x': 1}]\nfor one in things:\n    pass", False),
        ("by = {}\none = by.get('k')", True),
        ("find = lambda: None\none = find()", True),
        ("find = lambda: {'x': 1}\none = find()", False),
        ("by = {}\none = by.pop('k', None)", True),
        ("things = [{'x': 1}]\none = max(things, key=lambda it: it['x'], default=None)", True),
        ("things = [{'x': 1}]\none = max(things, key=lambda it: it['x'])", False),
        ("things = [{'x': 1}]\none = next((it for it in things), None)", True),
        ("by = {}\none = by.get('k', {'x': 1})", False),
    ],
)
def test_where_there_may_be_nothing(text, may):
    module = module_of(text)
    assert (module.scope.symbols["one"] in Absence.of(module).symbols) is may


_JOINS = st.lists(st.tuples(st.integers(0, 9), st.integers(0, 9), st.sampled_from(["", "key:x", "*"])), max_size=30)


@given(_JOINS, st.randoms())
def test_the_order_of_joining_does_not_matter(joins, chance):
    def partition(order):
        made = [Holding() for _ in range(10)]
        for left, right, part in order:
            one, other = made[left], made[right]
            if part == "*":
                join(one.now.any_element(), other.now.any_element())
            elif part:
                join(one.now.part(part), other.now.part(part))
            else:
                join(one, other)
        return [[made[a].now is made[b].now for a in range(10)] for b in range(10)]

    other = list(joins)
    chance.shuffle(other)
    assert partition(joins) == partition(other)
