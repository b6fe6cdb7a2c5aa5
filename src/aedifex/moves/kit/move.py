"""What a move is: a value that turns a program into edits, or says why it will not."""

from __future__ import annotations

from pathlib import Path
from typing import ClassVar, Protocol

from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.names import Scope, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Statement
from aedifex.source.errors import RefusedError


class Move(Protocol):
    """One behaviour-keeping rewriting, with its parameters."""

    name: ClassVar[str]

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

    def add(self, offset: int, reason: str, advice: str, mentions: int | None = None) -> None:
        """Note a reason at a place in the file, which may mention the line of another place."""
        place = self.module.source.place
        other = place(mentions) if mentions is not None else None
        self.found.append(RefusedError(reason, place(offset), advice, mentions=other))

    def raise_any(self) -> None:
        """Raise what was noted, the first in the text first.

        Raises:
            RefusedError: there was something.
        """
        if not self.found:
            return
        first, *others = sorted(self.found, key=lambda error: (error.place.line if error.place else 0) or 0)
        first.others = tuple(others)
        raise first


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


def function_of(module: Module, qualified_name: str) -> Function:
    """The function of that qualified name.

    Raises:
        RefusedError: the module has no such function.
    """
    function = module.function(qualified_name)
    if function is None:
        raise RefusedError(f"{module.path.name} has no function {qualified_name!r}")
    return function


def at_top(statement: Statement) -> Statement:
    """The statement of the module's own block in which one stands."""
    while statement.block.owner is not None:
        statement = statement.block.owner
    return statement


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
