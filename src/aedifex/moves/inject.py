"""inject: what a routine reads and its future class does not own becomes a parameter."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import is_declaration, takes_by_keyword
from aedifex.moves.kit.rewriting import Parameter as NewParameter
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.parameter_passing import gives_each, run_before, why_not_passed
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Mode, Reference, ScopeKind
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Argument, Call, Function, ParameterKind, call_of
from aedifex.program.structure.obstacles import is_hard_to_echo
from aedifex.program.structure.own_names import uses_own
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span


@dataclass(frozen=True)
class Inject:
    """Hand `variable`, or its attribute `attribute`, to a routine as the parameter `parameter`."""

    name: ClassVar[str] = "inject"

    path: Path
    routine: str
    variable: str
    attribute: str | None
    parameter: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        function = module.function(self.routine)
        if function is None:
            raise RefusedError(f"{module.path.name} has no routine {self.routine!r}")
        return _Injecting(self, module, function).plan()


class _Injecting(Planner):
    def __init__(self, move: Inject, module: Module, function: Function) -> None:
        super().__init__(module)
        self.move = move
        self.function = function
        self.effects = Effects.of(module)
        self.symbol = module.scope.symbols[move.variable]

    @cached_property
    def reads(self) -> list[Reference]:
        """Where the function reads what it is to be given."""
        return [r for r in self.symbol.references if r.scope.within(self.function.scope) and self.is_meant(r)]

    @cached_property
    def uses(self) -> list[Reference]:
        """Where the function is called, or used otherwise."""
        return [r for r in self.function.symbol.references if r.mode.reads]

    def write(self) -> None:
        for reference in self.reads:
            if is_declaration(reference):
                self.rewriter.drop_declaration(reference)
                continue
            end = reference.path[0].end if self.move.attribute else reference.end
            self.rewriter.replace(
                reference,
                self.move.parameter,
                NewParameter(self.function.name, self.move.parameter),
                Span(reference.start, end),
            )
        if self.goes_first:
            comma = ", " if self.function.parameters else ""
            self.rewriter.insert(self.function.signature.start, f"{self.move.parameter}{comma}")
        else:
            self.rewriter.add_parameter(self.function, self.move.parameter)
        for reference in self.uses:
            self.add_argument(reference)

    @cached_property
    def goes_first(self) -> bool:
        """Whether the parameter stands in front, for by its place behind the others it would not be found.

        Calls may give fewer values than there are parameters, or more, or all of a list.
        """
        calls = [call for use in self.uses if (call := self.call_of(use)) is not None]
        takes_rest = any(p.kind is ParameterKind.REST for p in self.function.parameters)
        is_behind = not takes_rest and all(gives_each(call, self.function.parameters) for call in calls)
        return not self.has_names and not is_behind

    def does_nothing(self, argument: Argument) -> bool:
        """Whether what is given in a call changes nothing while it is worked out: what stands before it is the same."""
        inside = self.module.references_within(argument.span)
        return all((reference.path_mode or reference.mode) is Mode.READ for reference in inside)

    def is_meant(self, reference: Reference) -> bool:
        if self.move.attribute is None:
            return True
        return bool(reference.path) and reference.path[0].name == self.move.attribute

    def find_objections(self) -> None:
        name, advice = self.function.name, f"Leave `{self.function.name}` with the owner."
        reason = why_not_passed(self.effects, self.function, self.symbol)
        if reason is not None:
            self.object(*reason, advice)
        if self.function.symbol.is_module_level and self.module.is_known_outside(name):
            user = self.module.used_elsewhere.get(name) or self.module.found_by_name.get(name) or "another file"
            self.object(self.function.scope.start, f"`{name}` is called by {user}, which gives it nothing", advice)
        if self.move.attribute is not None:
            self.object_to_writes(advice)
        taken = any(self.move.parameter in scope.symbols for scope in self.function.scope.walk())
        if taken or any(self.means_other(r) for r in self.reads):
            self.object(
                self.function.scope.start,
                f"`{name}` has a name `{self.move.parameter}` of its own",
                "Rename that local variable.",
            )
        for reference in self.reads:
            if is_hard_to_echo(self.module, reference):
                self.object(
                    reference.start,
                    f"`{reference.name}` stands in a template that shows its own text",
                    "Write the text out before the value.",
                )
        for use in self.uses:
            if self.call_of(use) is None:
                self.object(use.start, f"`{name}` is not called here but used as a value", advice)
        if not self.has_names and uses_own(self.function):
            self.object(self.function.scope.start, f"`{name}` counts what it is given", advice)
        elif self.goes_first:
            given = [a for use in self.uses if (call := self.call_of(use)) is not None for a in call.arguments]
            for argument in given:
                if not self.does_nothing(argument):
                    self.object(argument.start, f"`{name}` is given fewer or more than it takes somewhere", advice)
        if any(p.kind is ParameterKind.KEYWORD_REST for p in self.function.parameters):
            self.object(self.function.scope.start, f"`{name}` takes any keyword, so it cannot gain one", advice)

    def means_other(self, reference: Reference) -> bool:
        """Whether the parameter's name is another thing where the value is read."""
        found = reference.scope.find(self.move.parameter)
        return (
            found is not None
            and found is not reference.symbol
            and any(use.symbol is found for scope in self.function.scope.walk() for use in scope.uses)
        )

    def object_to_writes(self, advice: str) -> None:
        """The field must keep its value until the function has read it, in the class's own methods too."""
        run = {self.function, *run_before(self.effects, self.function, self.reads)}
        for reference in self.writes_of_field():
            if any(reference.scope.within(other.scope) for other in run):
                self.object(
                    reference.start,
                    f"`{self.symbol.name}.{self.move.attribute}` may change while `{self.function.name}` runs",
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
            and not self.is_in_constructor(reference)
            and not self.is_of_other(reference)
        ]

    def is_in_constructor(self, reference: Reference) -> bool:
        home = reference.scope.home
        is_method = home.parent is not None and home.parent.kind is ScopeKind.CLASS
        return is_method and home.name == self.dialect.rules.constructor

    def is_of_other(self, reference: Reference) -> bool:
        """Whether a reference begins with an object that is certainly another one."""
        if reference.symbol is self.symbol:
            return False
        if reference.symbol.is_module_level:
            return True
        home = reference.symbol.scope.parent
        made = self.symbol.bindings[0].statement if self.symbol.bindings else None
        classes = {call.callee.name for call in made.calls if call.callee is not None} if made is not None else set()
        return reference.name == self.writer.receiver and home is not None and home.name not in classes

    def call_of(self, use: Reference) -> Call | None:
        return call_of(use) if use.mode is Mode.CALL else None

    # -- writing

    def add_argument(self, use: Reference) -> None:
        call = self.call_of(use)
        assert call is not None
        value = self.writer.member(self.move.variable, *([self.move.attribute] if self.move.attribute else []))
        if use.scope.within(self.function.scope):
            value = self.move.parameter
        if self.goes_first:
            self.rewriter.prepend_arguments(call, [value])
            return
        by_keyword = takes_by_keyword(self.function.parameters)
        self.rewriter.add_argument(call, self.move.parameter, value, by_keyword=by_keyword)


def _by_hand(program: Program, script: Path, given: Given) -> list[Inject]:
    variable, _, attribute = given["value"].partition(".")
    name = given["as"] or program.dialect.naming.joined(*filter(None, (variable, attribute)))
    return [Inject(script, given["function"], variable, attribute or None, name)]


MOVE = Description(
    name="inject",
    place=40,
    summary=(
        "A value that a routine reads and does not own is passed to it as an argument.\n"
        "Refused where the value may change while the routine runs."
    ),
    term="Introduce Parameter",
    help="Pass what a function only reads to it as an argument.",
    parameters=(
        StepParameter("function", Takes.ONE, "FUNCTION"),
        StepParameter("value", Takes.ONE, "VARIABLE[.FIELD]"),
        StepParameter("as", Takes.OPTION, "NAME", "The parameter's name."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="draw_ferry tide",
        before="""\
tide = 2
ferry = "F"


def draw_ferry(at):
    print(" " * (at + tide) + ferry)


draw_ferry(3)
tide += 1
draw_ferry(3)
""",
        after={
            "harbour.py": """\
tide = 2
ferry = "F"


def draw_ferry(at, tide):
    print(" " * (at + tide) + ferry)


draw_ferry(3, tide)
tide += 1
draw_ferry(3, tide)
""",
        },
    ),
)
