from __future__ import annotations

from pathlib import Path

import pytest

from aedifex.moves.form import Form, NewField
from aedifex.moves.house import House, NewHome
from aedifex.moves.lift import Lift
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed

LIFT = Lift(SCRIPT, "Harbour")


def same(text: str) -> str:
    result = moved(text, LIFT)["script.py"]
    assert printed(result) == printed(text)
    assert printed(result.replace("__main__", "elsewhere")) == ""
    return result


def test_set_up_loop_and_two_line_main():
    result = same(
        '''
        """Doc."""
        import random
        LIMIT = 3
        turn = 0
        def show(n):
            return n * 2
        def go_on():
            global turn
            turn += 1
        # begin
        print("begin")
        while turn < LIMIT:
            go_on()  # on
            print(show(turn))
        print("end", turn)
        '''
    )
    assert '    def run(self):\n        # begin\n        print("begin")\n        while self.turn < LIMIT:\n' in result
    assert "            self.go_on()  # on\n" in result
    assert result.endswith('def main():\n    Harbour().run()\n\n\nif __name__ == "__main__":\n    main()\n')
    assert "\ndef show(n):" in result


def test_a_guard_and_its_main_function_become_run():
    result = same(
        "count = 0\ndef main():\n    global count\n    count += 1\n    print(count)\nif __name__ == '__main__':\n    main()\n"
    )
    assert "    def run(self):\n        self.count += 1\n" in result
    assert result.count("def main") == 1


def test_code_behind_the_guard_keeps_its_place():
    same(
        "x = 1\ndef f():\n    global x\n    x += 1\nif __name__ == '__main__':\n    f()\n    print(x)\nprint('behind', x)\n"
    )


def test_handlers_become_bound_methods():
    result = same(
        "n = 0\ndef hit():\n    global n\n    n += 1\n    return n\nacts = {'h': hit}\nfor k in 'hh':\n    print(acts[k]())\n"
        "print(sorted([3, 1], key=lambda v: -v * hit()))\n"
    )
    assert "acts = {'h': self.hit}" in result


def test_what_imports_need_first_stays_first():
    result = same(
        "import sys\nsys.path.insert(0, '.')\nimport string\nn = 1\ndef f():\n    print(n, string.digits)\nf()\n"
    )
    assert result.index("sys.path.insert") < result.index("import string") < result.index("class Harbour")


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("n = 1\ndef f(a=n):\n    global n\n    n = 2\nf()\n", "while the script is being read"),
        ("n = 1\nclass C:\n    def f(self):\n        return n\nn = 2\nprint(C().f())\n", "class of the script uses"),
        (
            "print('first')\nclass C(type('D', (), {})): pass\nn = 1\ndef f():\n    print(n)\nf()\n",
            "stays at the top level",
        ),
        ("len = max(1, 2)\nprint(len)\n", "builtin"),
        ("self = 1\nself += 1\ndef f():\n    print(self)\nf()\n", "`self` itself"),
        ("x = 1\ndef f():\n    print(x)\n", "no main code|nothing"),
        ("n = 1\nn += 1\ndef f():\n    return n\nprint(eval('n'), f())\n", "eval"),
        ("def main(): pass\nmain = 3\nn = 1\ndef f(): print(n)\nf()\n", "main|more than once"),
    ],
)
def test_refusals_name_the_reason(text, reason):
    with pytest.raises(RefusedError) as caught:
        moved(text, LIFT)
    import re

    assert any(re.search(reason, error.reason) for error in (caught.value, *caught.value.others))


HOUSED = """
import math, random
from string import digits as numbers, ascii_letters
LIMIT = 3
SCALE = LIMIT * 2
ferry_x = 1


def helper(n):
    return math.floor(n) + SCALE


def other():
    return numbers


print(helper(2.5), LIMIT, ferry_x, other(), random.random() < 2)
"""


def housed(text: str, tmp_path: Path) -> dict[str, str]:
    form = Form(SCRIPT, "Ferry", "ferry", (NewField("ferry_x", "x"),))
    house = House(SCRIPT, (NewHome("Ferry", Path("ferry.py")),), Path("common.py"), Path("constants.py"))
    return moved(text, form, house)


def test_a_class_takes_only_what_it_needs(tmp_path):
    texts = housed(HOUSED, tmp_path)
    assert texts["ferry.py"] == "class Ferry:\n    def __init__(self):\n        self.x = 1\n"
    assert "from ferry import Ferry" in texts["script.py"]
    assert set(texts) == {"script.py", "ferry.py"}


def test_constants_and_helpers_that_two_files_need_are_shared(tmp_path):
    text = HOUSED.replace("ferry_x = 1", "ferry_x = SCALE")
    texts = housed(text, tmp_path)
    assert texts["constants.py"] == "LIMIT = 3\nSCALE = LIMIT * 2\n"
    assert texts["ferry.py"].startswith("from constants import SCALE\n\n\nclass Ferry:")
    for name, body in texts.items():
        (tmp_path / name).write_text(body)
    import subprocess
    import sys

    run = subprocess.run([sys.executable, "script.py"], cwd=tmp_path, capture_output=True, text=True, check=True)
    assert run.stdout == printed(text)


def test_a_class_that_knows_its_file_stays():
    with pytest.raises(RefusedError, match="another file"):
        housed("ferry_x = [__file__]\nprint(ferry_x)\n", Path())


def test_a_class_whose_names_may_come_from_an_unknown_star_stays():
    text = """
    from weather_station import *
    class Ferry:
        def load(self):
            return max(1, 2)
    """
    house = House(SCRIPT, (NewHome("Ferry", Path("ferry.py")),), Path("common.py"), Path("constants.py"))
    with pytest.raises(RefusedError, match="`max`, which may come from `weather_station`"):
        moved(text, house)


def test_constants_stand_above_the_class_that_needs_them():
    text = """
    class Ferry:
        def load(self):
            return LOADS[0] + KINDS[0].WEIGHT
        WEIGHT = 3
    LOADS = (1, 2)
    KINDS = (Ferry,)
    print(Ferry().load())
    """
    house = House(SCRIPT, (NewHome("Ferry", Path("ferry.py")),), Path("common.py"), Path("constants.py"))
    made = moved(text, house)["ferry.py"]
    assert made.index("LOADS =") < made.index("class Ferry") < made.index("KINDS =")
