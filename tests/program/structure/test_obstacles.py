"""Why a variable or a function cannot be moved, whatever move it is."""

from __future__ import annotations

import pytest

from aedifex.program.structure.obstacles import function_obstacles, is_bound_again, variable_obstacles
from tests.support.helpers import module_of


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("x = 1\n", None),
        ("def x():\n    pass\n", "is not a variable"),
        ("x = 1\nimport x\n", "bound both"),
        ("if (x := ask()):\n    pass\n", "where no field can stand"),
        ("try:\n    f()\nexcept OSError as x:\n    pass\n", "where no field can stand"),
        ("x = 1\nprint(f'{x=}')\n", None),
        ("x = {}\nprint(f'{x[\"a\"]=}')\n", "shows its own text"),
        ("x = 1\nprint(globals())\n", "globals"),
    ],
)
def test_variables(text, reason):
    module = module_of(text)
    found = variable_obstacles(module, module.scope.symbols["x"])
    assert (found == []) if reason is None else any(reason in obstacle.reason for obstacle in found)


def test_a_builtin_that_is_read_first_is_still_meant():
    module = module_of("print(max)\nmax = 3\n")
    assert "still mean the builtin" in variable_obstacles(module, module.scope.symbols["max"])[0].reason


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("def f():\n    pass\n", None),
        ("if ask():\n    def f():\n        pass\n", "inside another statement"),
        ("def f():\n    pass\ndef f():\n    return 1\n", "more than once"),
        ("@timed\ndef f():\n    pass\n", "is decorated"),
        ("def f(self):\n    return self\n", "uses the name `self`"),
        ("def f():\n    pass\nprint(f.count)\n", "an attribute of the function"),
        ("def f():\n    return __hidden\n", "something else inside a class"),
        ("def f():\n    pass\neval('f()')\n", "eval"),
    ],
)
def test_functions(text, reason):
    module = module_of(text)
    found = function_obstacles(module, module.function("f"))
    assert (found == []) if reason is None else any(reason in obstacle.reason for obstacle in found)


def test_a_star_import_binds_again_only_where_its_value_was_seen():
    module = module_of("from math import *\ndef floor(x):\n    return x\n")
    assert not is_bound_again(module.scope.symbols["floor"])
    module = module_of("from math import *\nfloor(1)\ndef floor(x):\n    return x\n")
    assert is_bound_again(module.scope.symbols["floor"])
