"""What a design comes to, in figures."""

from __future__ import annotations

from aedifex.design.document.design import Design
from aedifex.program.model.program import Program
from aedifex.program.structure.main_code import MainCode
from aedifex.survey.measures import Measures, Part, measures, whole_script


def measures_after(program: Program, design: Design, built: Program) -> Measures:
    """The figures of a prepared program divided as a design says, and of what was built of it.

    The owner takes what no class has.
    """
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
    made = [built.main, *(module for path, module in built.modules.items() if path not in program.modules)]
    return measures(module, [*parts, owner] if design.is_lifted else parts, made)
