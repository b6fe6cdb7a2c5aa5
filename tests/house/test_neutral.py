"""No layer above the languages spells a token of one, or compares a word of one: what it needs is data of the model, or
asked of the dialect.

The lists may only shrink. What stands in them has its reason beside it.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

import aedifex

_HOUSE = Path(aedifex.__file__).parent
_LANGUAGES = ("languages", "demo")
_SPELLINGS = re.compile(
    r"""
    ^(?:self|cls|None|True|False|pass|global|nonlocal|lambda|def|class|return|break|continue|yield|await|import|from
       |print|input|file|stdin|stdout|object|main|genexpr|python|pytest|\.py|\*\.py)$
    | ^(?:def|class|return|import|from|lambda|global|if\ not|raise|assert|pass|print|let|const|var|function|new)\ (?!\w+\ \w+)
    | __\w+__ | \bself\. | \bsys\.\w | if\ not\ | return\ $ | \ =\ $ | ^,\ \* | ^[^:]*:\n
    """,
    re.VERBOSE,
)
_WORDS = frozenset({"word", "role", "name", "type"})

_ALLOWED_SPELLINGS = {
    # The design file and the scenario file are texts of our own, in TOML: their keys are the same for every language.
    "design/document/": {"class", "class ", "file", "from", "entry = "},
    "design/document/writing.py": {
        *(
            "{ from = ",
            ", name = ",
            "name = ",
            "file = ",
            "path = ",
            "digest = ",
            "format = ",
            "why = ",
            ", start = ",
            "store = ",
            "held = ",
            "{ asks = ",
            "value = ",
            "computed = ",
            "begins = ",
            "passed = ",
            "of = ",
            "object = ",
            "prefix = ",
            "from = ",
            "missing = ",
        ),
    },
    "design/document/reading.py": {"object", "says format = ", "lines = ", "start = ", "store = "},
    "verify/scenarios/scenario.py": {"needs format = ", "Write format = "},
    # Options of `step`, and the keys by which they are found again.
    "moves/": {"class", "object"},
    "moves/text_out.py": {"file"},
    "moves/share_file.py": {"file"},
    # Values of enumerations: words of the model, in which it speaks to people.
    "program/model/": {"class", "lambda", "import", "pass", "return", "break", "continue", "yield", "await"},
    # Words that names are made of.
    "design/drafting/naming.py": {"class", "object", "main"},
    "design/drafting/kinds.py": {"object"},
    "design/drafting/kept_files.py": {"file"},
    # Headings of tables, a notation for diagrams, and keys of the files that the runner writes.
    "report/": {"file", "class", "class "},
    "verify/calls.py": {"class"},
    "verify/running/trace.py": {"file"},
    "verify/running/written.py": {"file"},
    # It is run by itself, beside what it keeps.
    "verify/running/keeper.py": {"__main__"},
    # Sentences.
    "report/moves_page.py": {"\n```\n\nbefore:\n\n", " before:\n\n", " after:\n\n"},
    "cli/": {". Edit it, then:\n  aedifex build ", "\n\n\b\nExample:\n"},
}
_ALLOWED_COMPARISONS: dict[str, set[str]] = {
    # A star import has no name of its own: the model's word for it is the star.
    "moves/kit/binding_check.py": {"*"},
}


def _modules() -> Iterator[tuple[str, ast.Module]]:
    for path in sorted(_HOUSE.rglob("*.py")):
        name = path.relative_to(_HOUSE).as_posix()
        if not name.startswith(_LANGUAGES):
            yield name, ast.parse(path.read_text("utf-8"))


_MODULES = list(_modules())


def _texts(tree: ast.Module) -> Iterator[str]:
    """The texts of a file that are no docstrings and stand in no example of a move."""
    left_out: set[ast.AST] = set()
    for node in ast.walk(tree):
        body = getattr(node, "body", None)
        if isinstance(body, list):
            left_out.update(s.value for s in body if isinstance(s, ast.Expr) and isinstance(s.value, ast.Constant))
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "Example":
            left_out.update(ast.walk(node))
    for node in ast.walk(tree):
        if node not in left_out and isinstance(node, ast.Constant) and isinstance(node.value, str):
            yield node.value


def _compared(tree: ast.Module) -> Iterator[str]:
    """The texts with which words of a program are compared."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Compare) and isinstance(node.left, ast.Attribute) and node.left.attr in _WORDS:
            for other in ast.walk(ast.Tuple(node.comparators, ast.Load())):
                if isinstance(other, ast.Constant) and isinstance(other.value, str) and other.value:
                    yield other.value


def _allowed(name: str, by_file: dict[str, set[str]]) -> set[str]:
    return {text for start, texts in by_file.items() if name.startswith(start) for text in texts}


@pytest.mark.parametrize(("name", "tree"), _MODULES, ids=lambda value: value if isinstance(value, str) else "")
def test_no_layer_above_the_languages_spells_one(name, tree):
    spelled = {text for text in _texts(tree) if _SPELLINGS.search(text)}
    assert spelled - _allowed(name, _ALLOWED_SPELLINGS) == set()


@pytest.mark.parametrize(("name", "tree"), _MODULES, ids=lambda value: value if isinstance(value, str) else "")
def test_no_layer_above_the_languages_compares_its_words(name, tree):
    if not name.startswith(("cli/", "report/", "verify/", "source/", "design/document/")):
        assert set(_compared(tree)) - _allowed(name, _ALLOWED_COMPARISONS) == set()


def test_the_lists_hold_nothing_that_is_gone():
    trees = dict(_MODULES)
    for by_file, texts_of in ((_ALLOWED_SPELLINGS, _texts), (_ALLOWED_COMPARISONS, _compared)):
        for start, texts in by_file.items():
            there = {text for name, tree in trees.items() if name.startswith(start) for text in texts_of(tree)}
            assert texts <= there, start


def test_the_search_sees_what_it_is_for():
    for text in ("self", "def f(x):\n", "return ", "if not ", "__init__", "global ", "self.x = x", "None"):
        assert _SPELLINGS.search(text), text
    assert list(_compared(ast.parse("a.word == 'return'"))) == ["return"]
