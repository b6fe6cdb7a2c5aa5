"""Where a program begins again: statements that give its variables their first values once more."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from aedifex.program.analysis.values import value_of
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.state import is_state

_FEWEST = 3


def restarts(module: Module, statements: Sequence[Statement]) -> Iterator[list[Statement]]:
    """The runs of statements in a block that each give variables the values with which the program began."""
    run: list[Statement] = []
    for statement in [*statements, None]:
        if statement is not None and begins_again(module, statement):
            run.append(statement)
            continue
        if len(run) >= _FEWEST:
            yield run
        run = []


def begins_again(module: Module, statement: Statement) -> bool:
    """Whether a statement only gives variables of the script the values that they had at first."""
    pairs = statement.assignment.pairs if statement.assignment is not None else ()
    return (
        statement.kind is Kind.ASSIGN
        and bool(pairs)
        and all(
            not pair.target.path and module.source.slice(pair.value.span) == _first_text(module, pair.target.symbol)
            for pair in pairs
        )
        and not any(pair.target is pair.target.symbol.bindings[0] for pair in pairs)
    )


def _first_text(module: Module, symbol: Symbol) -> str | None:
    """The text of the value that a variable of the script is given first, by the main code."""
    first = symbol.bindings[0] if symbol.is_module_level and is_state(symbol) and symbol.bindings else None
    value = value_of(first) if first is not None and first.scope is module.scope else None
    return module.source.slice(value.span) if value is not None else None
