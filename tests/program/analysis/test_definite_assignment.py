"""What certainly has a value, on every way."""

from __future__ import annotations

import pytest

from aedifex.program.analysis.definite_assignment import bound_before, certainly_assigns
from tests.support.helpers import module_of


@pytest.mark.parametrize(
    ("text", "is_certain"),
    [
        ("x = 1", True),
        ("x: int", False),
        ("if f():\n    x = 1", False),
        ("if f():\n    x = 1\nelse:\n    x = 2", True),
        ("if f():\n    x = 1\nelif g():\n    pass\nelse:\n    x = 2", False),
        ("for x in f():\n    pass", False),
        ("while f():\n    x = 1", False),
        ("with f() as x:\n    pass", True),
        ("try:\n    x = 1\nexcept OSError:\n    pass", False),
        ("try:\n    x = 1\nexcept OSError:\n    x = 2", True),
        ("try:\n    f()\nfinally:\n    x = 1", True),
        ("def x():\n    pass", True),
        ("import x", True),
        ("print(x := 1)", False),
    ],
)
def test_on_every_way_to_the_end(text, is_certain):
    module = module_of(f"{text}\n")
    assert certainly_assigns(module.block.statements, module.scope.symbols["x"]) is is_certain


def test_a_side_that_leaves_needs_no_value():
    module = module_of("def f():\n    if g():\n        x = 1\n    else:\n        return\n    return x\n")
    function = module.function("f")
    assert bound_before(function.body.statements[1], function.scope.symbols["x"])


@pytest.mark.parametrize(
    ("body", "is_bound"),
    [
        ("    x = 1\n    if g():\n        use(x)\n", True),
        ("    if g():\n        use(x)\n    x = 1\n", False),
        ("    for x in g():\n        use(x)\n", True),
        ("    x = 1\n    del x\n    use(x)\n", False),
    ],
)
def test_before_a_statement_begins(body, is_bound):
    module = module_of(f"def f():\n{body}")
    function = module.function("f")
    use = next(s for s in module.walk() if any(r.name == "use" for r in s.references) and not s.blocks)
    assert bound_before(use, function.scope.symbols["x"]) is is_bound


def test_a_parameter_always_has_a_value():
    module = module_of("def f(x):\n    return x\n")
    function = module.function("f")
    assert bound_before(function.body.statements[0], function.scope.symbols["x"])
