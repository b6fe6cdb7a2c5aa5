"""The classes of a design as groups of a usage map."""

from __future__ import annotations

from aedifex.design.document.design import Design
from aedifex.survey.usage import Group


def groups_of(design: Design) -> list[Group]:
    """The variables and routines of each class."""
    return [
        Group(
            plan.name,
            tuple(field.variable for field in plan.fields),
            tuple(method.routine for method in plan.methods if method.lines is None),
        )
        for plan in design.classes
    ]
