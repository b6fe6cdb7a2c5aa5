"""One language, as the upper layers see it: a name and seven protocols."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

if TYPE_CHECKING:
    from aedifex.program.dialect.files import Files
    from aedifex.program.dialect.library import Library
    from aedifex.program.dialect.naming import Naming
    from aedifex.program.dialect.rules import Rules
    from aedifex.program.dialect.runner import Runner
    from aedifex.program.dialect.testing import Testing
    from aedifex.program.dialect.writer import Writer


class Dialect(Protocol):
    """What is asked of a language. What a single program says is data of its model instead, set by the reader."""

    name: str
    title: str

    @property
    def files(self) -> Files:
        """Which files there are, reading them, and how they find one another."""
        ...

    @property
    def rules(self) -> Rules:
        """What names mean to the language itself."""
        ...

    @property
    def library(self) -> Library:
        """What its library, and the well-known libraries, do."""
        ...

    @property
    def naming(self) -> Naming:
        """How people spell names in it."""
        ...

    @property
    def writer(self) -> Writer:
        """How its code is written."""
        ...

    @property
    def runner(self) -> Runner:
        """How its programs are run in a scripted world."""
        ...

    @property
    def testing(self) -> Testing:
        """How tests are written in it."""
        ...

    def allows(self, move: str) -> bool:
        """Whether the move of a name can be carried out in it."""
        ...
