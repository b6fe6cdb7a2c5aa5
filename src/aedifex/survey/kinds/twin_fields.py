"""The fields of a class for copies, and what differs between them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from aedifex.program.model.expressions import Expression
from aedifex.program.model.names import Symbol
from aedifex.program.structure.state import Constants, is_state
from aedifex.source.text import Span
from aedifex.survey.kinds.twins import TwinKind


@dataclass(frozen=True, slots=True)
class TwinField:
    """The variables of one attribute, copy by copy, and the field's name.

    `is_argument` tells whether the constructor is given its first value.
    """

    variables: tuple[str, ...]
    name: str
    is_argument: bool = False


def twin_fields(kind: TwinKind, names: dict[str, str] | None = None) -> Iterator[TwinField]:
    """The fields that a kind would have of itself; what differs between the copies is given to the constructor."""
    for attribute, symbols in kind.fields.items():
        variables = tuple(symbol.name for symbol in symbols)
        name = (names or {}).get(attribute) or attribute or "value"
        yield TwinField(variables, name, kind.beginning is None or _differs(kind, attribute))


def _differs(kind: TwinKind, attribute: str) -> bool:
    symbols, beginning = set(kind.fields[attribute]), kind.beginning
    assert beginning is not None
    if beginning.pairs:
        spans = [p.value.span for pairs in beginning.pairs for _, p in pairs if p.target.symbol in symbols]
        return len({kind.module.source.slice(span) for span in spans}) > 1 or any(_needs(kind, span) for span in spans)
    holes = beginning.likeness.holes if beginning.likeness is not None else []
    return any(symbol_given(hole.constants[0]) in symbols for hole in holes)


def _needs(kind: TwinKind, value: Span) -> bool:
    """Whether a value is worked out from what the program changes."""
    used = {r.symbol for r in kind.module.references_within(value)}
    return any(is_state(symbol) for symbol in Constants.of(kind.module).changing(used))


def symbol_given(value: Expression) -> Symbol | None:
    """The variable that a value is given to, by nothing but an assignment."""
    assignment = value.statement.assignment if value.statement is not None else None
    pairs = assignment.pairs if assignment is not None else ()
    return next((pair.target.symbol for pair in pairs if pair.value.span == value.span), None)


def symbol_around(value: Expression) -> Symbol | None:
    """The variable that is given something in which a value stands."""
    assignment = value.statement.assignment if value.statement is not None else None
    pairs = assignment.pairs if assignment is not None else ()
    return next((pair.target.symbol for pair in pairs if pair.value.start <= value.start < pair.value.end), None)
