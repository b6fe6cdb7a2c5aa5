"""rename: a symbol or a member of a class gets a better name everywhere it is used, by scope and not by spelling."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.member_names import member_objections, rename_member
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Renamed, Rewriting
from aedifex.program.analysis.members import Members, Mentions
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Routine, call_of
from aedifex.program.structure.obstacles import hindrance_obstacles, is_hard_to_echo, told_name
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span


@dataclass(frozen=True)
class Rename:
    """Give what `old` names another name: a variable, function or class, `function.local`, or `Class.member`."""

    name: ClassVar[str] = "rename"

    path: Path
    old: str
    new: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        if not module.dialect.rules.is_name(self.new) or module.dialect.rules.is_taken(self.new):
            raise RefusedError(f"`{self.new}` cannot be used as a name", advice="Choose another one.")
        scope, name = _scope_of(module, self.old)
        if scope.kind is ScopeKind.CLASS:
            return _RenamingMember(Members(Mentions.of(program), module, scope), name, self.new).plan()
        return _Renaming(module, scope.symbols[name], self.new).plan()


def _scope_of(module: Module, qualified: str) -> tuple[Scope, str]:
    """The scope that a dotted name leads to, and the name there."""
    scope = module.scope
    *outer, name = qualified.split(".")
    for part in outer:
        inner = [child for child in scope.children if child.name == part and child.kind is not ScopeKind.LAMBDA]
        if len(inner) != 1:
            raise RefusedError(f"{module.path.name} has no single function or class `{part}`", advice="Check the name.")
        scope = inner[0]
    if scope.kind is not ScopeKind.CLASS and name not in scope.symbols:
        raise RefusedError(
            f"{module.path.name} has no name `{qualified}`",
            advice="Write a local variable as `function.variable`, a member as `Class.member`.",
        )
    return scope, name


class _RenamingMember(Planner):
    def __init__(self, members: Members, old: str, new: str) -> None:
        super().__init__(members.module)
        self.members = members
        self.old = old
        self.new = new

    def find_objections(self) -> None:
        member_objections(self.objections, self.members, self.old, self.new)

    def write(self) -> None:
        rename_member(self.rewriting, self.members, self.old, self.new)


class _Renaming(Planner):
    def __init__(self, module: Module, symbol: Symbol, new: str) -> None:
        super().__init__(module)
        self.symbol = symbol
        self.new = new

    def write(self) -> None:
        for reference in self.symbol.references:
            self.rewriter.replace(reference, self.new, Renamed(self.new))
        for span in self.keywords():
            self.rewriting.changes.replace(self.module.path, span, self.new)

    def find_objections(self) -> None:
        names = [self.symbol.name] if self.symbol.is_module_level else []
        for obstacle in hindrance_obstacles(self.module, [*names, self.new]):
            self.object(*obstacle)
        for reference in self.symbol.references:
            self.object_to_reference(reference)
        self.object_to_capture()
        self.object_to_told_name()
        if self.routine is not None:
            self.object_to_unknown_callers(self.routine)

    @property
    def routine(self) -> Routine | None:
        """The routine of which the symbol is a parameter."""
        return self.symbol.scope.routine if Form.PARAMETER in self.symbol.forms else None

    def object_to_told_name(self) -> None:
        function = next((f for f in self.module.all_functions if f.symbol is self.symbol), None)
        told = told_name(self.module, function) if function is not None else None
        if told is not None:
            self.object(told, f"the name of `{self.symbol.name}` is read here", "Leave it as it is.")

    def object_to_reference(self, reference: Reference) -> None:
        if reference.form in (Form.IMPORT, Form.STAR):
            self.object(reference.start, f"`{reference.name}` is imported", "Import it under another name.")
        elif is_hard_to_echo(self.module, reference):
            self.object(
                reference.start,
                f"`{reference.name}` stands in a template that shows its own text",
                "Write the text out before the value.",
            )
        elif self.dialect.rules.is_private(reference.name) or self.dialect.rules.is_private(self.new):
            self.object(
                reference.start, "names with two leading underscores change inside classes", "Use one underscore."
            )
        hidden = reference.scope.find(self.new)
        if hidden is not None and hidden is not self.symbol and not self.is_unused_outside(hidden):
            self.object(reference.start, f"the name `{self.new}` means something else here", "Choose another name.")

    def is_unused_outside(self, symbol: Symbol) -> bool:
        return symbol.scope.kind is ScopeKind.OUTSIDE and not symbol.references

    def object_to_capture(self) -> None:
        """Nothing that uses the new name today may come to mean the renamed thing."""
        for scope in self.symbol.scope.walk():
            for use in scope.uses:
                if use.name == self.new and not self.is_inner(use):
                    self.object(use.start, f"the name `{self.new}` is in use here", "Choose another name.")
                    return

    def is_inner(self, use: Reference) -> bool:
        """Whether a use belongs to a scope further in, which hides the renamed thing anyway."""
        home = use.symbol.scope
        return home is not self.symbol.scope and home.within(self.symbol.scope)

    def object_to_unknown_callers(self, routine: Routine) -> None:
        if not isinstance(routine, Function) or routine.is_method:
            self.object_to_keywords_anywhere(routine)
            return
        for use in routine.symbol.references:
            call = call_of(use)
            handed_on = use.mode is Mode.READ or (call is not None and any(a.stars == "**" for a in call.arguments))
            if handed_on:
                self.object_to_keywords_anywhere(routine)
                return

    def object_to_keywords_anywhere(self, routine: Routine) -> None:
        """Where not all callers are known, nobody may pass an argument by this name."""
        for statement in self.module.walk():
            for call in statement.calls:
                if any(a.keyword == self.symbol.name or a.stars == "**" for a in call.arguments):
                    self.object(
                        call.start,
                        f"this call may pass `{self.symbol.name}` to `{routine.name}` by its name",
                        "Pass it by position first.",
                    )
                    return

    def keywords(self) -> list[Span]:
        """The keywords in calls that name a renamed parameter."""
        routine = self.routine
        if not isinstance(routine, Function):
            return []
        return [
            Span(argument.start, argument.start + len(self.symbol.name.encode()))
            for use in routine.symbol.references
            if use.statement is not None
            for call in use.statement.calls
            if call.callee is use
            for argument in call.arguments
            if argument.keyword == self.symbol.name
        ]


def _by_hand(program: Program, script: Path, given: Given) -> list[Rename]:
    return [Rename(script, given["old"], given["new"].rpartition(".")[2])]


MOVE = Description(
    name="rename",
    place=120,
    summary=(
        "A name is changed everywhere it means the same thing, and nowhere else.\n"
        "Comments and strings that merely contain the word stay."
    ),
    term="Rename",
    help="Rename a variable, function or class; a local as `function.variable`, a member as `Class.member`.",
    parameters=(
        StepParameter("old", Takes.ONE, "OLD"),
        StepParameter("new", Takes.ONE, "NEW"),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="dock.n carts",
        before="""\
n = 7


def dock(n):
    # n counts carts
    return n + 1


print(dock(n), "n")
""",
        after={
            "harbour.py": """\
n = 7


def dock(carts):
    # n counts carts
    return carts + 1


print(dock(n), "n")
""",
        },
    ),
)
