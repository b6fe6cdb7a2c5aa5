"""inline: a function that is called in one place only gives its statements to that place."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.control_exits import steering
from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import function_of, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import is_declaration
from aedifex.moves.kit.rewriting import Instead, Rewriting
from aedifex.program.analysis.effects import Effects, actor_of
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call, Function, ParameterKind, Statement, call_of
from aedifex.program.structure.obstacles import function_obstacles
from aedifex.source.text import Span


@dataclass(frozen=True)
class Inline:
    """Put the statements of a function in the place of the one call of it."""

    name: ClassVar[str] = "inline"

    path: Path
    routine: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        return _Inlining(module, function_of(module, self.routine)).plan()


class _Inlining(Planner):
    def __init__(self, module: Module, function: Function) -> None:
        super().__init__(module)
        self.function = function
        self.body = function.deeds
        uses = [r for r in function.symbol.references if r is not function.named]
        self.call = call_of(uses[0]) if len(uses) == 1 else None
        self.place = uses[0].statement if uses else None
        self.scope = uses[0].scope if uses else module.scope

    # -- reasons against it

    def find_objections(self) -> None:
        at, name = self.function.scope.start, self.function.name
        if self.call is None or not self.is_all(self.place, self.call):
            self.object(at, f"`{name}` is not called in one place only, by a line of its own", "Leave it a function.")
            return
        for obstacle in function_obstacles(self.module, self.function):
            self.object(*obstacle)
        if self.scope.kind not in (ScopeKind.MODULE, ScopeKind.ROUTINE):
            self.object(self.call.start, f"`{name}` is called while a class is read", "Leave it a function.")
        signature = {self.function.named, *(p.reference for p in self.function.parameters)}
        if any(r not in signature for r in self.function.statement.references):
            self.object(at, f"the signature of `{name}` needs other names", "Leave it a function.")
        first = Effects.of(self.module).first_run_of(self.function)
        if first is None or first <= self.function.statement.index:
            self.object(at, f"`{name}` may be called before it is there", "Define it further up.")
        is_plain = self.function.symbol.is_module_level and len(self.function.symbol.bindings) == 1
        if not is_plain or self.function.statement.decorators or self.function.is_postponed:
            self.object(at, f"`{name}` is more than a plain function", "Leave it a function.")
        if self.function.doc is not None:
            self.object(at, f"`{name}` has a text that says what it does", "Leave it a function.")
        if any(True for _ in steering(self.function.body.statements)):
            self.object(at, f"`{name}` returns from its middle", "Leave it a function.")
        if not self.body or self.function.body.statements[-len(self.body) :] != self.body:
            self.object(at, f"the lines of `{name}` cannot be taken as they are", "Leave it a function.")
        elif not all(self.layout.stands_alone(s) for s in self.body):
            self.object(at, f"statements of `{name}` share a line", "Break the lines.")
        self.object_to_names()
        self.object_to_arguments(self.call)

    def is_all(self, statement: Statement | None, call: Call) -> bool:
        """Whether a statement does nothing but make a call, outside of the function, on a line of its own."""
        if statement is None or statement.deed != call.span or self.scope.within(self.function.scope):
            return False
        return self.layout.stands_alone(statement) and self.layout.trailing_comment(statement) is None

    def object_to_names(self) -> None:
        """Names of the function must mean the same where it is called, and it has none of its own but parameters."""
        own, name = self.function.scope, self.function.name
        given = {p.reference.symbol for p in self.function.parameters}
        if len(list(own.walk())) > 1:
            self.object(own.start, f"`{name}` has scopes of its own inside", "Leave it a function.")
            return
        if any(s not in given or len(s.bindings) != 1 for s in own.symbols.values()):
            self.object(own.start, f"`{name}` sets variables of its own", "Leave it a function.")
        for reference in self.references:
            symbol, there = reference.symbol, self.scope.find(reference.name)
            is_outside = symbol.scope.kind is ScopeKind.OUTSIDE and there is None
            if symbol.scope is not own and there is not symbol and not is_outside:
                reason = f"`{reference.name}` means something else where `{name}` is called"
                self.object(reference.start, reason, "Give it another name.")

    def object_to_arguments(self, call: Call) -> None:
        """Each parameter must stand for one name, which stays what it is meanwhile."""
        parameters = self.function.parameters
        is_one_by_one = all(p.kind is ParameterKind.PLAIN for p in parameters)
        is_one_by_one = is_one_by_one and not any(a.keyword or a.stars for a in call.arguments)
        if len(call.arguments) != len(parameters) or not is_one_by_one:
            self.object(call.start, "some arguments are not given one by one", "Leave it a function.")
            return
        for argument in self.arguments(call):
            if argument.reference is None or argument.sense is not Sense.NAME or not self.stays(argument.reference):
                text = self.module.source.slice(argument.span)
                self.object(argument.start, f"`{text}` might be another value in the middle of it", "Name it first.")

    def arguments(self, call: Call) -> Sequence[Expression]:
        """The arguments of a call as expressions."""
        surroundings = Surroundings.of(self.module)
        callee = surroundings.of_reference(call.callee) if call.callee is not None else None
        around = surroundings.around(callee) if callee is not None else None
        return around.parts[1:] if around is not None and around.sense is Sense.CALL else []

    def stays(self, name: Reference) -> bool:
        """Whether a name has the same value all through the function."""
        symbol = name.symbol
        effects = Effects.of(self.module)
        rebound = effects.transitive[self.function].rebinds
        caller = actor_of(self.scope)
        return symbol not in rebound and all(actor_of(r.scope) is caller for r in symbol.bindings)

    @property
    def references(self) -> list[Reference]:
        """All names in the statements of the function."""
        return [r for statement in self.body for r in self.module.references_within(statement.span)]

    # -- writing

    def write(self) -> None:
        assert self.call is not None and self.place is not None and self.call.callee is not None
        place, margin = self.place, self.layout.margin(self.place)
        home, lines = self.layout.lines(self.function.statement), self.layout.own_lines(place)
        given = [p.reference.symbol for p in self.function.parameters]
        values = dict(zip(given, (a.reference for a in self.arguments(self.call)), strict=True))
        for reference in self.references:
            value = values.get(reference.symbol)
            if value is not None:
                self.rewriter.replace(reference, value.name, Instead(value.symbol))
        start, end = self.layout.lines(self.body[0]).start, self.layout.own_lines(self.body[-1]).end
        pieces: list[Piece] = [*self.rewriter.comments(home.start, self.function.statement.start, margin)]
        pieces += self.rewriter.lines_taken(Span(start, end), self.layout.margin(self.body[0]), margin)
        self.rewriter.insert(lines.start, *pieces)
        self.rewriter.remove(lines)
        self.rewriter.remove(home)
        self.share()
        kept = set(self.references)
        gone = [r for r in self.module.references_within(self.function.statement.span) if r not in kept]
        self.rewriter.drop([*gone, *self.module.references_within(place.span)])

    def share(self) -> None:
        """What the function sets of the module is declared where it is called, if that is in another function."""
        caller = actor_of(self.scope)
        if not isinstance(caller, Function):
            return
        needed = {r.symbol for r in self.references if r.mode.writes and r.symbol.scope is not self.function.scope}
        names = sorted(symbol.name for symbol in needed if not _declares(caller.scope, symbol))
        if names:
            first = next(s for s in caller.body.statements if s.span != caller.doc)
            margin = self.layout.margin(first)
            self.rewriter.insert(self.layout.lines(first).start, *self.writer.sharing(names, margin))


def _declares(scope: Scope, symbol: Symbol) -> bool:
    return any(is_declaration(use) and use.symbol is symbol for use in scope.uses)


def _by_hand(program: Program, script: Path, given: Given) -> list[Inline]:
    return [Inline(script, given["function"])]


MOVE = Description(
    name="inline",
    place=22,
    summary=(
        "A function that one line calls gives its statements to that place.\n"
        "Refused where a name would mean something else there, or it returns a value."
    ),
    term="Inline Function",
    help="Put the statements of a function in the place of the only call of it.",
    parameters=(StepParameter("function", Takes.ONE, "FUNCTION"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="drop",
        before="""\
lost = 0
kites = ["red", "blue"]


def drop(one):
    global lost
    print("down comes", one)
    lost += 1


for kite in kites:
    drop(kite)
print(lost)
""",
        after={
            "harbour.py": """\
lost = 0
kites = ["red", "blue"]


for kite in kites:
    print("down comes", kite)
    lost += 1
print(lost)
""",
        },
    ),
)
