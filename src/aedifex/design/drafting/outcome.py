"""What a design would come to, in figures, before it is built."""

from __future__ import annotations

from aedifex.design.document.design import Design
from aedifex.program.model.program import Program
from aedifex.program.structure.main_code import MainCode
from aedifex.survey.measures import Measures, Part, measures, whole_script

_MAIN_LINES = 1


def measures_after(program: Program, design: Design) -> Measures:
    """The figures of a prepared program divided as a design says; the owner takes what no class has."""
    module = program.main
    spelled = {spelling: name for name, spelling in program.spellings.items()}
    whole = whole_script(module)
    left = whole
    parts: list[Part] = []
    for plan in design.classes:
        names = {spelled.get(f.variable, f.variable) for f in plan.fields}
        routines = {m.routine for m in plan.methods}
        part = Part(
            frozenset(symbol for symbol in whole.fields if symbol.name in names),
            tuple(r for r in whole.routines if r is not None and r.qualified_name in routines),
        )
        left = Part(left.fields - part.fields, tuple(r for r in left.routines if r not in part.routines))
        parts.append(part)
    main = MainCode.of(module)
    owned = set(main.functions)
    owner = Part(left.fields, tuple(r for r in left.routines if r is None or r in owned))
    return measures(module, [*parts, owner], main_lines=_MAIN_LINES, variables=0)
