"""Where a constructor gives some fields their first values, and whether another constructor can do it as well."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.members import Members, lone_value
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.statements import Function, Kind, Shape, Statement
from aedifex.program.structure.layout import Layout
from aedifex.source.text import Span


@dataclass(frozen=True)
class FieldValue:
    """The statement that sets a field first, and the value that it gets.

    `target` is the receiver in front of the field. `own` are the receivers in the value that lead to fields which go
    along; `is_argument` tells that the value needs what only this constructor has, so that it must be passed.
    """

    field: str
    statement: Statement
    target: Reference
    span: Span
    own: tuple[Reference, ...]
    is_argument: bool


class FieldValues:
    """The first values of some fields of a class, in the order of the text."""

    def __init__(self, members: Members, fields: Sequence[str]) -> None:
        self.members = members
        self.module = members.module
        self.fields = fields
        self.layout = Layout.of(members.module)

    @property
    def constructor(self) -> Function | None:
        """The class's own constructor."""
        return self.members.constructor

    @cached_property
    def found(self) -> list[FieldValue]:
        """What the constructor sets directly."""
        values = [value for name in self.fields if (value := self._first(name)) is not None]
        return sorted(values, key=lambda value: value.statement.start)

    def _first(self, name: str) -> FieldValue | None:
        reference = self._first_mention(name)
        statement = reference.statement if reference is not None else None
        body = self.constructor.body if self.constructor is not None else None
        if reference is None or statement is None or statement.block is not body or statement.assignment is None:
            return None
        given = lone_value(reference)
        if given is None or statement.assignment.annotation:
            return None
        value = given.span
        inside = self.module.references_within(value)
        own = tuple(r for r in inside if r.symbol is reference.symbol and self._is_own(r))
        is_argument = any(r.symbol.scope is reference.symbol.scope and r not in own for r in inside)
        return FieldValue(name, statement, reference, value, own, is_argument)

    def _first_mention(self, name: str) -> Reference | None:
        constructor = self.constructor
        if constructor is None:
            return None
        span = constructor.statement.span
        here = [m.reference for m in self.members.mentions(name) if m.module is self.module]
        return min((r for r in here if span.start <= r.start < span.end), key=lambda r: r.start, default=None)

    def _is_own(self, reference: Reference) -> bool:
        return bool(reference.path) and reference.path[0].name in self.fields

    def objections(self) -> Iterator[tuple[int, str]]:
        """Why the fields cannot get their first values elsewhere: places with plain sentences."""
        at = self.members.statement.start
        constructor = self.constructor
        if constructor is None or constructor.receiver is None:
            yield at, "the class has no constructor of its own"
            return
        if not self.found:
            yield at, "the constructor sets none of the fields directly"
            return
        for name in self.fields:
            if self._first_mention(name) is not None and all(value.field != name for value in self.found):
                yield self._place(name), f"the constructor does not simply set `{name}`"
        for value in self.found:
            yield from self._object_to_value(value, constructor)
        yield from self._object_to_order(constructor.body.statements)

    def _place(self, name: str) -> int:
        reference = self._first_mention(name)
        return reference.start if reference is not None else self.members.statement.start

    def _object_to_value(self, value: FieldValue, constructor: Function) -> Iterator[tuple[int, str]]:
        at = value.statement.start
        if not self.layout.stands_alone(value.statement):
            yield at, "this shares its line with another statement"
        if value.own and value.is_argument:
            yield at, f"the first value of `{value.field}` needs fields that go and names that stay"
        if (
            value.own
            and constructor.receiver is not None
            and constructor.receiver.name != self.module.dialect.writer.receiver
        ):
            yield at, f"the first value of `{value.field}` names its object in another way"
        if value.own and any(reference.scope is not constructor.scope for reference in value.own):
            yield at, f"the first value of `{value.field}` is code that runs later"

    def _object_to_order(self, statements: Sequence[Statement]) -> Iterator[tuple[int, str]]:
        """All first values are worked out where the first was: what lies between must not be noticed."""
        first, last = self.found[0].statement.index, self.found[-1].statement.index
        for statement in statements[:first]:
            if any(self._shows_object(inner) for inner in statement.walk()):
                yield statement.start, f"the object is used here before `{self.found[0].field}` is set"
                return
        by_statement = {value.statement: value for value in self.found}
        is_apart = False
        for statement in statements[first : last + 1]:
            value = by_statement.get(statement)
            if value is None:
                is_apart = True
                if statement.kind not in (Kind.ASSIGN, Kind.NOTHING) or statement.calls:
                    yield statement.start, "this stands between the first values of fields that go"
                    return
            elif is_apart and not self._is_plain(value):
                yield statement.start, f"the first value of `{value.field}` cannot be worked out earlier"

    def _shows_object(self, statement: Statement) -> bool:
        """Whether a statement does more with the new object than to use its fields."""
        receiver = self.constructor.receiver if self.constructor is not None else None
        fields = self.members.fields
        used = [r for r in statement.references if r.symbol is receiver]
        return any(not r.path or r.path[0].name not in fields for r in used)

    def _is_plain(self, value: FieldValue) -> bool:
        """Whether a value is the same wherever in the constructor it is worked out."""
        assert value.statement.assignment is not None and value.statement.assignment.value is not None
        if value.statement.assignment.value.shape in (Shape.LITERAL, Shape.DISPLAY) and not value.statement.calls:
            return not any(self._may_differ(r.symbol) for r in self.module.references_within(value.span))
        only = self.module.references_within(value.span)
        return len(only) == 1 and (only[0].start, only[0].end) == value.span and not self._may_differ(only[0].symbol)

    def _may_differ(self, symbol: Symbol) -> bool:
        """Whether a name may mean another value a few lines further down."""
        return len(symbol.bindings) != 1 or symbol.scope is not (self.constructor and self.constructor.scope)
