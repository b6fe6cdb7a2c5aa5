"""A whole proposal: the drafted classes, and what can be carved out of long code for them."""

from __future__ import annotations

from copy import deepcopy

from aedifex.build.carry import build
from aedifex.design.blocks import Candidate, candidates
from aedifex.design.draft import draft
from aedifex.design.model import ClassPlan, Design, MethodPlan
from aedifex.program.program import Program
from aedifex.source.errors import AedifexError

_MOST_TRIED = 12


def propose(program: Program, grain: str = "usual") -> Design:
    """Draft a prepared program; each block that could become a method is built on trial, and kept if that works.

    Raises:
        RefusedError: there is no state that could be gathered.
    """
    design = draft(program, grain)
    taken: list[Candidate] = []
    for candidate in candidates(program, design)[:_MOST_TRIED]:
        if any(candidate.first <= other.last and other.first <= candidate.last for other in taken):
            continue
        trial = _with(design, candidate)
        if trial is not None and _can_be_built(program, trial):
            design = trial
            taken.append(candidate)
    return design


def _with(design: Design, candidate: Candidate) -> Design | None:
    made = deepcopy(design)
    home: ClassPlan | Design | None = made
    if candidate.plan is not None:
        home = next((plan for plan in made.classes if plan.name == candidate.plan.name), None)
    if home is None:
        return None
    taken = {method.name for method in home.methods}
    if isinstance(home, ClassPlan):
        taken |= {field.name for field in home.fields}
    if candidate.name in taken:
        return None
    home.methods.append(MethodPlan(candidate.routine, candidate.name, lines=(candidate.first, candidate.last)))
    return made


def _can_be_built(program: Program, design: Design) -> bool:
    try:
        build(program, design)
    except AedifexError:
        return False
    return True
