"""What a move is: a value that turns a program into edits, or says why it will not."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import ClassVar, Protocol

from aedifex.program.names import Reference, Scope, ScopeKind, Symbol
from aedifex.program.program import Module, Program
from aedifex.program.statements import Statement
from aedifex.source.edits import Changes
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span


@dataclass(frozen=True, slots=True)
class Member:
    """Where a symbol went: it is now a member of a class, reached through an object of it."""

    class_name: str
    name: str


@dataclass(frozen=True, slots=True)
class Receiver:
    """Where a reference went: it is now the receiver in a method of a class."""

    class_name: str


@dataclass(frozen=True, slots=True)
class Parameter:
    """Where a reference went: it is now a parameter of a routine."""

    routine: str
    name: str


@dataclass(frozen=True, slots=True)
class Renamed:
    """Where a reference went: it means the same thing under this name now."""

    name: str


@dataclass(frozen=True, slots=True)
class Variable:
    """Where a part of an object went: it is now a variable of the module."""

    name: str


Destination = Member | Receiver | Parameter | Renamed | Variable


@dataclass(slots=True)
class Rewriting:
    """What a move would do: the changes, and what must be true afterwards.

    `went` says where references lead now, per reference. `dropped` holds the references that go away with the text
    they stood in. Every other reference must still mean what it meant, and lead on as it did; `paths` names the steps
    of those whose access paths change.
    """

    changes: Changes = field(default_factory=Changes)
    went: dict[Reference, Destination] = field(default_factory=dict)
    spans: dict[Reference, Span] = field(default_factory=dict)
    dropped: set[Reference] = field(default_factory=set)
    paths: dict[Reference, tuple[str | None, ...]] = field(default_factory=dict)


def merged(rewritings: Sequence[Rewriting]) -> Rewriting | None:
    """Several rewritings of one program as one; None where two of them want the same text or reference."""
    whole = Rewriting()
    taken: set[tuple[Path, int, int]] = set()
    for one in rewritings:
        places = {(e.path, e.start, e.end) for e in one.changes.edits if e.start < e.end}
        known = whole.went.keys() | whole.dropped | whole.paths.keys()
        if places & taken or known & (one.went.keys() | one.dropped | one.paths.keys()):
            return None
        if whole.changes.created.keys() & one.changes.created.keys():
            return None
        taken |= places
        whole.changes.edits += one.changes.edits
        whole.changes.created |= one.changes.created
        whole.went |= one.went
        whole.spans |= one.spans
        whole.dropped |= one.dropped
        whole.paths |= one.paths
    return whole


class Move(Protocol):
    """One behaviour-keeping rewriting, with its parameters."""

    name: ClassVar[str]
    summary: ClassVar[str]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: behaviour could not be shown to stay.
        """
        ...


class Objections:
    """Collects the reasons against a move, to be raised together."""

    def __init__(self, module: Module) -> None:
        self.module = module
        self.found: list[RefusedError] = []

    def add(self, offset: int, reason: str, advice: str) -> None:
        """Note a reason at a place in the file."""
        self.found.append(RefusedError(reason, self.module.source.place(offset), advice))

    def raise_any(self) -> None:
        """Raise what was noted, the first in the text first.

        Raises:
            RefusedError: there was something.
        """
        if not self.found:
            return
        first, *others = sorted(self.found, key=lambda error: (error.place.line if error.place else 0) or 0)
        raise RefusedError(first.reason, first.place, first.advice, tuple(others))


def module_of(program: Program, path: Path) -> Module:
    """The module at `path`.

    Raises:
        RefusedError: the program has no such file.
    """
    if path not in program.modules:
        raise RefusedError(f"{path} is not a file of the program")
    return program.modules[path]


def symbol_of(module: Module, name: str) -> Symbol:
    """The module-level symbol of that name.

    Raises:
        RefusedError: the module binds no such name.
    """
    symbol = module.scope.symbols.get(name)
    if symbol is None:
        raise RefusedError(f"{module.path.name} has no variable or function {name!r} at its top level")
    return symbol


def class_of(module: Module, name: str) -> tuple[Statement, Scope]:
    """The top-level statement that defines a class, and the class's scope.

    Raises:
        RefusedError: the module has no such class.
    """
    for statement in module.block.statements:
        scope = statement.defines
        if scope is not None and scope.kind is ScopeKind.CLASS and scope.name == name:
            return statement, scope
    raise RefusedError(f"{module.path.name} has no class {name!r} at its top level")
