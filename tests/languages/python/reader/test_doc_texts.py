"""Doc texts are indented anew with what they describe, where that says the same."""

from __future__ import annotations

import ast
import inspect

import pytest
from hypothesis import given
from hypothesis import strategies as st

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.languages.python import DIALECT
from aedifex.languages.python.reader.doc_texts import movable_docs
from aedifex.program.model.program import Program
from aedifex.program.reading import read_program
from aedifex.source.text import SourceText
from tests.support.helpers import SCRIPT

RISE = '''\
level = 0


def rise(by):
    """Let the water rise.

    It never sinks here.
        by: how much
    """
    global level
    level += by


while level < 9:
    rise(3)
    print(level)
'''
LINES = st.lists(
    st.sampled_from(["", "    Up.", "        Down.", "    ", "  Odd.", "\tTab.", "    On\\", "Left."]), max_size=5
)


def test_a_doc_text_moves_with_its_method():
    text = _written(RISE)
    assert (
        '        """Let the water rise.\n\n        It never sinks here.\n            by: how much\n        """\n'
        in text
    )


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("print(level)", "print(level, len(rise.__doc__))"),
        ("print(level)", "print(level, len(getattr(rise, '__doc__')))"),
        ("    It never", "It never"),
        ("rise.\n\n", "rise.\n  \n"),
        ("never sinks", "never\\tsinks"),
    ],
)
def test_what_would_say_something_else_stays(old, new):
    assert list(movable_docs(_read(RISE).main))
    assert not list(movable_docs(_read(RISE.replace(old, new)).main))


@given(LINES)
def test_what_is_shown_of_them_stays_the_same(lines):
    text = RISE.replace("    It never sinks here.\n", "".join(f"{line}\n" for line in lines))
    shown = [_shown(each, "rise") for each in (text, _written(text))]
    assert shown[0] == shown[1]


def _read(text: str) -> Program:
    """The program of a text as it stands, with its blank lines."""
    return read_program([SourceText(SCRIPT, text.encode())], DIALECT)


def _written(text: str) -> str:
    program = _read(text)
    return build(program, propose(program)).program.main.source.data.decode()


def _shown(text: str, name: str) -> str:
    """The doc text of a function or method, as it is shown."""
    found = (n for n in ast.walk(ast.parse(text)) if isinstance(n, ast.FunctionDef) and n.name == name)
    return inspect.cleandoc(ast.get_docstring(next(found), clean=False) or "")
