"""The sections of a class: what its author put together under a comment."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field

from aedifex.program.analysis.members import Members
from aedifex.program.analysis.values import may_change_object
from aedifex.program.model.statements import Function, Statement
from aedifex.program.structure.layout import Layout
from aedifex.survey.words import words_of

_MOST_WORDS = 2
_SAY_NOTHING = frozenset(
    "helper helpers util utils utility utilities misc miscellaneous general other others private public internal "
    "internals protected init initialisation initialization setup set up start main api magic getters setters "
    "properties property methods method functions function fields attributes variables constants static abstract "
    "overrides callbacks handlers events commands todo note end".split()
)
_CHANGES_COUNT = 3
_FEWEST = 3
_MOST_METHODS = 0.6


@dataclass(slots=True)
class Section:
    """The members of a class under one heading, and the words of that."""

    words: tuple[str, ...]
    fields: list[str] = field(default_factory=list)
    methods: list[Function] = field(default_factory=list)


def sections_of(members: Members) -> list[Section]:
    """The sections of a class whose headings name things, with their fields and methods.

    A field belongs where a heading in the constructor says so, or else to the section whose methods have most to do
    with it; a method that is about one other section's fields alone belongs to that.
    """
    sections = {words: Section(words) for words in _headed(members, members.statement.blocks[0].statements).values()}
    homes = _headed(members, [function.statement for function in members.functions])
    counts = {name: Counter[tuple[str, ...]]() for name in members.fields}
    rules = members.module.dialect.rules
    for function in members.functions:
        words = homes.get(function.statement)
        if words is not None and not rules.is_constructor(function.name):
            sections[words].methods.append(function)
            for name, weight in _touched(members, function):
                counts[name][words] += weight
    said = _said_in_constructor(members)
    for name in members.fields:
        best = said.get(name) or max(counts[name], key=lambda words: counts[name][words], default=None)
        if best in sections:
            sections[best].fields.append(name)
    _send_home(members, list(sections.values()))
    return list(sections.values())


def is_divided(members: Members, sections: list[Section]) -> bool:
    """Whether sections divide a class: three or more with methods, and most of its methods in one of them."""
    told = [section for section in sections if section.methods]
    methods = sum(len(section.methods) for section in told)
    return len(told) >= _FEWEST and methods > len(told) and methods >= _MOST_METHODS * (len(members.functions) - 1)


def _send_home(members: Members, sections: list[Section]) -> None:
    """Each method that uses fields of one other section only goes there."""
    for section in sections:
        for function in list(section.methods):
            used = {name for name, _ in _touched(members, function)}
            others = [other for other in sections if not used.isdisjoint(other.fields)]
            if len(others) == 1 and others[0] is not section:
                section.methods.remove(function)
                others[0].methods.append(function)


def _touched(members: Members, function: Function) -> Iterator[tuple[str, int]]:
    """The fields that a method names on its object, and how much that counts."""
    for reference in function.receiver.references if function.receiver is not None else ():
        name = reference.path[0].name if reference.path else None
        if name in members.fields:
            yield name, _CHANGES_COUNT if may_change_object(reference, members.module) else 1


def _said_in_constructor(members: Members) -> dict[str, tuple[str, ...]]:
    constructor = members.constructor
    if constructor is None:
        return {}
    found: dict[str, tuple[str, ...]] = {}
    headed = _headed(members, constructor.body.statements, is_close=True)
    for name in members.fields:
        own = [m.reference.statement for m in members.mentions(name) if m.is_write]
        first = next((s for s in constructor.body.statements if s in own), None)
        if first in headed:
            found[name] = headed[first]
    return found


def _headed(
    members: Members, statements: list[Statement], *, is_close: bool = False
) -> dict[Statement, tuple[str, ...]]:
    """The statements that stand under a heading that names something; a comment right above is one if `is_close`."""
    layout = Layout.of(members.module)
    found: dict[Statement, tuple[str, ...]] = {}
    now: tuple[str, ...] = ()
    for statement in statements:
        heading = layout.heading(statement)
        text = heading.text if heading is not None else layout.comment_above(statement) if is_close else ""
        if text:
            now = _name(text)
        if now:
            found[statement] = now
    return found


def _name(text: str) -> tuple[str, ...]:
    words = words_of(text)
    says_something = 0 < len(words) <= _MOST_WORDS and len(text.split()) <= _MOST_WORDS
    return tuple(words) if says_something and _SAY_NOTHING.isdisjoint(words) else ()
