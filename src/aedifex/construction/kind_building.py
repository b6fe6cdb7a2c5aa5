"""Kinds of things become classes, as a design says."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from aedifex.construction.kind_classes import class_made, merged
from aedifex.construction.kind_methods import answer_attached, block_attached, one_by_one, tried
from aedifex.construction.resource_methods import resource_methods_made
from aedifex.design.document.check import check_kind, check_kind_methods
from aedifex.design.document.design import Design, KindPlan, MethodPlan
from aedifex.program.model.program import Program

WITH_THEIR_METHODS = frozenset({"resources", "sessions"})
"""The stores whose classes are made with their methods."""


def with_kinds(program: Program, design: Design) -> Program:
    """An opened program with classes made of its kinds; those that are made already stay as they are.

    Raises:
        DesignError: the script has no such kind, or no such function.
        RefusedError: a kind cannot become a class as the plan says.
    """
    wanted = [plan for plan in design.kinds if plan.name not in program.kinds]
    one_for_all: dict[str, str] = {}
    for plan in wanted:
        check_kind(design, plan, program.main)
        one_for_all |= {sources[0]: name for name, sources in merged(program, plan).items()}
        program = class_made(program, plan)
    for plan in wanted:
        check_kind_methods(design, plan, program.main)
        if plan.store == "resources":
            program = resource_methods_made(program, plan)
    others = [plan for plan in wanted if plan.store not in WITH_THEIR_METHODS]
    parted = {method.routine for plan in others for method in plan.methods if method.lines is not None}
    for plan in others:
        program = _with_whole(program, plan, [m for m in plan.methods if m.routine not in parted], one_for_all)
    for plan in others:
        lined = [method for method in plan.methods if method.lines is not None]
        of_own = [method for method in lined if method.routine.startswith(f"{plan.name}.")]
        for method in [*(m for m in lined if m not in of_own), *reversed(of_own)]:  # each comes right behind its method
            made = answer_attached if method.answers else block_attached
            program = made(program, plan.name, method)
    for plan in others:
        rest = [m for m in plan.methods if m.routine in parted and m.lines is None]
        program = _with_whole(program, plan, rest, one_for_all)
    return program


def _with_whole(
    program: Program, plan: KindPlan, methods: Sequence[MethodPlan], one_for_all: Mapping[str, str]
) -> Program:
    """The program with whole functions as methods of the class of a kind."""
    methods = [replace(m, routine=one_for_all.get(m.routine, m.routine)) for m in methods]
    if not methods:
        return program
    return tried(program, plan.name, methods) or one_by_one(program, plan.name, methods)
