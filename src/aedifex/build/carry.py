"""From a design to the new texts: which moves, in which order, and the last checks."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from aedifex.design.check import check_design
from aedifex.design.model import ClassPlan, Design
from aedifex.moves.adopt import Adopt, NewMethod
from aedifex.moves.form import Form as FormMove
from aedifex.moves.form import NewField
from aedifex.moves.house import House, NewHome
from aedifex.moves.inject import Inject
from aedifex.moves.lift import Lift
from aedifex.moves.move import Move
from aedifex.moves.proof import perform
from aedifex.program.names import Form, Origin, Reference
from aedifex.program.program import Module, Program
from aedifex.program.state import Constants, is_state
from aedifex.program.statements import Routine
from aedifex.source.errors import RefusedError, UnreadableError


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
    check_design(design, program.main)
    carrier = _Carrier(program, design)
    carrier.carry()
    _check_result(program, carrier.program)
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
        homes = tuple(
            NewHome(plan.name, self.path.parent / plan.file)
            for plan in self.design.classes
            if Path(plan.file) != Path(self.path.name)
        )
        if homes:
            shared, constants = self.free_file("common"), self.free_file("constants")
            self.do(House(self.path, homes, shared, constants))

    def free_file(self, name: str) -> Path:
        """A file for what several classes need, under a name that is still free."""
        taken = {Path(plan.file).stem for plan in self.design.classes}
        for candidate in (name, f"{self.path.stem}_{name}", f"{self.path.stem}_{name}_2"):
            path = self.path.with_name(candidate + self.path.suffix)
            if candidate not in taken and not path.exists() and not self.program.dialect.is_module_taken(candidate):
                return path
        raise RefusedError(
            f"no file name like {name}{self.path.suffix} is left for what several classes need",
            advice="Let the classes stay in the script: give each `file` the script's own name.",
        )

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


def _check_result(before: Program, after: Program) -> None:
    """Every new file compiles, and no name has become unknown.

    Raises:
        RefusedError: one does not; this would be our own mistake.
    """
    known = {name for module in before.modules.values() for name in module.outside.symbols}
    for module in after.modules.values():
        try:
            module.dialect.check(module.source)
        except UnreadableError as error:
            raise RefusedError(
                f"the result would not compile: {error}",
                advice="Please report this design and its script: it is a mistake of Aedifex.",
            ) from None
        for name, symbol in module.outside.symbols.items():
            if symbol.origin is not Origin.BUILTIN and name not in known:
                raise RefusedError(
                    f"the result would use a name `{name}` that nothing binds",
                    module.source.place(symbol.references[0].start),
                    "Please report this design and its script: it is a mistake of Aedifex.",
                )
