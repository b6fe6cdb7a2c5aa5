"""inject: what a routine reads and its future class does not own becomes a parameter."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.move import Objections, module_of
from aedifex.moves.kit.rewriter import Rewriter, is_declaration, takes_by_keyword
from aedifex.moves.kit.rewriting import Parameter as NewParameter
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.parameter_passing import run_before, why_not_passed
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Mode, Reference, ScopeKind
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call, ParameterKind, Routine, call_of
from aedifex.program.structure.obstacles import is_hard_to_echo
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span


@dataclass(frozen=True)
class Inject:
    """Hand `variable`, or its attribute `attribute`, to a routine as the parameter `parameter`."""

    name: ClassVar[str] = "inject"
    summary: ClassVar[str] = (
        "A value that a routine reads and does not own is passed to it as an argument.\n"
        "Refused where the value may change while the routine runs."
    )

    path: Path
    routine: str
    variable: str
    attribute: str | None
    parameter: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        routine = module.routine(self.routine)
        if routine is None or routine.symbol is None:
            raise RefusedError(f"{module.path.name} has no routine {self.routine!r}")
        return _Injecting(self, module, routine).plan()


class _Injecting:
    def __init__(self, move: Inject, module: Module, routine: Routine) -> None:
        self.move = move
        self.module = module
        self.routine = routine
        self.effects = Effects.of(module)
        self.rewriting = Rewriting()
        self.rewriter = Rewriter(module, self.rewriting)

    def plan(self) -> Rewriting:
        symbol = self.module.scope.symbols[self.move.variable]
        reads = [
            reference
            for reference in symbol.references
            if reference.scope.within(self.routine.scope) and self.is_meant(reference)
        ]
        assert self.routine.symbol is not None
        uses = [r for r in self.routine.symbol.references if r.mode.reads]
        self.object(reads, uses)
        for reference in reads:
            if is_declaration(reference):
                self.rewriter.drop_declaration(reference)
                continue
            end = reference.path[0].end if self.move.attribute else reference.end
            self.rewriter.replace(
                reference,
                self.move.parameter,
                NewParameter(self.routine.name, self.move.parameter),
                Span(reference.start, end),
            )
        self.rewriter.add_parameter(self.routine, self.move.parameter)
        for reference in uses:
            self.add_argument(reference)
        self.rewriter.finish()
        return self.rewriting

    def is_meant(self, reference: Reference) -> bool:
        if self.move.attribute is None:
            return True
        return bool(reference.path) and reference.path[0].name == self.move.attribute

    def object(self, reads: list[Reference], uses: list[Reference]) -> None:
        objections = Objections(self.module)
        symbol = self.module.scope.symbols[self.move.variable]
        reason = why_not_passed(self.effects, self.routine, symbol)
        advice = f"Leave `{self.routine.name}` with the owner."
        if reason is not None:
            objections.add(*reason, advice)
        if self.move.attribute is not None:
            self.object_to_writes(objections, reads, advice)
        taken = any(self.move.parameter in scope.symbols for scope in self.routine.scope.walk())
        if taken or any(self.means_other(r) for r in reads):
            objections.add(
                self.routine.scope.start,
                f"`{self.routine.name}` has a name `{self.move.parameter}` of its own",
                "Rename that local variable.",
            )
        for reference in reads:
            if is_hard_to_echo(self.module, reference):
                objections.add(
                    reference.start,
                    f"`{reference.name}` stands in a template that shows its own text",
                    "Write the text out before the value.",
                )
        for use in uses:
            call = self.call_of(use)
            if call is None:
                objections.add(use.start, f"`{self.routine.name}` is not called here but used as a value", advice)
        if any(p.kind is ParameterKind.KEYWORD_REST for p in self.routine.parameters):
            objections.add(
                self.routine.scope.start,
                f"`{self.routine.name}` takes any keyword, so it cannot gain one",
                advice,
            )
        objections.raise_any()

    def means_other(self, reference: Reference) -> bool:
        """Whether the parameter's name is another thing where the value is read."""
        found = reference.scope.find(self.move.parameter)
        return (
            found is not None
            and found is not reference.symbol
            and any(use.symbol is found for scope in self.routine.scope.walk() for use in scope.uses)
        )

    def object_to_writes(self, objections: Objections, reads: list[Reference], advice: str) -> None:
        """The field must keep its value until the routine has read it, in the class's own methods too."""
        symbol = self.module.scope.symbols[self.move.variable]
        run = {self.routine, *run_before(self.effects, self.routine, reads)}
        for reference in self.writes_of_field():
            if any(reference.scope.within(other.scope) for other in run):
                objections.add(
                    reference.start,
                    f"`{symbol.name}.{self.move.attribute}` may change while `{self.routine.name}` runs",
                    advice,
                )

    def writes_of_field(self) -> list[Reference]:
        """Where the field gets another value, through the instance or inside the class."""
        assert self.move.attribute is not None
        return [
            reference
            for reference in self.module.references_by_first_step.get(self.move.attribute, ())
            if reference.path[0].kind is AccessKind.ATTRIBUTE
            and len(reference.path) == 1
            and reference.path_mode is not None
            and reference.path_mode.writes
            and not _in_constructor(reference)
            and not self.is_of_other(reference)
        ]

    def is_of_other(self, reference: Reference) -> bool:
        """Whether a reference begins with an object that is certainly another one."""
        symbol = self.module.scope.symbols[self.move.variable]
        if reference.symbol is symbol:
            return False
        if reference.symbol.is_module_level:
            return True
        home = reference.symbol.scope.parent
        made = symbol.bindings[0].statement if symbol.bindings else None
        classes = {call.callee.name for call in made.calls if call.callee is not None} if made is not None else set()
        return reference.name == self.module.dialect.receiver and home is not None and home.name not in classes

    def call_of(self, use: Reference) -> Call | None:
        return call_of(use) if use.mode is Mode.CALL else None

    # -- writing

    def add_argument(self, use: Reference) -> None:
        call = self.call_of(use)
        assert call is not None
        value = self.move.variable + (f".{self.move.attribute}" if self.move.attribute else "")
        if use.scope.within(self.routine.scope):
            value = self.move.parameter
        by_keyword = takes_by_keyword(self.routine.parameters)
        self.rewriter.add_argument(call, self.move.parameter, value, by_keyword=by_keyword)


def _in_constructor(reference: Reference) -> bool:
    home = reference.scope.home
    return (
        home.kind is ScopeKind.ROUTINE
        and home.parent is not None
        and home.parent.kind is ScopeKind.CLASS
        and home.name == "__init__"
    )
