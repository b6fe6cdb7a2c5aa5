"""How tests are written in a language."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol


@dataclass(frozen=True)
class Played:
    """What came of a recorded call that was played again.

    Values are texts that make them anew. `said` is what it printed; `is_chance` tells that random numbers decided.
    """

    result: str
    after: Mapping[str, str]
    said: str
    is_chance: bool


@dataclass(frozen=True)
class TestedCall:
    """One call of a test: its arguments, the fields that differ from a new object's, and what came of it."""

    method: str
    given: tuple[tuple[str, str], ...]
    fields: Mapping[str, str]
    played: Played


@dataclass(frozen=True)
class TestedClass:
    """A class with what a new object is given, its calls by method, and the module that it is in."""

    name: str
    module: str
    start: Mapping[str, str]
    calls: tuple[TestedCall, ...]


@dataclass(frozen=True)
class TestedTalk:
    """A conversation with the whole program: its typed lines, what it says, and the error that ends it, if one does."""

    module: str
    lines: tuple[str, ...]
    seed: int
    said: str
    ended: str


@dataclass(frozen=True)
class Standing:
    """Where modules stand: the dotted `package` that they are in, empty for none.

    `is_bare` says that they import one another by their bare names all the same.
    """

    package: str = ""
    is_bare: bool = True

    @property
    def needs_path(self) -> bool:
        """Whether a test must say where they are."""
        return bool(self.package) and self.is_bare


@dataclass(frozen=True)
class TestText:
    """The text of a test file, and its tests by their names: which method each is about, none for the conversation."""

    text: str
    tests: Mapping[str, str]

    @property
    def count(self) -> int:
        """How many tests there are."""
        return len(self.tests)


class Testing(Protocol):
    """Writes tests of one language. `command` runs the tests of a file whose path is put behind it."""

    command: str

    def file_name(self, script: Path) -> str:
        """The name of the test file of a script."""
        ...

    def is_crash(self, ended: str) -> bool:
        """Whether an error of this type ends a conversation otherwise than by its being over."""
        ...

    def write(
        self, script: str, classes: Sequence[TestedClass], talk: TestedTalk | None, standing: Standing
    ) -> TestText:
        """The text of a test file for modules that stand there."""
        ...
