"""Groups that the author made: state and routines that came from one file of a program."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Sequence

from aedifex.design.drafting.group import Group
from aedifex.program.analysis.values import may_change_object
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function
from aedifex.source.errors import Place

_WRITE = 3


def file_groups(program: Program, variables: Iterable[Symbol]) -> list[Group]:
    """A group for each file that has come into the script with functions, with the variables that are mostly its own.

    A variable is a file's where more than half of what the files' functions do with it is done there, a change counting
    three times; what several have as much to do with is left to the owner.
    """
    module = program.main
    homes: dict[str, list[Function]] = defaultdict(list)
    for function in module.functions:
        place = program.original_place(Place(module.path, module.source.line_of(function.statement.start)))
        if place.path is not None and place.path in program.origin.modules and place.path != module.path:
            homes[place.path.stem].append(function)
    suffix = module.path.suffix
    groups = {
        stem: Group(noun=stem, leaning=list(functions), came_from=stem + suffix) for stem, functions in homes.items()
    }
    for variable in variables:
        votes = Counter({stem: _weight(module, variable, functions) for stem, functions in homes.items()})
        best = max(votes, key=lambda stem: votes[stem], default="")
        if best and 2 * votes[best] > votes.total():
            groups[best].variables.append(variable)
    return [group for group in groups.values() if group.variables]


def _weight(module: Module, variable: Symbol, functions: Sequence[Function]) -> int:
    """How much some functions have to do with a variable."""
    spans = [function.statement.span for function in functions]
    uses = (r for r in variable.references if r.form is not Form.DECLARATION)
    inside = [use for use in uses if any(span.holds(use.span) for span in spans)]
    return sum(_WRITE if use.mode.writes or may_change_object(use, module) else 1 for use in inside)
