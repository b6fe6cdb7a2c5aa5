"""What puts records into a list, and takes them out."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import OnlyValue, only_value
from aedifex.program.dialect.handling import Handling, Search
from aedifex.program.model.expressions import Expression, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.survey.record_questions import RecordQuestion, record_questions

FIRST = "0"
ONE = "1"
"""How the first place, and how many are taken out there, is written."""


@dataclass(frozen=True)
class Asked:
    """A call of a method of a list."""

    call: Expression

    @property
    def method(self) -> Expression:
        """The method that is called."""
        return self.call.parts[0]

    @property
    def container(self) -> Expression:
        """The list."""
        return self.method.parts[0]


@dataclass(frozen=True)
class Deed(Asked):
    """A statement that only puts one record into a list, or takes one out: its call."""

    handling: Handling


@dataclass(frozen=True)
class Cut(Asked):
    """A call that takes the record at a place out of a list; `whole` gives the record, or a list of it alone."""

    whole: Expression
    is_used: bool

    @property
    def place(self) -> Expression:
        """Where the record is."""
        return self.call.parts[1]

    @property
    def gives_record(self) -> bool:
        """Whether it is asked for the record itself."""
        return self.whole is not self.call


@dataclass(frozen=True)
class Removal:
    """A statement that binds a variable again, to the list of all its records but those that have a value."""

    statement: Expression
    question: RecordQuestion


def deeds(module: Module, container: Symbol) -> list[Deed]:
    """The statements that put one record into a list or take one out, each in the way of the first of its sort."""
    found: list[Deed] = []
    for tree in Surroundings.of(module).trees:
        call = tree.parts[0] if tree.sense is Sense.ALONE else tree
        if call.sense is not Sense.CALL or call.parts[0].sense is not Sense.MEMBER or len(call.parts) != 2:
            continue
        if any(call.names) or not is_named(call.parts[0].parts[0], container):
            continue
        handling = module.dialect.library.handling_by_method(call.parts[0].name or "")
        if handling in (Handling.ADDS, Handling.COMPARES):
            found.append(Deed(call, handling))
    first = {deed.handling: deed.method.name for deed in reversed(found)}
    return [deed for deed in found if deed.method.name == first[deed.handling]]


def cuts(module: Module, container: Symbol) -> Iterator[Cut]:
    """The calls that take one record out of a list, by its place."""
    surroundings, slice_of = Surroundings.of(module), module.source.slice
    for reference in container.references:
        call = surroundings.method_call(surroundings.of_reference(reference))
        if call is None:
            continue
        handling = module.dialect.library.handling_by_method(call.parts[0].name or "")
        if handling is not Handling.SPLICES or len(call.parts) != 3 or slice_of(call.parts[2].span) != ONE:
            continue
        around = surroundings.around(call)
        if around is not None and around.sense is Sense.PART and slice_of(around.parts[1].span) == FIRST:
            yield Cut(call, around, is_used=True)
        else:
            yield Cut(call, call, is_used=around is not None and around.sense is not Sense.ALONE)


def removals(module: Module, container: Symbol) -> list[Removal]:
    """The statements that let all records go that have a value, in the way of the first of them."""
    found: list[Removal] = []
    surroundings = Surroundings.of(module)
    for question in record_questions(module, container):
        around = surroundings.around(question.whole)
        if around is None or around.sense is not Sense.SET or len(around.parts) != 2 or around.statement is None:
            continue
        is_again = is_named(around.parts[0], container) and surroundings.by_statement[around.statement] == [around]
        is_sifted = question.is_contrary and question.search is Search.ALL
        if is_again and is_sifted:
            found.append(Removal(around, question))
    return [removal for removal in found if removal.question.way == found[0].question.way]


def kept_value(module: Module, container: Symbol) -> OnlyValue | None:
    """Where a variable gets its one and only value; what lets records go by binding it again does not count."""
    only = only_value(container)
    if only is not None or len(container.bindings) == 1:
        return only
    again = [removal.statement.parts[0].reference for removal in removals(module, container)]
    return only_value(container, beside=[name for name in again if name is not None and not name.declares])
