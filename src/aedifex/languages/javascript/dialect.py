"""JavaScript as a `Dialect`."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING, NoReturn

from aedifex.languages.javascript.files import JavaScriptFiles
from aedifex.languages.javascript.library_facts import JavaScriptLibrary
from aedifex.languages.javascript.naming import JavaScriptNaming
from aedifex.languages.javascript.rules import JavaScriptRules
from aedifex.source.errors import RefusedError

if TYPE_CHECKING:
    from aedifex.languages.javascript.runner import JavaScriptRunner
    from aedifex.program.dialect.testing import Testing
    from aedifex.program.dialect.writer import Writer


class JavaScriptDialect:
    """How JavaScript is read and run. It is not written yet: programs are surveyed and compared, and not rebuilt."""

    name = "javascript"

    def __init__(self) -> None:
        self.files = JavaScriptFiles(self)
        self.rules = JavaScriptRules()
        self.library = JavaScriptLibrary()
        self.naming = JavaScriptNaming()

    @property
    def writer(self) -> Writer:
        """Nobody writes it yet."""
        self._refuse()

    @cached_property
    def runner(self) -> JavaScriptRunner:
        """How its programs are run."""
        from aedifex.languages.javascript.runner import JavaScriptRunner

        return JavaScriptRunner()

    @property
    def testing(self) -> Testing:
        """Nobody writes tests in it yet."""
        self._refuse()

    @staticmethod
    def _refuse() -> NoReturn:
        raise RefusedError(
            "JavaScript is read and run here, and not written yet",
            advice="`aedifex survey` shows its state and what hinders; `aedifex verify` compares two versions.",
        )


DIALECT = JavaScriptDialect()
