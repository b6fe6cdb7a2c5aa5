"""lift: top-level code becomes the owner, with set-up in the constructor, the loop in `run`, and a two-line main."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.design.drafting.naming import Names
from aedifex.moves.kit.binding_check import is_unbound
from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import Objections, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import is_declaration
from aedifex.moves.kit.rewriting import Entry, Member, Parameter, Renamed, Rewriting
from aedifex.program.analysis.effects import Effects
from aedifex.program.dialect.writer import Frame, Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Kind, Leave, Statement
from aedifex.program.structure.left_behind import LeftBehind
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.main_function import is_plain_start
from aedifex.program.structure.obstacles import (
    function_obstacles,
    hindrance_obstacles,
    read_after_delete,
    sees_itself_go,
    variable_obstacles,
)
from aedifex.source.text import Span

_RUN_NAMES = ("run", "start", "play", "go")
_LAST_RUN_NAME = "run_program"


@dataclass(frozen=True)
class Lift:
    """Turn a script's top-level code, and the functions that work on its state, into the owner class."""

    name: ClassVar[str] = "lift"

    path: Path
    class_name: str
    doc: str = ""

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Lifting(self, program, module_of(program, self.path)).plan()


class _Lifting(Planner):
    def __init__(self, move: Lift, program: Program, module: Module) -> None:
        super().__init__(module)
        self.program = program
        self.move = move
        self.effects = Effects.of(module)
        self.main = MainCode.of(module)

    def find_objections(self) -> None:
        self.note_objections()
        if self.objections.found and (leaving := LeftBehind(self.module).find()) is not None:
            first = self.objections
            self.objections, self.main = Objections(self.module), MainCode(self.module, leaving)
            self.note_objections()
            if self.objections.found:
                self.objections = first

    def write(self) -> None:
        unit = self.layout.indent
        whole = self.writer.class_frame(self.move.class_name, self.move.doc, unit)
        pieces: list[Piece] = [whole.head]
        set_up = self.main.set_up
        if set_up and set_up[0].is_text and not self.move.doc:
            pieces += [*self.doc_of(set_up[0]), "\n"]
            set_up = set_up[1:]
        if set_up:
            parameters = [name for name, _ in self.given]
            pieces += [*self.framed(self.writer.constructor_frame(parameters, unit, unit), set_up), "\n"]
        for function in self.functions:
            pieces += [*self.method(function), "\n"]
        if self.sole_call is None:
            is_async = self.program.enclosed is not None and self.program.enclosed.is_async
            frame = self.writer.method_frame(self.run_name, [], unit, unit, is_async=is_async)
            pieces += self.framed(frame, self.main.run)
        else:
            pieces.pop()
            self.rewriter.drop(self.sole_call.references)
        self.take_away()
        end = len(self.module.source.data)
        self.rewriter.insert(end, self.gap, *pieces, whole.tail, self.layout.gap, self.entry)
        self.rewrite()

    @property
    def entry(self) -> str:
        """The last lines: what makes the owner and runs it."""
        unit, around = self.layout.indent, self.program.enclosed
        if around is not None:
            return self.writer.enclosed_entry(around, self.move.class_name, self.run_name, unit)
        is_guarded = self.module.guard is not None or not self.module.is_imported
        return self.writer.entry(self.move.class_name, self.run_name, unit, is_guarded=is_guarded)

    @property
    def given(self) -> tuple[tuple[str, str], ...]:
        """The parameters of the owner's constructor, each with the name that stands for its value so far."""
        return self.program.enclosed.given if self.program.enclosed is not None else ()

    def framed(self, frame: Frame, statements: Sequence[Statement]) -> list[Piece]:
        """A method of the owner."""
        return [frame.head, *self.body(statements), *([frame.tail] if frame.tail else [])]

    # -- what goes where

    @property
    def fields(self) -> list[Symbol]:
        return self.main.fields

    @property
    def functions(self) -> list[Function]:
        return self.main.functions

    @property
    def sole_call(self) -> Statement | None:
        """The one statement of the main code that only calls one of the methods: then that method is what runs."""
        if len(self.main.run) != 1:
            return None
        statement = self.main.run[0]
        if statement.kind is not Kind.EXPRESSION or len(statement.calls) != 1:
            return None
        call = statement.calls[0]
        if call.arguments or call.callee is None or call.callee.path or call.span != statement.span:
            return None
        function = next((f for f in self.functions if f.symbol is call.callee.symbol), None)
        if function is None or function.parameters:
            return None
        return statement if len(function.symbol.references) == 2 else None

    @property
    def renamed(self) -> Symbol | None:
        """The function that becomes what runs the program."""
        callee = self.sole_call.calls[0].callee if self.sole_call is not None else None
        return callee.symbol if callee is not None else None

    @property
    def run_name(self) -> str:
        members = {self.field_name(symbol) for symbol in self.fields}
        members |= {f.name for f in self.functions if f.symbol is not self.renamed}
        return next((name for name in _RUN_NAMES if name not in members), _LAST_RUN_NAME)

    def field_name(self, symbol: Symbol) -> str:
        """A field's name: that of the variable, as fields are spelled if nothing else has that name."""
        name = self.dialect.naming.as_field(symbol.name)
        others = {other.name for other in self.fields if other is not symbol} | {f.name for f in self.functions}
        return symbol.name if name in others or self.dialect.rules.is_taken(name) else name

    def method_name(self, function: Function) -> str:
        return self.run_name if function.symbol is self.renamed else function.name

    # -- reasons against it

    def note_objections(self) -> None:
        for symbol in self.fields:
            for obstacle in variable_obstacles(self.module, symbol):
                self.object(*obstacle)
        for function in self.functions:
            for obstacle in function_obstacles(self.module, function):
                self.object(*obstacle)
        for obstacle in hindrance_obstacles(self.module, [symbol.name for symbol in self.main.locals]):
            self.object(*obstacle)
        self.object_to_locals()
        self.object_to_classes()
        self.object_to_early_needs()
        self.object_to_inline()
        self.object_to_starters()
        self.object_to_enclosed()
        self.object_to_order()
        self.object_to_main_code()
        self.object_to_names()

    def object_to_locals(self) -> None:
        for symbol in self.main.locals:
            if sees_itself_go(self.module, symbol):
                self.object(
                    symbol.references[0].start,
                    f"`{symbol.name}` does something when it goes, which would be at another time",
                    "Let it end by a call of its own.",
                )
            read = read_after_delete(symbol)
            if read is not None:
                reason = f"`{symbol.name}` may be read here after it was deleted"
                self.object(read.start, reason, "Give it another value.")
            if self.dialect.rules.is_taken(symbol.name):
                self.object(
                    symbol.references[0].start,
                    f"`{symbol.name}` hides the builtin of that name; as a local variable it would hide it everywhere",
                    "Give the variable a name of its own.",
                )

    def object_to_classes(self) -> None:
        moved = {*self.fields, *(f.symbol for f in self.functions)}
        for reference in self.module.references:
            if reference.symbol in moved and self.is_in_class(reference):
                self.object(
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

    def object_to_early_needs(self) -> None:
        """What stays at the top level runs before the owner is made."""
        moved = {*self.fields, *self.main.locals, *(f.symbol for f in self.functions)}
        for statement in self.main.staying:
            for inner in statement.walk():
                for reference in inner.references:
                    is_own = reference.form is Form.ROUTINE or reference.form is Form.CLASS
                    if reference.symbol in moved and not is_own and reference.scope.kind is not ScopeKind.CLASS:
                        self.object(
                            reference.start,
                            f"`{reference.name}` is needed here while the script is being read",
                            "Use a plain value there.",
                        )

    def object_to_inline(self) -> None:
        """What is defined in the set-up is not known in the run, nor the other way round."""
        for symbol in self.main.inline:
            for part in (self.main.set_up, self.main.run):
                inside = [any(s.start <= r.start < s.end for s in part) for r in symbol.references]
                if any(inside) and not all(inside):
                    self.object(symbol.references[0].start, f"`{symbol.name}` is decorated", "Leave it a function.")

    def object_to_starters(self) -> None:
        """What starts the program from elsewhere must find an entry that does all that this one does, and no more."""
        for name, place in self.module.starters.items():
            function = self.module.function(name)
            if function is None:
                continue  # it has been opened: the new entry does all of it
            is_quiet = not any(map(self.main.may_be_noticed, self.main.set_up))
            is_same = function.symbol is self.renamed and is_plain_start(function) and is_quiet
            if function in self.functions and not is_same:
                self.object(function.statement.start, f"`{name}` is used by {place}", "Let that go without it first.")

    def object_to_enclosed(self) -> None:
        """What waits around the code must find all that it names, and the constructor what it is given."""
        around = self.program.enclosed
        if around is None:
            return
        moved = {*self.fields, *self.main.locals, *self.main.inline, *(f.symbol for f in self.functions)}
        for symbol in moved:
            if symbol.name in around.names:
                self.object(symbol.references[0].start, f"`{symbol.name}` is needed by what runs the program", "")
        values = {value for _, value in around.given}
        for reference in self.module.references:
            inside = any(s.start <= reference.start < s.end for s in self.main.set_up)
            if reference.name in values and not inside:
                self.object(reference.start, "the run itself needs what the program is given", "Use a plain value.")

    def object_to_order(self) -> None:
        """Code that stays at the top level must not have stood behind code that moves, if both can be noticed."""
        for statement, earlier in self.main.overtaking:
            self.object(
                statement.start,
                "this stays at the top level and would run before {line}, which comes first today",
                "Move it above the first statement that does something.",
                earlier.start,
            )

    def object_to_main_code(self) -> None:
        if not self.main.run:
            self.object(
                0,
                "the script has no main code that could become a method",
                "Only scripts that do something when they are started can be lifted.",
            )
        guard = self.module.guard
        if guard is not None and len(guard.blocks) > 1:
            self.object(guard.start, "the guard has another branch", "Move that branch out of the guard.")
        for statement in self.main.statements:
            for inner in statement.walk():
                if inner.kind is Kind.DECLARE and any(not self.is_field(r) for r in inner.references):
                    self.object(
                        inner.start,
                        "a scope declaration at the top level would change its meaning inside a method",
                        "Take it away: it does nothing here.",
                    )
                if Leave.AWAIT in inner.leaves and not (self.program.enclosed and self.program.enclosed.is_async):
                    self.object(inner.start, "the main code waits for something asynchronous", "Use a function.")
                self.object_to_private(inner)

    def object_to_private(self, statement: Statement) -> None:
        for reference in statement.references:
            if reference.name == self.writer.receiver:
                self.object(
                    reference.start,
                    f"the main code uses the name `{reference.name}` itself",
                    "Rename it there.",
                )
            if self.dialect.rules.is_private(reference.name) and reference.scope.private is None:
                self.object(
                    reference.start,
                    f"the name `{reference.name}` would mean something else inside a class",
                    "Let it begin with one underscore.",
                )

    def is_field(self, reference: Reference) -> bool:
        return reference.symbol in self.fields

    def object_to_names(self) -> None:
        kept = {s.name for s in self.module.symbols} - {f.name for f in self.functions} - {f.name for f in self.fields}
        entry = self.program.enclosed.name if self.program.enclosed is not None else self.dialect.rules.entry
        for name in (self.move.class_name, entry):
            used = self.module.scope.symbols.get(name)
            if name in kept and used is not None and used.references:
                self.object(
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
        return "\n" * max(0, self.writer.gap + 1 - tail)

    @cached_property
    def leaving(self) -> list[Statement]:
        """The top-level statements whose lines go away."""
        found = [s for s in self.main.statements if s.block is self.module.block]
        found += [function.statement for function in self.functions if function.statement not in found]
        if self.module.guard is not None and self.module.guard not in found:
            found.append(self.module.guard)
        return sorted(found, key=lambda statement: statement.start)

    def take_away(self) -> None:
        for statement in self.leaving:
            self.rewriter.remove(self.layout.lines(statement))
        if self.module.guard is not None:
            self.rewriter.drop(self.module.guard.references)

    def method(self, function: Function) -> list[Piece]:
        self.rewriter.add_receiver(function)
        return self.rewriter.lines_taken(self.layout.lines(function.statement), indent=self.layout.indent)

    def body(self, statements: Sequence[Statement]) -> list[Piece]:
        """Statements as the body of a method, with the blank lines that stood between them."""
        pieces: list[Piece] = []
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

    def doc_of(self, statement: Statement) -> list[Piece]:
        """A text that opens the main code, as the class's docstring."""
        lines = self.layout.lines(statement)
        return self.rewriter.lines_taken(lines, dedent=self.layout.margin(statement), indent=self.layout.indent)

    def is_parted(self, one: Span, other: Span) -> bool:
        """Whether nothing but blank lines stands between two runs of lines."""
        between = self.module.source.data[one.end : other.start]
        return bool(between) and not between.strip()

    def rewrite(self) -> None:
        for symbol in self.fields:
            name = self.field_name(symbol)
            text = self.writer.member(self.writer.receiver, name)
            for reference in symbol.references:
                if is_declaration(reference):
                    self.rewriter.drop_declaration(reference)
                else:
                    self.rewriter.replace(reference, text, Member(self.move.class_name, name))
        self.rewrite_locals()
        self.rewrite_starts()
        self.rewrite_given()
        for function in self.functions:
            name = self.method_name(function)
            for reference in function.symbol.references:
                if reference in self.rewriting.dropped:
                    continue
                if reference.form is Form.ROUTINE:
                    self.rewriter.replace(reference, name, Renamed(name))
                else:
                    self.rewriter.replace(
                        reference, self.method_text(reference, name), Member(self.move.class_name, name)
                    )

    def method_text(self, reference: Reference, name: str) -> str:
        written = self.writer.bound_method if reference.mode is Mode.READ else self.writer.member
        return written(self.writer.receiver, name)

    def rewrite_starts(self) -> None:
        """What starts the program from another file calls the new entry."""
        starting = {function.symbol for function in self.functions if function.name in self.module.starters}
        for module in self.program.modules.values():
            if module is not self.module:
                for reference in (r for r in module.references if r.final in starting):
                    self.rewriting.destinations[reference] = Entry(reference.name)

    def rewrite_given(self) -> None:
        """The constructor's parameters have the routine's names again, and the routine its own."""
        around = self.program.enclosed
        if around is None:
            return
        names = {value: name for name, value in around.given}
        for reference in self.module.references:
            if reference.name in names:
                name = names[reference.name]
                self.rewriter.replace(reference, name, Parameter(self.dialect.rules.constructor, name))
        for module in self.program.modules.values():
            for reference in module.references:
                if reference.name == around.name and is_unbound(reference.symbol):
                    self.rewriting.destinations[reference] = Entry(around.name)

    def rewrite_locals(self) -> None:
        """What set-up and run each have for themselves, under one name, becomes a local of either."""
        places = [(self.main.set_up, self.dialect.rules.constructor), (self.main.run, self.run_name)]
        for symbol in [*self.main.locals, *self.main.inline]:
            for reference in symbol.references:
                for statements, method in places:
                    if any(s.start <= reference.start < s.end for s in statements):
                        self.rewriting.destinations[reference] = Parameter(method, symbol.name)


def _by_hand(program: Program, script: Path, given: Given) -> list[Lift]:
    return [Lift(script, given["class"] or Names(program.main).owner())]


MOVE = Description(
    name="lift",
    place=70,
    summary=(
        "Top-level code becomes the owner: set-up in the constructor, the loop in `run`.\n"
        "What starts the program is then a `main` of two lines behind the usual guard."
    ),
    term="Replace Procedural Main with Object",
    help="Turn top-level code into the owner: set-up in the constructor, the loop in `run`, a two-line main.",
    parameters=(StepParameter("class", Takes.OPTION, "NAME", "The owner; after the file's name unless given."),),
    make=_by_hand,
    example=Example(
        language="python",
        words="--class Harbour",
        before="""\
level = 0


def rise(by):
    global level
    level += by


while level < 3:
    rise(1)
    print(level)
""",
        after={
            "harbour.py": """\
class Harbour:
    def __init__(self):
        self.level = 0

    def rise(self, by):
        self.level += by

    def run(self):
        while self.level < 3:
            self.rise(1)
            print(self.level)


def main():
    Harbour().run()


if __name__ == "__main__":
    main()
""",
        },
    ),
)
