"""Generated programs: scopes agree with the compiler, and renaming every name changes nothing."""

from __future__ import annotations

import contextlib
import io
import symtable
import sys

from hypothesis import assume, given, settings

from tests.support.compiler import compare_text, read
from tests.support.nested import programs, renamed


def is_python(text: str) -> bool:
    try:
        compile(text, "x.py", "exec")
    except SyntaxError:
        return False
    return True


def outcome(text: str) -> str:
    out = io.StringIO()
    with contextlib.redirect_stdout(out):
        try:
            exec(compile(text, "x.py", "exec"), {"__name__": "__main__"})
        except Exception as error:
            print(type(error).__name__)
    return out.getvalue()


def structure(table: symtable.SymbolTable) -> object:
    """The shape of a table without its names."""
    kinds = sorted(
        (s.is_local(), s.is_global(), s.is_free(), s.is_parameter(), s.is_assigned(), s.is_referenced())
        for s in table.get_symbols()
    )
    return str(table.get_type()), kinds, [structure(child) for child in table.get_children()]


@settings(max_examples=150)
@given(programs())
def test_scopes_agree_and_renaming_everything_keeps_structure_and_behaviour(text):
    assume(is_python(text))
    assert compare_text(text) == []
    other = renamed(read(text))
    if sys.version_info < (3, 12):  # later compilers merge comprehensions into their scope by name
        assert structure(symtable.symtable(other, "x", "exec")) == structure(symtable.symtable(text, "x", "exec"))
    assert compare_text(other) == []
    assert outcome(other) == outcome(text)
