"""JavaScript as a `Dialect`."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from aedifex.languages.javascript.files import JavaScriptFiles
from aedifex.languages.javascript.library_facts import JavaScriptLibrary
from aedifex.languages.javascript.naming import JavaScriptNaming
from aedifex.languages.javascript.rules import JavaScriptRules
from aedifex.languages.javascript.style import USUAL, Style

if TYPE_CHECKING:
    from aedifex.languages.javascript.runner import JavaScriptRunner
    from aedifex.languages.javascript.writer import JavaScriptWriter
    from aedifex.program.dialect.testing import Testing


_MOVES = frozenset(
    """
adopt ask_event attach carve close_over columns compose declare disclose embody enclose fold form front gather_data
go_through house inject lift loosen name_handlers name_main narrow part pick point records rename respell seal
supply sweep tidy twins unfold walk whole
""".split()
)


class JavaScriptDialect:
    """How JavaScript is read, written in a style, and run."""

    name = "javascript"
    title = "JavaScript"

    def __init__(self, style: Style = USUAL) -> None:
        self.style = style
        self.files = JavaScriptFiles(self)
        self.rules = JavaScriptRules()
        self.library = JavaScriptLibrary()
        self.naming = JavaScriptNaming(style.private)

    def styled(self, style: Style) -> JavaScriptDialect:
        """The same, writing in a style."""
        return self if style == self.style else JavaScriptDialect(style)

    @cached_property
    def writer(self) -> JavaScriptWriter:
        """How its code is written."""
        from aedifex.languages.javascript.writer import JavaScriptWriter

        return JavaScriptWriter(self.style)

    @cached_property
    def runner(self) -> JavaScriptRunner:
        """How its programs are run."""
        from aedifex.languages.javascript.runner import JavaScriptRunner

        return JavaScriptRunner()

    @cached_property
    def testing(self) -> Testing:
        """How its tests are written."""
        from aedifex.languages.javascript.testing import JavaScriptTesting

        return JavaScriptTesting()

    def allows(self, move: str) -> bool:
        """Those of which JavaScript's way is known."""
        return move in _MOVES


DIALECT = JavaScriptDialect()
