"""The reasons of a draft for the members of a design that was read from a file, where the two agree."""

from __future__ import annotations

from copy import deepcopy

from aedifex.design.document.design import Design
from aedifex.design.drafting.draft import draft
from aedifex.program.model.program import Program
from aedifex.source.errors import RefusedError


def with_draft_reasons(program: Program, design: Design) -> Design:
    """A design with the reasons, the sureness and the doubts that a draft of the prepared program has for it."""
    try:
        drafted = draft(program)
    except RefusedError:
        return design
    fields = {field.variable: (plan, field) for plan in drafted.classes for field in plan.fields}
    methods = {method.routine: (plan, method) for plan in drafted.classes for method in plan.methods}
    made = deepcopy(design)
    made.doubts = drafted.doubts
    for plan in made.classes:
        variables = {field.variable for field in plan.fields}
        for field in plan.fields:
            home, known = fields.get(field.variable, (None, None))
            if (
                home is not None
                and known is not None
                and variables & {f.variable for f in home.fields} - {field.variable}
            ):
                field.why, field.sure = known.why, known.sure
        for method in plan.methods:
            if method.lines is not None:
                method.why = f"these lines change nothing but {plan.name}"
            elif method.routine in methods:
                home, found = methods[method.routine]
                if variables & {f.variable for f in home.fields}:
                    method.why, method.sure = found.why, found.sure
    return made
