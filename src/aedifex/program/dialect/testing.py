"""How tests are written in a language."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING, Protocol

if TYPE_CHECKING:
    from aedifex.program.model.module import Module


@dataclass(frozen=True)
class Mutant:
    """A text with one small mistake: what was done, at which line, in which routine, if any, and the whole text."""

    what: str
    line: int
    text: str
    routine: str = ""


@dataclass(frozen=True)
class Played:
    """What came of a recorded call that was played again.

    Values are texts that make them anew; `changed` names the fields that it changed. `inner` has the texts of what it
    changed in other objects of the program, by expressions in which `{}` is the object; `calls` are the first of the
    `call_count` ones of stand-ins. `said` is what it printed, behind what its object `greets` with when it is made;
    `is_chance` tells that random numbers decided, which began from `seed`. The result of a call that `waits` is there
    later.
    """

    result: str
    after: Mapping[str, str]
    said: str
    is_chance: bool
    seed: int = 1
    changed: Sequence[str] = ()
    inner: Mapping[str, str] = field(default_factory=dict)
    calls: Sequence[str] = ()
    call_count: int = 0
    greets: bool = False
    waits: bool = False


@dataclass(frozen=True)
class TestedCall:
    """One call of a test: its arguments, the fields that differ from a new object's, and what came of it.

    `returned` is what functions of libraries answer meanwhile; `inner` are the fields that are otherwise in its parts.
    """

    method: str
    given: tuple[tuple[str, str], ...]
    fields: Mapping[str, str]
    played: Played
    returned: Mapping[str, str] = field(default_factory=dict)
    inner: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class TestedClass:
    """A class with what a new object is given, its calls by method, and the module that it is in."""

    name: str
    module: str
    start: Mapping[str, str]
    calls: tuple[TestedCall, ...]


@dataclass(frozen=True)
class TestedTalk:
    """A conversation with the whole program: its typed lines, what it says, and the error that ends it, if one does.

    A program that `streams` takes a reader and a writer.
    """

    module: str
    streams: bool
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
class TestedProgram:
    """All that the tests of a script are about: its classes, conversations with it, and where its modules stand.

    `stand_ins` are the dotted names of what is replaced in tests, each with the name under which its calls are noted.
    """

    script: str
    classes: Sequence[TestedClass]
    talks: Sequence[TestedTalk]
    standing: Standing
    stand_ins: Sequence[tuple[str, str]] = ()


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

    def beside(self, script: Path) -> Testing:
        """The same, in the manner of the project that a script is of."""
        ...

    def file_name(self, script: Path) -> str:
        """The name of the test file of a script."""
        ...

    def module_name(self, path: Path) -> str:
        """The name by which tests load a file of the program."""
        ...

    def why_not(self, script: Module) -> str:
        """Why no tests can be written of a script, empty where they can."""
        ...

    def is_crash(self, ended: str) -> bool:
        """Whether an error of this type ends a conversation otherwise than by its being over."""
        ...

    def is_quiet(self, text: str) -> bool:
        """Whether a script with this text does nothing when it is only imported."""
        ...

    def mutants(
        self, text: str, count: int, seed: int, lines: frozenset[int] | None = None, *, has_routes: bool = False
    ) -> Sequence[Mutant]:
        """Up to so many other texts of a module with a small mistake in each, on the given lines where any are given.

        Where it answers requests, there are also mistakes that can be made with routes.
        """
        ...

    def borders(self, text: str) -> Mapping[str, Sequence[Mapping[str, str]]]:
        """For each method of a module, by class and method, values to try at the borders of its conditions.

        They are texts by what is to have them: a parameter goes by its name, a field by `.` and its name, a field of a
        thing in a field by both, as `.lamp.oil`.
        """
        ...

    def write(self, tested: TestedProgram) -> TestText:
        """The text of a test file."""
        ...
