"""What the text tells of the values that names are given, and whether an object may change."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from typing import NamedTuple

from aedifex.program.model.module import Module
from aedifex.program.model.names import TYPE_FORMS, AccessKind, Mode, Origin, Reference, Symbol
from aedifex.program.model.statements import Call, Kind, Pair, Shape, Sort, Statement, Value


class OnlyValue(NamedTuple):
    """The top-level statement that gives a symbol its one and only value, and the pair of the two in it."""

    statement: Statement
    pair: Pair

    @property
    def value(self) -> Value:
        """The value."""
        return self.pair.value

    @property
    def call(self) -> Call | None:
        """The call that is the value; None where it is none, or more than one."""
        return next((call for call in self.statement.calls if call.span == self.value.span), None)

    @property
    def pairs(self) -> Sequence[Pair]:
        """All names that the statement sets, with their values."""
        return self.statement.assignment.pairs if self.statement.assignment is not None else ()


def plainly_given(statement: Statement) -> list[Symbol]:
    """The variables to which a statement gives values that are written out, and does nothing else."""
    pairs = statement.assignment.pairs if statement.assignment is not None else ()
    if statement.kind is not Kind.ASSIGN or statement.calls or any(p.value.shape is not Shape.LITERAL for p in pairs):
        return []
    given = [pair.target.symbol for pair in pairs]
    named = [r.symbol for r in statement.references if r.form not in TYPE_FORMS]
    is_all = named == given and not any(p.target.path for p in pairs)
    return given if is_all else []


def is_written_out(statement: Statement) -> bool:
    """Whether a statement does nothing but to give names values that stand there in full: numbers, lists, tables."""
    pairs = statement.assignment.pairs if statement.assignment is not None else ()
    plain = (Shape.LITERAL, Shape.DISPLAY)
    return statement.kind is Kind.ASSIGN and bool(pairs) and all(pair.value.shape in plain for pair in pairs)


def only_value(symbol: Symbol, beside: Collection[Reference] = ()) -> OnlyValue | None:
    """Where the symbol gets its one and only value, if there is just one in plain sight; some bindings do not count."""
    bindings = [r for r in symbol.references if r.mode.writes and r not in beside]
    if len(bindings) != 1:
        return None
    statement = bindings[0].statement
    if statement is None or statement.block.owner is not None or statement.assignment is None:
        return None
    for pair in statement.assignment.pairs:
        if pair.target is bindings[0]:
            return OnlyValue(statement, pair)
    return None


def is_settled(symbol: Symbol) -> bool:
    """Whether a symbol gets a value once, at the top level, and keeps it."""
    return only_value(symbol) is not None and not any(r.mode is Mode.DELETE for r in symbol.references)


def is_given_container(symbol: Symbol) -> bool:
    """Whether a symbol is given a list or a table that is written out."""
    return any(value.sort in (Sort.LIST, Sort.TABLE) for value in given_values(symbol))


def given_values(symbol: Symbol) -> Iterator[Value]:
    """The values that assignments give to a symbol, one by one, in the order of the text."""
    for binding in symbol.bindings:
        assignment = binding.statement.assignment if binding.statement is not None else None
        yield from (
            pair.value for pair in (assignment.pairs if assignment is not None else ()) if pair.target is binding
        )


def references_in(statement: Statement, value: Value) -> list[Reference]:
    """The references of a statement that stand inside one of its values."""
    return [r for r in statement.references if value.start <= r.start < value.end]


def may_change_object(reference: Reference, module: Module) -> bool:
    """Whether a reference with a path may change the object that its name holds, without rebinding the name."""
    if not reference.path or reference.path_mode is None:
        return False
    if reference.path_mode.writes:
        return True
    if reference.path_mode is not Mode.CALL:
        return False
    last = reference.path[-1]
    if last.kind is not AccessKind.ATTRIBUTE or last.name is None:
        return True
    return not module.dialect.library.only_reads_object(last.name)


def value_of(reference: Reference) -> Value | None:
    """The value that a binding reference gets, where the text tells."""
    statement = reference.statement
    if statement is None or statement.assignment is None:
        return None
    if statement.kind is Kind.UPDATE:
        return statement.assignment.value
    return next((pair.value for pair in statement.assignment.pairs if pair.target is reference), None)


def first_value(symbol: Symbol) -> Value | None:
    """The value that the first of the text's bindings gives to a symbol; None where there is none that tells."""
    return value_of(symbol.bindings[0]) if symbol.bindings else None


def is_plainly_made(module: Module, references: Sequence[Reference]) -> bool:
    """Whether all that a value refers to are builtins that make plain values of plain ones; it must have some."""
    makes = module.dialect.library.makes_plain_values
    return bool(references) and all(r.symbol.origin is Origin.BUILTIN and makes(r.name) for r in references)
