"""lift: top-level code becomes the owner, with set-up in the constructor, the loop in `run`, and a two-line main."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import chain, count
from pathlib import Path
from textwrap import indent
from typing import ClassVar

from aedifex.design.drafting.naming import Names
from aedifex.moves.kit.binding_check import is_unbound
from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.lift_objections import LiftObjections
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.rewriter import is_declaration
from aedifex.moves.kit.rewriting import Entry, Member, Parameter, Renamed, Rewriting
from aedifex.moves.kit.set_up_parts import SetUpParts
from aedifex.program.dialect.writer import Frame, Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Kind, Statement
from aedifex.program.structure.state import is_used_in_routine
from aedifex.source.text import Span
from aedifex.survey.words import words_of

_RUN_NAMES = ("run", "start", "play", "go")
_TELLING_NAMES = ("add_to", "add_routes", "add_all_routes")
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


class _Lifting(LiftObjections):
    def __init__(self, move: Lift, program: Program, module: Module) -> None:
        super().__init__(program, module, move.class_name)
        self.move = move

    def write(self) -> None:
        unit = self.layout.indent
        whole = self.writer.class_frame(self.move.class_name, self.move.doc, unit)
        pieces: list[Piece] = [whole.head]
        set_up = self.set_up
        if set_up and set_up[0].is_text and not self.move.doc:
            pieces += [*self.doc_of(set_up[0]), "\n"]
            set_up = set_up[1:]
        pieces += self.declared()
        begun = [*self.bindings(), *self.kept()]
        if set_up or begun:
            frame = self.writer.constructor_frame(self.given, unit, unit)
            pieces += [frame.head, *begun, *self.body(set_up), frame.tail, "\n"]
        methods = [[*self.method(function), "\n"] for function in self.functions]
        if self.run and self.sole_call is None:
            methods.insert(0 if self.registrations else len(methods), [*self.running(), "\n"])
        elif self.sole_call is not None:
            self.rewriter.drop(self.sole_call.references)
        pieces += [piece for method in methods for piece in method]
        pieces.pop()
        self.take_away()
        at, above, ending = self.ending()
        self.rewriter.insert(at, above, *pieces, whole.tail, self.layout.gap, *ending)
        self.rewrite()

    def ending(self) -> tuple[int, str, list[Piece]]:
        """Where the class stands, what is to be above it, and what comes behind it: the owner is made, and runs."""
        closing, end = self.main.closing, len(self.module.source.data)
        if self.makes_application:
            made = self.application_made()
            return end, self.gap, made
        if not closing:
            return end, self.gap, [self.entry]
        at, below = self.layout.lines(closing[0]).start, ""
        if self.was_guarded:
            self.guard_again(closing)
        elif closing[0] is self.module.guard or self.main.fronts.found:
            below = self.layout.gap
        return at, self.layout.gap_before(at), [self.entry, below]

    @property
    def was_guarded(self) -> bool:
        """Whether what comes last was carried out only where the script is started itself, and has no guard now."""
        return bool(self.registrations) and self.module.guard is None and self.program.origin.main.guard is not None

    def guard_again(self, closing: Sequence[Statement]) -> None:
        """Put what the script itself has there under a guard."""
        is_own = [self.program.original_lines_of([statement]) is not None for statement in closing]
        own = closing[is_own.index(True) :] if any(is_own) else []
        head = [self.layout.gap, self.writer.guard_frame().head]
        for statement in own:
            lines, margin = self.layout.lines(statement), self.layout.margin(statement)
            taken = self.rewriter.lines_taken(lines, dedent=margin, indent=f"{margin}{self.layout.indent}")
            self.rewriting.changes.replace(self.module.path, lines, *(head if statement is own[0] else ()), *taken)

    def application_made(self) -> list[Piece]:
        """The routine that makes an application, tells it of the handlers, and gives it back; and what uses that."""
        around, unit = self.program.enclosed, self.layout.indent
        assert around is not None
        own = (self.making.statements, self.main.closing)
        before, behind = ([*self.within(statements)] for statements in own)
        used = [self.layout.gap, around.closing] if around.closing else []
        entry = indent(self.entry, unit)
        return [f"{around.heading}\n", *before, entry, *behind, *used]

    @cached_property
    def declaring(self) -> list[Statement]:
        """The statements that do nothing but to declare fields, in a language that has such."""
        found = self.only_declaring(self.main.statements)
        return [s for s in found if all(r.declares and r.symbol in self.main.fields for r in s.references)]

    def only_declaring(self, statements: Sequence[Statement]) -> list[Statement]:
        """Those of some statements that do nothing but to declare names."""
        return [s for s in statements if s.kind is Kind.DECLARE and s.keyword and s.references]

    def declared(self) -> list[Piece]:
        """The fields that have no value at first, with the comments beside them."""
        pieces: list[Piece] = []
        for statement in self.declaring:
            lines, own, unit = self.layout.lines(statement), self.layout.own_lines(statement), self.layout.indent
            pieces += self.rewriter.comments(lines.start, own.start, unit)
            names = [self.writer.field_declared(self.field_name(r.symbol)) for r in statement.references]
            pieces += [unit, " ".join(names), *self.rewriter.comment_behind(statement), "\n"]
        return [*pieces, *(["\n"] if pieces else [])]

    def bindings(self) -> list[Piece]:
        """The constructor's first lines: methods that are values are kept bound, where that must be said."""
        used = [f for f in self.functions if any(r.mode is Mode.READ for r in f.symbol.references)]
        lines = [self.writer.binding(self.method_name(function)) for function in used]
        return [f"{self.layout.indent * 2}{line}\n" for line in lines if line]

    def kept(self) -> list[Piece]:
        """The constructor's first lines: it keeps the applications that handlers use."""
        used = [symbol for symbol in self.making.handed_on if symbol in self.main.routes.applications]
        given = [symbol for symbol in used if is_used_in_routine(symbol)]
        pieces: list[Piece] = []
        for symbol in given:
            field = self.writer.member(self.writer.receiver, symbol.name)
            pieces += [self.layout.indent * 2, *self.writer.assignment(field, [symbol.name])]
        return pieces

    def within(self, statements: Sequence[Statement]) -> Iterator[Piece]:
        """Statements of the top level, taken into a routine."""
        for statement in statements:
            lines, margin = self.layout.lines(statement), self.layout.margin(statement)
            yield from self.rewriter.lines_taken(lines, dedent=margin, indent=self.layout.indent)
            self.rewriter.remove(lines)

    def running(self) -> list[Piece]:
        """The method that runs the program, or that tells the application of the handlers."""
        unit, around = self.layout.indent, self.program.enclosed
        given = [symbol.name for symbol in self.told]
        is_async = around is not None and around.is_async
        return self.framed(self.writer.method_frame(self.run_name, given, unit, unit, is_async=is_async), self.run)

    @cached_property
    def parts(self) -> SetUpParts:
        """What of the set-up is none of the constructor's business."""
        return SetUpParts(self.module, self.main)

    @property
    def set_up(self) -> list[Statement]:
        """What the constructor does."""
        left = [*self.begun, *self.parts.idle, *self.outside, *self.declaring, *self.unused, *self.echoes]
        return [s for s in self.main.set_up if s not in left]

    @cached_property
    def unused(self) -> list[Statement]:
        """The statements that only declare what nobody uses, and of which nothing is said."""
        found = self.only_declaring(self.main.set_up)
        found = [s for s in found if self.layout.lines(s).start == self.layout.own_lines(s).start]
        found = [s for s in found if self.layout.trailing_comment(s) is None]
        return [s for s in found if all(r.symbol.references == [r] for r in s.references)]

    @cached_property
    def outside(self) -> list[Statement]:
        """The statements that give a variable what only the routine itself uses: it has that already."""
        kept = self.making.kept_outside
        symbols = [symbol for name, symbol in self.making.supplied.items() if name in kept]
        return [s for s in self.making.receiving if any(r.symbol in symbols for r in s.references)]

    @cached_property
    def echoes(self) -> list[Statement]:
        """The statements that would give a local of the constructor the parameter of its name."""
        names = self.program.enclosed.parameter_of if self.program.enclosed is not None else {}
        own = [*self.main.locals, *self.main.inline]
        found: list[Statement] = []
        for statement in self.main.set_up:
            pairs = statement.assignment.pairs if statement.assignment is not None else ()
            taken = [names.get(self.module.source.slice(pair.value.span)) for pair in pairs]
            if taken and taken == [pair.target.name for pair in pairs if pair.target.symbol in own]:
                found.append(statement)
        return found

    @property
    def begun(self) -> list[Statement]:
        """The statements of the set-up with which the run begins."""
        return self.parts.sunk if self.sole_call is None else []

    @property
    def run(self) -> list[Statement]:
        """What the run does."""
        return [*self.begun, *(s for s in self.main.run if s not in self.declaring)]

    @property
    def fields(self) -> list[Symbol]:
        """The variables that become the owner's fields."""
        return [symbol for symbol in self.main.fields if symbol not in self.begun_with]

    @property
    def begun_with(self) -> Collection[Symbol]:
        """The variables to which the run gives their first values."""
        return self.parts.sunk_symbols if self.begun else ()

    @property
    def registrations(self) -> list[Statement]:
        """The statements that tell an application of handlers."""
        return self.main.routes.registrations

    @cached_property
    def told(self) -> list[Symbol]:
        """The applications that are told of handlers, in the order in which that begins."""
        used = (r.symbol for s in self.main.run for inner in s.walk() for r in inner.references)
        return [symbol for symbol in dict.fromkeys(used) if symbol in self.main.routes.served]

    @cached_property
    def is_asked_later(self) -> bool:
        """Whether what comes last uses the owner."""
        moved = {*self.fields, *(function.symbol for function in self.functions)}
        return any(r.symbol in moved for s in self.main.closing for inner in s.walk() for r in inner.references)

    @cached_property
    def variable(self) -> str:
        """A free name for the owner, where what comes last uses it."""
        joined, rules = self.dialect.naming.joined, self.dialect.rules
        words = words_of(self.move.class_name)
        wishes = chain((joined(*words), joined("the", *words)), (joined(*words, str(n)) for n in count(1)))
        return next(w for w in wishes if w not in self.module.names_in_use and not rules.is_taken(w))

    @property
    def entry(self) -> str:
        """The last lines: what makes the owner and runs it."""
        unit, around = self.layout.indent, self.program.enclosed
        if self.registrations:
            told, variable = [symbol.name for symbol in self.told], self.variable if self.is_asked_later else ""
            made = self.made(self.given)
            return self.writer.call_on_new(made, self.run_name, told, variable)
        if self.main.fronts.found:
            made = "".join(map(str, self.writer.variable(self.variable, [self.made([])])))
            run = self.writer.call(self.writer.member(self.variable, self.run_name), [])
            return f"{made}{self.waiting}{self.writer.ended(run)}\n" if self.main.run else made
        if around is not None:
            return self.writer.enclosed_entry(around, self.move.class_name, self.run_name, unit)
        is_read = self.module.is_imported or bool(self.module.found_by_name)
        is_guarded = self.module.guard is not None or not is_read
        entry = self.writer.entry(self.move.class_name, self.run_name, unit, is_guarded=is_guarded)
        return f"{self.waiting}{entry}"

    def made(self, given: Sequence[str]) -> str:
        """What makes the owner."""
        return "".join(map(str, self.writer.creation(self.move.class_name, given)))

    @property
    def given(self) -> list[str]:
        """The parameters of the owner's constructor."""
        if self.makes_application:
            return [*self.making.handed_on.values()]
        return [name for name, _ in self.program.enclosed.given] if self.program.enclosed is not None else []

    def framed(self, frame: Frame, statements: Sequence[Statement]) -> list[Piece]:
        """A method of the owner."""
        return [frame.head, *self.body(statements), *([frame.tail] if frame.tail else [])]

    # -- what goes where

    @property
    def run_name(self) -> str:
        members = {self.field_name(symbol) for symbol in self.fields}
        members |= {f.name for f in self.functions if f.symbol is not self.renamed}
        wishes = _RUN_NAMES if not self.registrations else _TELLING_NAMES if self.told else _TELLING_NAMES[1:]
        names = [self.dialect.naming.member_name(wish.split("_")) for wish in (*wishes, _LAST_RUN_NAME)]
        return next((name for name in names if name not in members), names[-1])

    def field_name(self, symbol: Symbol) -> str:
        """A field's name: that of the variable, as fields are spelled if nothing else has that name."""
        name = self.dialect.naming.as_field(symbol.name)
        others = {other.name for other in self.fields if other is not symbol} | {f.name for f in self.functions}
        return symbol.name if name in others or self.dialect.rules.is_taken(name) else name

    def method_name(self, function: Function) -> str:
        return self.run_name if function.symbol is self.renamed else function.name

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
        found += [s for s in self.outside if s not in found]
        found += [function.statement for function in self.functions if function.statement not in found]
        guard = self.module.guard
        if guard is not None and guard not in found and guard not in self.main.closing:
            found.append(guard)
        return sorted(found, key=lambda statement: statement.start)

    def take_away(self) -> None:
        for statement in self.leaving:
            self.rewriter.remove(self.layout.lines(statement))
        for statement in self.unused:
            self.rewriter.drop(statement.references)
        if self.module.guard is not None and self.module.guard not in self.main.closing:
            self.rewriter.drop(self.module.guard.references)

    def method(self, function: Function) -> list[Piece]:
        self.rewriter.make_method(function)
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
            for reference in symbol.references:
                if is_declaration(reference):
                    self.rewriter.drop_declaration(reference)
                elif reference not in self.making.known_outside:
                    text = self.writer.member(self.owner_at(reference), name)
                    self.rewriter.replace(reference, text, Member(self.move.class_name, name))
        self.rewrite_told()
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
                elif is_declaration(reference):
                    self.rewriter.drop_declaration(reference)
                else:
                    self.rewriter.replace(
                        reference, self.method_text(reference, name), Member(self.move.class_name, name)
                    )

    def method_text(self, reference: Reference, name: str) -> str:
        written = self.writer.bound_method if reference.mode is Mode.READ else self.writer.member
        return written(self.owner_at(reference), name)

    def owner_at(self, reference: Reference) -> str:
        """By which name the owner is known at a place."""
        is_last = any(s.start <= reference.start < s.end for s in self.main.closing)
        return self.variable if is_last else self.writer.receiver

    def rewrite_told(self) -> None:
        """The applications are given to what tells them of handlers."""
        for symbol in self.told:
            for reference in symbol.references:
                if any(s.start <= reference.start < s.end for s in self.main.run):
                    self.rewriting.destinations[reference] = Parameter(self.run_name, symbol.name)
                elif self.makes_application and self.program.enclosed is not None:
                    self.rewriting.destinations[reference] = Parameter(self.program.enclosed.name, symbol.name)

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
        names = around.parameter_of
        self.rewrite_handed()
        for reference in self.module.references:
            if reference.name in names and reference not in self.rewriting.dropped:
                name = names[reference.name]
                self.rewriter.replace(reference, name, Parameter(self.dialect.rules.constructor, name))
        for module in self.program.modules.values():
            for reference in module.references:
                if reference.name == around.name and is_unbound(reference.symbol):
                    self.rewriting.destinations[reference] = Entry(around.name)

    def rewrite_handed(self) -> None:
        """The routine knows what it is given by that name; the owner has the applications it is handed in fields."""
        around, constructor = self.program.enclosed, self.dialect.rules.constructor
        assert around is not None
        self.rewriter.drop(r for statement in self.outside for r in statement.references)
        for name, symbol in self.making.supplied.items():
            for reference in (r for r in symbol.references if r in self.making.known_outside):
                self.rewriter.replace(reference, name, Parameter(around.name, name))
        for symbol in (s for s in self.making.handed_on if s in self.main.routes.applications):
            for reference in self.making.outside(symbol):
                if reference.scope is self.module.scope:
                    self.rewriting.destinations[reference] = Parameter(constructor, symbol.name)
                else:
                    field = self.writer.member(self.writer.receiver, symbol.name)
                    self.rewriter.replace(reference, field, Member(self.move.class_name, symbol.name))

    def rewrite_locals(self) -> None:
        """What set-up and run each have for themselves, under one name, becomes a local of either."""
        places = [(self.set_up, self.dialect.rules.constructor), (self.run, self.run_name)]
        self.rewriter.drop(r for statement in (*self.parts.idle, *self.echoes) for r in statement.references)
        for symbol in [*self.begun_with, *self.main.locals, *self.main.inline]:
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
