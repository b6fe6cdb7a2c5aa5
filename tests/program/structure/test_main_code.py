"""What stays at the top level, and what is the program."""

from __future__ import annotations

import pytest

from aedifex.program.structure.main_code import MainCode
from tests.support.helpers import module_of


def staying(text: str) -> list[str]:
    module = module_of(text)
    return [module.source.slice(s.span).partition("\n")[0] for s in MainCode.of(module).staying]


def test_what_a_class_uses_stays_with_what_it_needs():
    text = """
import quay
folder = quay.folder()
file = folder + "x"
size = quay.size()
score = 0
other = quay.other()


def load():
    return file


class Kite:
    def show(self):
        return load(), size


def more():
    global score
    score += other


more()
"""
    assert staying(text) == [
        "import quay",
        "folder = quay.folder()",
        'file = folder + "x"',
        "size = quay.size()",
        "def load():",
        "class Kite:",
        "def more():",
    ]


@pytest.mark.parametrize(
    "more",
    [
        "size = 2",
        "def f():\n    global size\n    size = 3",
        "for size in range(2):\n    pass",
        "del size",
    ],
)
def test_what_changes_does_not_stay(more):
    text = f"import quay\nsize = quay.size()\nclass Kite:\n    def show(self):\n        return size\n{more}\nprint(Kite())\n"
    assert "size = quay.size()" not in staying(text)


def test_checks_before_an_import_stay_with_it():
    text = "import sys\nif sys.version_info < (3,):\n    raise SystemExit\nimport quay\nif quay.closed:\n    print(1)\nquay.open()\n"
    assert staying(text) == ["import sys", "if sys.version_info < (3,):", "import quay"]


def test_what_depends_on_itself_does_not_stay():
    assert staying("a = b\nb = a\nimport numpy\nprint(a)\n") == ["import numpy"]


def test_a_library_import_holds_nothing_back():
    assert staying("print(1)\nimport random\nprint(2)\n") == ["import random"]


@pytest.mark.parametrize("comment", ["", "  # start here", "\n    # start here"])
def test_the_guard_is_known_with_comments_in_it(comment):
    assert module_of(f"if __name__ == '__main__':{comment}\n    print(1)\n").guard is not None


def test_what_shares_constants_out_stays():
    text = "LOW, HIGH = range(2)\nSIZE = W, H = 4, 3\ntide = LOW\nP = Q = 7\nQ = 8\n"
    assert staying(text) == ["LOW, HIGH = range(2)", "SIZE = W, H = 4, 3"]
