"""Which classes have so much in common that they should come from one."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from aedifex.design.document.design import BasePlan, Design
from aedifex.design.drafting.naming import Names
from aedifex.program.model.program import Program
from aedifex.survey.shared_members import PlainClass, plain_classes, shared_fields, shared_methods
from aedifex.survey.words import nouns_of

_FEWEST_FIELDS = 2
_PLACES = (frozenset({"x", "y"}), frozenset({"row", "column"}), frozenset({"row", "col"}))
_NAMED = frozenset({"name", "title", "label"})
_COUNTED = frozenset({"price", "cost", "amount", "quantity", "stock", "weight", "count", "size"})


def bases_of(program: Program, design: Design) -> Iterator[BasePlan]:
    """A class for each group of kinds of a design that set two fields alike and answer to the same name.

    `program` has these classes, with all their members.
    """
    names = Names(program.main)
    planned = {plan.name for plan in design.kinds}
    waiting = [each for each in plain_classes(program, program.main) if each.name in planned]
    while waiting:
        group = _group_around(waiting)
        waiting = [each for each in waiting if each not in group]
        noun = _noun(group) if len(group) > 1 else ""
        if noun:
            name = names.class_name([noun])
            yield BasePlan(name, names.file(name.lower()), [each.name for each in group], _why(group))


def is_guessed(base: BasePlan) -> bool:
    """Whether a base is called after what its children have, and not after a word of their names."""
    return len({(nouns_of(name) or [""])[-1] for name in base.children}) > 1


def _group_around(classes: Sequence[PlainClass]) -> list[PlainClass]:
    """The first class with all that share as much with it as the one that shares most."""
    first, *others = classes
    most = max((_shared(first, other) for other in others), default=0)
    group = [first]
    for other in others:
        together = [*group, other]
        is_like = len(shared_fields(together)) >= _FEWEST_FIELDS and shared_methods(together)
        if most and is_like:
            group = together
    return group


def _shared(one: PlainClass, other: PlainClass) -> int:
    return len(shared_fields([one, other])) + len(shared_methods([one, other]))


def _noun(group: Sequence[PlainClass]) -> str:
    """What all are: the last word of all their names, or what has such fields; empty where nothing tells."""
    last = {(nouns_of(each.name) or [""])[-1] for each in group}
    fields = {name.lstrip("_") for name in shared_fields(group)}
    if len(last) == 1:
        return last.pop()
    if any(place <= fields for place in _PLACES):
        return "body"
    return "item" if fields & _NAMED and fields & _COUNTED else ""


def _why(group: Sequence[PlainClass]) -> str:
    fields = ", ".join(name.lstrip("_") for name in shared_fields(group))
    methods = ", ".join(f"{name}()" for name in shared_methods(group))
    return f"they have {fields} and {methods} alike"
