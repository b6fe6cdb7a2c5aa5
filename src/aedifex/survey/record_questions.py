"""Expressions that ask a list of records for the first that has a value, or for all that have it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.source.text import Span


@dataclass(frozen=True)
class RecordQuestion:
    """An expression that gives the first of the records of a list that has a value, or nothing; or all that have it.

    `key` is the text by which a record is asked for its value, `wanted` the value looked for; where it `is_first` the
    record stands on the left of the comparison.
    """

    whole: Expression
    container: Expression
    key: str
    wanted: Expression
    is_first: bool
    is_for_all: bool


def record_questions(module: Module, container: Symbol) -> Iterator[RecordQuestion]:
    """The questions of one condition that are asked of a list, as the language's writer would write them."""
    surroundings = Surroundings.of(module)
    for reference in sorted(container.references, key=lambda reference: reference.start):
        name = surroundings.of_reference(reference)
        walk = surroundings.around(name) if name is not None else None
        each = surroundings.around(walk) if walk is not None and walk.sense is Sense.WALK else None
        wholes = (surroundings.around(each), each) if each is not None else ()
        found = (question for whole in wholes if whole and (question := _question(module, container, whole)))
        yield from islice(found, 1)


def key_asked(module: Module, asked: Expression, item: Symbol | None) -> str:
    """The text behind the name of a record that asks it for a value; empty where that is not so simple."""
    if asked.sense not in (Sense.PART, Sense.MEMBER) or item is None or not is_named(asked.parts[0], item):
        return ""
    if asked.sense is Sense.PART and asked.parts[1].sense is not Sense.CONSTANT:
        return ""
    return module.source.slice(Span(asked.parts[0].end, asked.end))


def _question(module: Module, container: Symbol, whole: Expression) -> RecordQuestion | None:
    arguments = whole.parts[1:] if whole.sense is Sense.CALL else []
    is_call = [part.sense for part in arguments] == [Sense.EACH, Sense.NOTHING]
    each = arguments[0] if is_call else whole
    if each.sense is not Sense.EACH or [part.sense for part in each.parts[1:]] != [Sense.WALK, Sense.TEST]:
        return None
    given, walk, test = each.parts
    target, walked = walk.parts
    item = target.reference.symbol if target.reference is not None else None
    condition = test.parts[0]
    if item is None or not is_named(target, item) or not is_named(given, item) or not is_named(walked, container):
        return None
    if not condition.is_equality or not _is_written(module, whole, (target, walked, condition), is_for_all=not is_call):
        return None
    for number, asked in enumerate(condition.parts):
        wanted = condition.parts[1 - number]
        key = key_asked(module, asked, item)
        is_plain = wanted.sense is Sense.CONSTANT or (wanted.sense is Sense.NAME and not is_named(wanted, item))
        if key and is_plain:
            return RecordQuestion(whole, walked, key, wanted, number == 0, not is_call)
    return None


def _is_written(module: Module, whole: Expression, parts: tuple[Expression, ...], *, is_for_all: bool) -> bool:
    """Whether an expression stands there as the writer writes such a question, but for line breaks."""
    writer, slice_of = module.dialect.writer, module.source.slice
    item, container, condition = (slice_of(part.span) for part in parts)
    written = (writer.all_where if is_for_all else writer.first_where)(item, container, condition)
    return "".join(written.split()) == "".join(slice_of(whole.span).split())
