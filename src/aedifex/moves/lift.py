"""lift: top-level code becomes the owner, with set-up in the constructor, the loop in `run`, and a two-line main."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.move import Objections, module_of
from aedifex.moves.kit.rewriter import Rewriter, is_declaration
from aedifex.moves.kit.rewriting import Member, Parameter, Renamed, Rewriting
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Leave, Routine, Statement
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.obstacles import hindrance_obstacles, routine_obstacles, variable_obstacles
from aedifex.source.edits import Taken
from aedifex.source.text import Span

_RUN_NAMES = ("run", "start", "play", "go")


@dataclass(frozen=True)
class Lift:
    """Turn a script's top-level code, and the functions that work on its state, into the owner class."""

    name: ClassVar[str] = "lift"
    summary: ClassVar[str] = (
        "Top-level code becomes the owner: set-up in the constructor, the loop in `run`.\n"
        "What starts the program is then a `main` of two lines behind the usual guard."
    )

    path: Path
    class_name: str
    doc: str = ""

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Lifting(self, module_of(program, self.path)).plan()


class _Lifting:
    def __init__(self, move: Lift, module: Module) -> None:
        self.move = move
        self.module = module
        self.dialect = module.dialect
        self.effects = Effects.of(module)
        self.main = MainCode.of(module)
        self.rewriting = Rewriting()
        self.rewriter = Rewriter(module, self.rewriting)
        self.layout = self.rewriter.layout

    def plan(self) -> Rewriting:
        self.object()
        unit = self.layout.indent
        pieces: list[str | Taken] = [self.dialect.class_head(self.move.class_name, self.move.doc, unit)]
        set_up = self.main.set_up
        if set_up and set_up[0].word == "string" and set_up[0].kind is Kind.EXPRESSION and not self.move.doc:
            pieces += [*self.doc_of(set_up[0]), "\n"]
            set_up = set_up[1:]
        if set_up:
            pieces.append(self.dialect.constructor_head([], unit))
            pieces += self.body(set_up)
            pieces.append("\n")
        for routine in self.routines:
            pieces += [*self.method(routine), "\n"]
        if self.sole_call is None:
            pieces.append(self.dialect.method_head(self.run_name, unit))
            pieces += self.body(self.main.run)
        else:
            pieces.pop()
            self.rewriter.drop(self.sole_call.references)
        self.take_away()
        self.rewriter.insert(
            len(self.module.source.data),
            self.gap,
            *pieces,
            "\n\n",
            self.dialect.entry(self.move.class_name, self.run_name, unit),
        )
        self.rewrite()
        self.rewriter.finish()
        return self.rewriting

    # -- what goes where

    @cached_property
    def fields(self) -> list[Symbol]:
        return self.main.fields

    @cached_property
    def routines(self) -> list[Routine]:
        return self.main.routines

    @cached_property
    def sole_call(self) -> Statement | None:
        """The one statement of the main code that only calls one of the methods: then that method is what runs."""
        if len(self.main.run) != 1:
            return None
        statement = self.main.run[0]
        if statement.kind is not Kind.EXPRESSION or statement.word != "call" or len(statement.calls) != 1:
            return None
        call = statement.calls[0]
        if call.arguments or call.callee is None or call.callee.path or (call.start, call.end) != statement.span:
            return None
        routine = next((r for r in self.routines if r.symbol is call.callee.symbol), None)
        if routine is None or routine.symbol is None or routine.parameters:
            return None
        return statement if len(routine.symbol.references) == 2 else None

    @cached_property
    def run_name(self) -> str:
        members = {self.field_name(symbol) for symbol in self.fields}
        renamed = self.sole_call.calls[0].callee if self.sole_call is not None else None
        members |= {r.name for r in self.routines if renamed is None or r.symbol is not renamed.symbol}
        return next((name for name in _RUN_NAMES if name not in members), "run_program")

    def field_name(self, symbol: Symbol) -> str:
        """A field's name: that of the variable, in small letters if nothing else has that name."""
        small = symbol.name.lower()
        others = {other.name for other in self.fields if other is not symbol} | {r.name for r in self.routines}
        if symbol.name.isupper() and small not in others and not self.dialect.is_taken(small):
            return small
        return symbol.name

    def method_name(self, routine: Routine) -> str:
        if self.sole_call is not None:
            callee = self.sole_call.calls[0].callee
            if callee is not None and callee.symbol is routine.symbol:
                return self.run_name
        return routine.name

    # -- reasons against it

    def object(self) -> None:
        objections = Objections(self.module)
        for symbol in self.fields:
            for obstacle in variable_obstacles(self.module, symbol):
                objections.add(*obstacle)
        for routine in self.routines:
            for obstacle in routine_obstacles(self.module, routine, receiver=self.dialect.receiver):
                objections.add(*obstacle)
        for obstacle in hindrance_obstacles(self.module, [symbol.name for symbol in self.main.locals]):
            objections.add(*obstacle)
        self.object_to_builtins(objections)
        self.object_to_classes(objections)
        self.object_to_early_needs(objections)
        self.object_to_order(objections)
        self.object_to_main_code(objections)
        self.object_to_names(objections)
        objections.raise_any()

    def object_to_builtins(self, objections: Objections) -> None:
        for symbol in self.main.locals:
            if self.dialect.is_taken(symbol.name):
                objections.add(
                    symbol.references[0].start,
                    f"`{symbol.name}` hides the builtin of that name; as a local variable it would hide it everywhere",
                    "Give the variable a name of its own.",
                )

    def object_to_classes(self, objections: Objections) -> None:
        moved = {*self.fields, *(r.symbol for r in self.routines)}
        for reference in self.module.references:
            if reference.symbol in moved and self.is_in_class(reference):
                objections.add(
                    reference.start,
                    f"a class of the script uses `{reference.name}`, which would move into {self.move.class_name}",
                    "Pass the value into the class first.",
                )

    def is_in_class(self, reference: Reference) -> bool:
        scope = reference.scope
        while scope.parent is not None:
            if scope.kind is ScopeKind.CLASS and scope.parent.kind is ScopeKind.MODULE:
                return True
            scope = scope.parent
        return False

    def object_to_early_needs(self, objections: Objections) -> None:
        """What stays at the top level runs before the owner is made."""
        moved = {*self.fields, *self.main.locals, *(r.symbol for r in self.routines)}
        for statement in self.main.staying:
            for inner in statement.walk():
                for reference in inner.references:
                    is_own = reference.form is Form.ROUTINE or reference.form is Form.CLASS
                    if reference.symbol in moved and not is_own and reference.scope.kind is not ScopeKind.CLASS:
                        objections.add(
                            reference.start,
                            f"`{reference.name}` is needed here while the script is being read",
                            "Use a plain value there.",
                        )

    def object_to_order(self, objections: Objections) -> None:
        """Code that stays at the top level must not have stood behind code that moves, if both can be noticed."""
        for statement, earlier in self.main.overtaking:
            line = self.module.source.line_of(earlier.start)
            objections.add(
                statement.start,
                f"this stays at the top level and would run before line {line}, which comes first today",
                "Move it above the first statement that does something.",
            )

    def object_to_main_code(self, objections: Objections) -> None:
        if not self.main.run:
            objections.add(
                0,
                "the script has no main code that could become a method",
                "Only scripts that do something when they are started can be lifted.",
            )
        guard = self.module.guard
        if guard is not None and len(guard.blocks) > 1:
            objections.add(guard.start, "the guard has another branch", "Move that branch out of the guard.")
        for statement in self.main.statements:
            for inner in statement.walk():
                if inner.kind is Kind.DECLARE and any(not self.is_field(r) for r in inner.references):
                    objections.add(
                        inner.start,
                        "a scope declaration at the top level would change its meaning inside a method",
                        "Take it away: it does nothing here.",
                    )
                if Leave.AWAIT in inner.leaves:
                    objections.add(inner.start, "the main code waits for something asynchronous", "Use a function.")
                self.object_to_private(objections, inner)

    def object_to_private(self, objections: Objections, statement: Statement) -> None:
        for reference in statement.references:
            if reference.name == self.dialect.receiver:
                objections.add(
                    reference.start,
                    f"the main code uses the name `{reference.name}` itself",
                    "Rename it there.",
                )
            if self.dialect.is_private(reference.name) and reference.scope.private is None:
                objections.add(
                    reference.start,
                    f"the name `{reference.name}` would mean something else inside a class",
                    "Let it begin with one underscore.",
                )

    def is_field(self, reference: Reference) -> bool:
        return reference.symbol in self.fields

    def object_to_names(self, objections: Objections) -> None:
        kept = {s.name for s in self.module.symbols} - {r.name for r in self.routines} - {f.name for f in self.fields}
        for name in (self.move.class_name, "main"):
            used = self.module.scope.symbols.get(name)
            if name in kept and used is not None and used.references:
                objections.add(
                    used.references[0].start,
                    f"the name `{name}` is in use already",
                    "Rename it in the script, or choose another owner's name in the design.",
                )

    # -- writing

    @property
    def gap(self) -> str:
        """The blank lines before the owner."""
        rest = self.rewriter.left
        if not rest.strip():
            return ""
        tail = rest[len(rest.rstrip(b"\n")) :].count(b"\n")
        return "\n" * max(0, 3 - tail)

    @cached_property
    def leaving(self) -> list[Statement]:
        """The top-level statements whose lines go away."""
        found = [s for s in self.main.statements if s.block is self.module.block]
        found += [r.statement for r in self.routines if r.statement is not None]
        if self.module.guard is not None and self.module.guard not in found:
            found.append(self.module.guard)
        return sorted(found, key=lambda statement: statement.start)

    def take_away(self) -> None:
        for statement in self.leaving:
            self.rewriter.remove(self.layout.lines(statement))
        if self.module.guard is not None:
            self.rewriter.drop(self.module.guard.references)

    def method(self, routine: Routine) -> list[str | Taken]:
        assert routine.statement is not None
        self.rewriter.add_receiver(routine)
        return self.rewriter.lines_taken(self.layout.lines(routine.statement), indent=self.layout.indent)

    def body(self, statements: Sequence[Statement]) -> list[str | Taken]:
        """Statements as the body of a method, with the blank lines that stood between them."""
        pieces: list[str | Taken] = []
        previous: Span | None = None
        for statement in statements:
            lines = self.layout.lines(statement)
            if previous is not None and lines.start <= previous.start:
                continue  # shares its line with the one before
            if previous is not None and self.is_parted(previous, lines):
                pieces.append("\n")
            margin = self.layout.margin(statement)
            pieces += self.rewriter.lines_taken(lines, dedent=margin, indent=self.layout.indent * 2)
            previous = lines
        return pieces

    def doc_of(self, statement: Statement) -> list[str | Taken]:
        """A text that opens the main code, as the class's docstring."""
        lines = self.layout.lines(statement)
        return self.rewriter.lines_taken(lines, dedent=self.layout.margin(statement), indent=self.layout.indent)

    def is_parted(self, one: Span, other: Span) -> bool:
        """Whether nothing but blank lines stands between two runs of lines."""
        between = self.module.source.data[one.end : other.start]
        return bool(between) and not between.strip()

    def rewrite(self) -> None:
        receiver = self.dialect.receiver
        for symbol in self.fields:
            name = self.field_name(symbol)
            for reference in symbol.references:
                if is_declaration(reference):
                    self.rewriter.drop_declaration(reference)
                else:
                    self.rewriter.replace(reference, f"{receiver}.{name}", Member(self.move.class_name, name))
        self.rewrite_locals()
        for routine in self.routines:
            name = self.method_name(routine)
            assert routine.symbol is not None
            for reference in routine.symbol.references:
                if reference in self.rewriting.dropped:
                    continue
                if reference.form is Form.ROUTINE:
                    self.rewriter.replace(reference, name, Renamed(name))
                else:
                    self.rewriter.replace(reference, f"{receiver}.{name}", Member(self.move.class_name, name))

    def rewrite_locals(self) -> None:
        """What set-up and run each have for themselves, under one name, becomes a local of either."""
        places = [(self.main.set_up, "__init__"), (self.main.run, self.run_name)]
        for symbol in self.main.locals:
            for reference in symbol.references:
                for statements, method in places:
                    if any(s.start <= reference.start < s.end for s in statements):
                        self.rewriting.went[reference] = Parameter(method, symbol.name)
