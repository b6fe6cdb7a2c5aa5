"""What a draft gives up where it cannot be built as it stands, so that the rest can."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress
from copy import deepcopy

from aedifex.construction.build import Built, build
from aedifex.design.document.design import ClassPlan, Design
from aedifex.program.model.names import Symbol
from aedifex.program.model.program import Program
from aedifex.program.structure.state import Constants, is_own_object, state
from aedifex.source.errors import AedifexError, RefusedError

_MOST_CLASSES = 6
_ONLY_OWNER = "nothing but the owner is made"


def buildable(program: Program, design: Design) -> Design:
    """The design, or the nearest to it that can be built, with what was given up among its doubts.

    Where variables would be left to nobody, the owner alone is tried as well: it may take them all.

    Raises:
        RefusedError: nothing of it can be built.
    """
    first: AedifexError | None = None
    for lost, variant in _variants(design, program):
        try:
            built = build(program, variant)
        except AedifexError as error:
            first = first or error
            continue
        if first is None:
            return variant
        better = _owner_alone(program, design) if variant.classes and _left_over(program, built) else None
        lost, variant = (_ONLY_OWNER, better) if better is not None else (lost, variant)
        variant.doubts = [f"{lost}: {_said(first)}", *variant.doubts]
        return variant
    assert first is not None
    raise first if isinstance(first, RefusedError) else RefusedError(str(first))


def _owner_alone(program: Program, design: Design) -> Design | None:
    """The design with its owner only, where that leaves no variable to nobody."""
    alone = _without(design, design.classes)
    with suppress(AedifexError):
        return None if _left_over(program, build(program, alone)) else alone
    return None


def _left_over(program: Program, built: Built) -> list[Symbol]:
    """The variables of a program that change and that no class has once it is built; objects of classes are none."""
    changing = {symbol.name for symbol in Constants.of(program.main).changing(state(program.main))}
    after = built.program.main
    return [s for s in state(after) if s.name in changing and not is_own_object(after, s)]


def _said(error: AedifexError) -> str:
    line = error.place.line if error.place is not None else None
    return f"{error.reason}{f' (line {line})' if line is not None else ''}"


def _variants(design: Design, program: Program) -> Iterator[tuple[str, Design]]:
    """Designs that give up more and more, each with a sentence on what that is."""
    script = program.main.path.name
    yield "", design
    if any(plan.file != script for plan in [*design.all_classes, *design.data]):
        yield f"the classes stay in {script}", in_script(design, script)
    yield from _without_one(design, script)
    if design.classes:
        yield _ONLY_OWNER, _without(design, design.classes)
    has_classes = bool(design.all_classes or design.data)
    if has_classes and program.enclosed is None:  # what was taken apart must be put together again
        staying = _not_lifted(design)
        yield "the main code stays at the top level", staying
        yield f"the main code and the classes stay in {script}", in_script(staying, script)
        for lost, variant in _without_one(staying, script):
            yield f"the main code stays at the top level; {lost}", variant


def _without_one(design: Design, script: str) -> Iterator[tuple[str, Design]]:
    if 1 < len(design.classes) <= _MOST_CLASSES:
        for plan in design.classes:
            left = _without(design, [plan])
            yield f"{plan.name} is not made", left
            yield f"{plan.name} is not made, and the other classes stay in {script}", in_script(left, script)


def in_script(design: Design, script: str) -> Design:
    """The design with its classes in the script's own file."""
    made = deepcopy(design)
    for plan in made.all_classes:
        plan.file = script
    for base in made.bases:
        base.file = script
    for data in made.data:
        data.file = script
    return made


def _without(design: Design, plans: list[ClassPlan]) -> Design:
    made = deepcopy(design)
    gone = {plan.name for plan in plans}
    for plan in plans:
        made.keeps += [field.variable for field in plan.fields]
        made.keeps += [method.routine for method in plan.methods if method.lines is None]
    made.classes = [plan for plan in made.classes if plan.name not in gone]
    made.bases = [base for base in made.bases if gone.isdisjoint(base.children)]
    return made


def _not_lifted(design: Design) -> Design:
    made = deepcopy(design)
    made.is_lifted, made.streams, made.methods = False, False, []
    return made
