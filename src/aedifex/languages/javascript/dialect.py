"""JavaScript as a `Dialect`."""

from __future__ import annotations

from typing import TYPE_CHECKING, NoReturn

from aedifex.languages.javascript.files import JavaScriptFiles
from aedifex.languages.javascript.library_facts import JavaScriptLibrary
from aedifex.languages.javascript.naming import JavaScriptNaming
from aedifex.languages.javascript.rules import JavaScriptRules
from aedifex.source.errors import RefusedError

if TYPE_CHECKING:
    from aedifex.program.dialect.runner import Runner
    from aedifex.program.dialect.testing import Testing
    from aedifex.program.dialect.writer import Writer


class JavaScriptDialect:
    """How JavaScript is read. It is not written or run yet: its programs are surveyed, and no more."""

    name = "javascript"

    def __init__(self) -> None:
        self.files = JavaScriptFiles(self)
        self.rules = JavaScriptRules()
        self.library = JavaScriptLibrary()
        self.naming = JavaScriptNaming()

    @property
    def writer(self) -> Writer:
        """Nobody writes it yet."""
        self._refuse("written")

    @property
    def runner(self) -> Runner:
        """Nobody runs it yet."""
        self._refuse("run")

    @property
    def testing(self) -> Testing:
        """Nobody writes tests in it yet."""
        self._refuse("written")

    @staticmethod
    def _refuse(done: str) -> NoReturn:
        raise RefusedError(
            f"JavaScript is read here, and not {done} yet",
            advice="`aedifex survey` shows its state, its routines and what hinders.",
        )


DIALECT = JavaScriptDialect()
