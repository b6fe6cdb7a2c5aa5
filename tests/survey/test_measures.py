"""The figures of small programs that can be counted by hand."""

from __future__ import annotations

import pytest

from aedifex.program.analysis.effects import Effects
from aedifex.survey.measures import Part, complexity, coupling, lack_of_cohesion, tight_cohesion, whole_script
from tests.support.helpers import module_of

TEXT = """
a = 0
b = 0
c = 0
def one():
    global a, b
    a += 1
    b += 1
def two():
    global b
    b += 1
def three():
    global c
    c += 1
    two()
while c < 3:
    three()
"""


@pytest.fixture
def module():
    return module_of(TEXT)


def part(module, fields, routines):
    scope = module.scope.symbols
    return Part(frozenset(scope[f] for f in fields), tuple(module.function(r) for r in routines))


def test_tight_cohesion_counts_pairs_with_a_field_in_common(module):
    effects = Effects.of(module)
    assert tight_cohesion(effects, part(module, "abc", ["one", "two", "three"])) == pytest.approx(1 / 3)
    assert tight_cohesion(effects, part(module, "ab", ["one", "two"])) == 1
    assert tight_cohesion(effects, part(module, "ab", ["one"])) is None


def test_lack_of_cohesion_is_nothing_where_all_use_all(module):
    effects = Effects.of(module)
    assert lack_of_cohesion(effects, part(module, "b", ["one", "two"])) == 0
    assert lack_of_cohesion(effects, part(module, "abc", ["one", "two", "three"])) == pytest.approx((3 - 4 / 3) / 2)
    assert lack_of_cohesion(effects, part(module, "", ["one", "two"])) is None


def test_coupling_counts_other_parts_once(module):
    effects = Effects.of(module)
    first, second = part(module, "ab", ["one", "two"]), part(module, "c", ["three"])
    assert coupling(effects, first, [first, second]) == 0
    assert coupling(effects, second, [first, second]) == 1


def test_the_whole_script_is_one_part(module):
    whole = whole_script(module)
    assert {symbol.name for symbol in whole.fields} == {"a", "b", "c"}
    assert len(whole.routines) == 4
    assert whole.routines[-1] is None


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("print(1)", 1),
        ("if a:\n    pass\nelif b:\n    pass\nelse:\n    pass", 3),
        ("while a:\n    for b in c:\n        pass", 3),
        ("try:\n    pass\nexcept A:\n    pass\nexcept B:\n    pass\nfinally:\n    pass", 3),
        ("def f():\n    if a:\n        pass", 1),
        ("match a:\n    case 1:\n        pass\n    case 2:\n        pass", 3),
    ],
)
def test_complexity_is_one_more_than_the_decisions(text, expected):
    assert complexity(module_of(text).block.statements) == expected
