"""Variables that hold what a routine, called at once, gives back: functions that share what it declares."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.effects import Effects, actor_of
from aedifex.program.analysis.flow import leaves
from aedifex.program.dialect.written import WrittenMember
from aedifex.program.model.module import Module
from aedifex.program.model.names import Access, AccessKind, Form, Reference, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Lambda, Leave, Pair, Statement
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.obstacles import Obstacle, place_obstacles
from aedifex.program.structure.own_names import uses_own
from aedifex.source.text import Span

_AROUND = re.compile(r"[\s()]*")
_ADVICE = "Leave it as it is, or write it as a class by hand."


@dataclass(frozen=True)
class ClosedModule:
    """One of them: the statement that sets the variable, the routine, its body, and what it gives back in the end.

    `given` are the members of that, each with the function that it is: one of its own, or a nameless one.
    """

    module: Module
    symbol: Symbol
    statement: Statement
    routine: Lambda
    body: Block
    giving: Statement
    given: tuple[tuple[WrittenMember, Function | Lambda], ...]

    @cached_property
    def own(self) -> list[Symbol]:
        """What the routine declares, in the order of the text."""
        found = [s for s in self.routine.scope.symbols.values() if any(r.binds for r in s.references)]
        return sorted(found, key=lambda symbol: symbol.references[0].start)

    @property
    def functions(self) -> list[Function]:
        """The functions that the routine declares."""
        return [f for f in self.module.all_functions if f.symbol.scope is self.routine.scope]

    @property
    def is_about_state(self) -> bool:
        """Whether its functions share a variable: else there is nothing to gather."""
        named = {function.symbol for function in self.functions}
        inside = {self.routine.scope}
        return any(s not in named and any(r.scope.frame not in inside for r in s.references) for s in self.own)

    def member_of(self, use: Reference) -> WrittenMember | None:
        """What a use of the variable asks it for."""
        first: Access | None = use.path[0] if len(use.path) == 1 else None
        if (
            first is None
            or first.kind is not AccessKind.ATTRIBUTE
            or (use.path_mode is not None and use.path_mode.writes)
        ):
            return None
        return next((member for member, _ in self.given if member.name == first.name), None)

    @property
    def obstacles(self) -> Iterator[Obstacle]:
        """Why what it has cannot come to the top level."""
        at, name, layout = self.statement.start, self.symbol.name, Layout.of(self.module)
        if self.module.is_known_outside(name):
            yield Obstacle(at, f"`{name}` is found by its name from outside", _ADVICE)
        stand_apart = map(layout.stands_alone, (self.statement, *self.body.statements))
        if not all(stand_apart) or any(s.is_text or s.kind is Kind.NOTHING for s in self.body.statements):
            yield Obstacle(at, f"what is in `{name}` has no lines of its own, or rules of its own", _ADVICE)
        yield from place_obstacles(self.module, self.statement.span)
        for member, routine in self.given:
            if uses_own(routine) or (isinstance(routine, Lambda) and routine.is_generator):
                yield Obstacle(member.whole.start, f"`{member.name}` asks for what it is called on, or with", _ADVICE)
        for symbol in (s for s in self.own if Form.CLASS in s.forms):
            yield Obstacle(symbol.references[0].start, f"`{symbol.name}` is a class of its own", _ADVICE)
        for function in self.functions:
            if uses_own(function) or any(use.path for use in function.symbol.references):
                yield Obstacle(function.statement.start, f"`{function.name}` is asked for more than a call", _ADVICE)
        for use in self.symbol.references:
            if use.binds:
                continue
            if self.member_of(use) is None:
                yield Obstacle(
                    use.start, f"`{name}` is used otherwise than to ask it for one of its functions", _ADVICE
                )
            elif not self._is_ready(use):
                yield Obstacle(use.start, f"`{name}` may have no value yet here", _ADVICE)

    def _is_ready(self, use: Reference) -> bool:
        actor, statement = actor_of(use.scope), use.statement
        if statement is not None and self.statement.span.holds(use.span):
            return actor is not None and actor is not self.routine
        first = Effects.of(self.module).first_run_of(actor) if actor is not None else None
        if actor is None and statement is not None:
            first = statement.outermost.index
        return first is None or first > self.statement.index


def closed_modules(module: Module) -> Iterator[ClosedModule]:
    """Those of a script whose variable is set once, at the top level."""
    for statement in module.block.statements:
        pairs = statement.assignment.pairs if statement.assignment is not None else ()
        if statement.kind is Kind.ASSIGN and len(pairs) == 1 and len(pairs[0].target.symbol.bindings) == 1:
            found = _closed_module(module, statement, pairs[0])
            if found is not None and found.is_about_state:
                yield found


def closed_module(module: Module, name: str) -> ClosedModule | None:
    """The one that a variable holds."""
    return next((one for one in closed_modules(module) if one.symbol.name == name), None)


def _closed_module(module: Module, statement: Statement, pair: Pair) -> ClosedModule | None:
    routine = _called_at_once(module, statement, pair.value.span)
    body = routine.body if routine is not None else None
    giving = body.statements[-1] if body is not None and len(body.statements) > 1 else None
    if routine is None or body is None or giving is None or giving.returned is None or pair.target.path:
        return None
    if giving.leaves != {Leave.RETURN} or leaves(body.statements[:-1]) or uses_own(routine):
        return None
    members = module.dialect.rules.members_written(module, giving.returned)
    given = [(member, _function(module, routine, member)) for member in members or ()]
    known = tuple((member, function) for member, function in given if function is not None)
    is_all = bool(known) and len(known) == len(given)
    return ClosedModule(module, pair.target.symbol, statement, routine, body, giving, known) if is_all else None


def _called_at_once(module: Module, statement: Statement, value: Span) -> Lambda | None:
    """The routine that is called in a value, with nothing, and that is all of it."""
    inside = [r for r in module.routines if isinstance(r, Lambda) and r.statement is statement and r.body is not None]
    routine = min(inside, key=lambda r: (r.scope.start, -r.scope.end), default=None)
    if routine is None or routine.parameters or routine.is_postponed:
        return None
    scope, slice_of = routine.scope, module.source.slice
    around = (Span(value.start, scope.start), Span(scope.end, value.end))
    is_alone = all(_AROUND.fullmatch(slice_of(span)) for span in around)
    calls = [c for c in statement.calls if c.start <= scope.start and scope.end <= c.end]
    return routine if is_alone and len(calls) == 1 and calls[0].callee is None else None


def _function(module: Module, around: Lambda, member: WrittenMember) -> Function | Lambda | None:
    """The function that a member is, for good."""
    if member.worked_out:
        return None
    at = member.routine if member.routine is not None else member.value.start if member.value is not None else None
    nameless = (r for r in module.routines if isinstance(r, Lambda) and r.scope.start == at)
    if (found := next(nameless, None)) is not None:
        return found if member.value is None or found.scope.end == member.value.end else None
    named = (f for f in module.all_functions if f.symbol.scope is around.scope and len(f.symbol.bindings) == 1)
    said = {r.symbol for r in module.references if member.value == r.span and not r.path}
    return next((function for function in named if function.symbol in said), None)
