"""From a design to the new texts: which moves, in which order, and the last checks."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from aedifex.build.check import check_result
from aedifex.build.homes import new_homes
from aedifex.build.prepare import prepared
from aedifex.design.check import check_design
from aedifex.design.model import ClassPlan, Design
from aedifex.moves.adopt import Adopt, NewMethod
from aedifex.moves.form import Form as FormMove
from aedifex.moves.form import NewField
from aedifex.moves.inject import Inject
from aedifex.moves.lift import Lift
from aedifex.moves.move import Move
from aedifex.moves.proof import perform
from aedifex.moves.seal import Seal
from aedifex.program.names import Form, Reference
from aedifex.program.program import Module, Program
from aedifex.program.state import Constants, is_state
from aedifex.program.statements import Routine
from aedifex.source.errors import RefusedError


@dataclass(frozen=True)
class Built:
    """A built program, and the moves that made it."""

    program: Program
    steps: tuple[Move, ...]


def build(program: Program, design: Design) -> Built:
    """Carry out a design on a program, in memory.

    Raises:
        DesignError: the design does not fit the program.
        RefusedError: a move cannot be done safely.
    """
    ready = prepared(program)
    check_design(design, ready.main)
    carrier = _Carrier(ready, design)
    try:
        carrier.carry()
    except RefusedError as error:
        raise error.moved(carrier.program.original_place) from None
    check_result(program, carrier.program)
    return Built(carrier.program, tuple(carrier.steps))


class _Carrier:
    def __init__(self, program: Program, design: Design) -> None:
        self.program = program
        self.design = design
        self.steps: list[Move] = []

    @property
    def path(self) -> Path:
        return self.program.main.path

    def do(self, move: Move) -> None:
        self.program = perform(self.program, move)
        self.steps.append(move)

    def carry(self) -> None:
        for plan in self.design.classes:
            self.do(_form(self.path, plan))
        for plan in self.design.classes:
            self.inject(plan)
            if plan.methods:
                methods = tuple(NewMethod(method.routine, method.name) for method in plan.methods)
                self.do(Adopt(self.path, plan.name, plan.instance, methods))
        self.do(Lift(self.path, self.design.owner))
        files = {plan.name: plan.file for plan in self.design.classes}
        self.do(Seal(self.path, tuple(files)))
        files = {name: file for name, file in files.items() if Path(file) != Path(self.path.name)}
        if files:
            self.do(new_homes(self.program.main, files))

    def inject(self, plan: ClassPlan) -> None:
        """Pass to the routines of a class what they read and it does not own, innermost calls first."""
        while (move := self.next_injection(plan)) is not None:
            self.do(move)

    def next_injection(self, plan: ClassPlan) -> Inject | None:
        module = self.program.main
        constants = Constants(module)
        for method in plan.methods:
            routine = module.routine(method.routine)
            if routine is None:
                continue
            for reference in _foreign_reads(routine, plan, constants):
                return self.injection(module, routine, reference)
        return None

    def injection(self, module: Module, routine: Routine, reference: Reference) -> Inject:
        variable = reference.symbol.name
        owner = next((c for c in self.design.classes if c.instance == variable), None)
        fields = {f.name for f in owner.fields} if owner is not None else set()
        attribute = reference.path[0].name if reference.path and reference.path[0].name in fields else None
        name = variable if attribute is None else f"{variable}_{attribute}"
        parameter = name
        number = 2
        while self.is_used(routine, parameter, reference):
            parameter = f"{name}_{number}"
            number += 1
        return Inject(module.path, routine.qualified_name, variable, attribute, parameter)

    def is_used(self, routine: Routine, name: str, reference: Reference) -> bool:
        for scope in routine.scope.walk():
            if name in scope.symbols:
                return True
            if any(use.name == name and use.symbol is not reference.symbol for use in scope.uses):
                return True
        return False


def _form(path: Path, plan: ClassPlan) -> FormMove:
    fields = tuple(NewField(f.variable, f.name, f.start == "argument") for f in plan.fields)
    words = re.findall(r"[A-Z]+(?![a-z])|[A-Z]?[a-z0-9]+", plan.name)
    return FormMove(path, plan.name, plan.instance, fields, f"The {' '.join(words).lower()}.")


def _foreign_reads(routine: Routine, plan: ClassPlan, constants: Constants) -> Iterator[Reference]:
    for scope in routine.scope.walk():
        for use in scope.uses:
            symbol = use.symbol
            if not symbol.is_module_level or symbol.name == plan.instance or constants.settles(symbol):
                continue
            if is_state(symbol) and use.form is not Form.DECLARATION:
                yield use
