"""Every name that a file uses stands in its expression trees, and only once."""

from __future__ import annotations

import ast
from collections import Counter
from pathlib import Path

import pytest

from aedifex.languages.python import DIALECT
from aedifex.program.model.expressions import NEGATED, Sense
from aedifex.program.model.names import Form
from aedifex.program.reading import read_program
from aedifex.source.text import SourceText
from tests.support.helpers import module_of

_LIBRARY = Path(ast.__file__).parent
_FILES = sorted(_LIBRARY.glob("[a-d]*.py"))
_NOT_IN_TREES = frozenset(
    {Form.ROUTINE, Form.CLASS, Form.PARAMETER, Form.DECLARATION, Form.ANNOTATION, Form.QUOTED, Form.IMPORT, Form.STAR}
)


@pytest.mark.parametrize("path", _FILES, ids=lambda path: path.stem)
def test_every_name_stands_in_a_tree(path):
    module = read_program([SourceText.read(path)], DIALECT).main
    found = Counter(e.reference for tree in DIALECT.files.expressions(module) for e in tree.walk() if e.reference)
    expected = {r for r in module.references if r.form not in _NOT_IN_TREES}
    assert {r for r in expected if found[r] != 1} == set()


@pytest.mark.parametrize(
    ("text", "senses"),
    [
        ("x = [a, (b, c)]", "SET NAME LIST NAME TUPLE NAME NAME"),
        ("d['k'].m(1, k=b)", "ALONE CALL MEMBER PART NAME CONSTANT CONSTANT NAME"),
        ("x = a if b else c", "SET NAME CHOICE NAME NAME NAME"),
        ("[a for a in b if c]", "ALONE EACH NAME WALK NAME NAME TEST NAME"),
        ("if a is not None: pass", "TEST SAME NAME NOTHING"),
        ("f'{a} {b!r:>{c}}'", "ALONE TEXT NAME NAME OTHER OTHER NAME"),
        ("del d[a], b", "DELETE PART NAME NAME NAME"),
        ("for a, b in c: pass", "WALK TUPLE NAME NAME NAME"),
        ("x += -1", "UPDATE NAME OPERATION CONSTANT"),
        ("a[b:c]", "ALONE SLICE NAME OTHER NAME NAME"),
        ("{'k': a, **b}", "ALONE OTHER OTHER CONSTANT NAME SPREAD NAME"),
        ("lambda a, b=c: a", "ALONE FUNCTION NAME NAME"),
    ],
)
def test_what_expressions_are(text, senses):
    trees = DIALECT.files.expressions(module_of(text))
    assert " ".join(e.sense.name for tree in trees for e in tree.walk()) == senses


def test_keys_and_negations_are_known():
    trees = DIALECT.files.expressions(module_of("a['k'], a[0], a is not b, {'x': 1, 2: 3}"))
    parts = [e for tree in trees for e in tree.walk()]
    assert [e.name for e in parts if e.sense is Sense.PART] == ["k", "0"]
    assert [e.name for e in parts if e.sense is Sense.SAME] == [NEGATED]
    assert [e.names for e in parts if e.sense is Sense.TABLE] == [("x", None)]


def test_deep_nesting_costs_no_stack():
    text = "x = " + "(" * 150 + "a" + ")" * 150
    names = [e for tree in DIALECT.files.expressions(module_of(text)) for e in tree.walk() if e.sense is Sense.NAME]
    assert [name.reference.name for name in names] == ["x", "a"]
