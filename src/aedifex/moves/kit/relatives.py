"""A class of the script with those that come from it, and how the constructors of these call its own."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.members import Members, Mentions
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call, Function, Leave, Statement
from aedifex.source.text import Span


@dataclass(frozen=True, eq=False)
class Relative:
    """A class, and the one of its file that it comes from; None where it comes from none."""

    members: Members
    base: Relative | None = None

    @property
    def scope(self) -> Scope:
        """Its scope."""
        return self.members.scope

    @property
    def statement(self) -> Statement:
        """What defines it."""
        return self.members.statement

    @cached_property
    def symbol(self) -> Symbol:
        """What it is bound to."""
        return next(r.symbol for r in self.statement.references if r.mode.writes)

    @cached_property
    def heading(self) -> list[Reference]:
        """What it comes from, or else names in its heading."""
        return [r for r in self.statement.references if r.mode.reads]

    @property
    def forebears(self) -> list[Relative]:
        """What it comes from, and what that comes from."""
        return [self.base, *self.base.forebears] if self.base is not None else []

    def comes_from(self, other: Relative) -> bool:
        """Whether it says so."""
        return any(r.symbol is other.symbol and not r.path for r in self.heading)

    @property
    def constructor(self) -> Function | None:
        """Its own one."""
        return self.members.constructor

    @property
    def setting_up(self) -> Function | None:
        """The constructor that is given the arguments when an object is made, be it inherited."""
        return self.constructor or (self.base.setting_up if self.base is not None else None)

    @cached_property
    def beginnings(self) -> list[Call]:
        """The calls by which its constructor lets that of its base set up the object."""
        if self.base is None or self.constructor is None:
            return []
        return [c for s in self.constructor.body.walk() for c in s.calls if self._is_beginning(c)]

    def _is_beginning(self, call: Call) -> bool:
        module = self.members.module
        rules = module.dialect.rules
        callee = call.callee
        if callee is None or self.base is None or callee.symbol is not self.base.symbol:
            return rules.begins_base(module, call)
        return len(callee.path) == 1 and rules.is_constructor(callee.path[0].name or "")

    @property
    def lets_objects_act(self) -> bool:
        """Whether its constructor, or that of a class which it comes from, calls its object or hands it on."""
        own = self.constructor.receiver if self.constructor is not None else None
        uses = own.references if own is not None else []
        is_asked = any(r.mode.reads and (not r.path or r.path_mode is Mode.CALL) for r in uses)
        return is_asked or (self.base is not None and self.base.lets_objects_act)

    @property
    def is_begun_once(self) -> bool:
        """Whether its constructor lets its base begin once, whatever happens, and asks nothing of the object before."""
        function = self.constructor
        if function is None or self.base is None:
            return True
        if len(self.beginnings) != 1 or all(s.deed != self.beginnings[0].span for s in function.body.statements):
            return False
        begin = self.beginnings[0].start
        before = self.members.module.references_within(Span(function.body.start, begin))
        own = [r for r in before if r.symbol is function.receiver]
        is_asked = any(not r.path or r.path_mode is Mode.CALL for r in own)
        return not is_asked and not any(Leave.RETURN in s.leaves for s in function.body.walk() if s.start < begin)


def family(program: Program, module: Module, scope: Scope) -> list[Relative]:
    """A top-level class and all further down in its file that come from it, each behind that which it comes from."""
    mentions = Mentions.of(program)
    classes = [s.defines for s in module.block.statements if s.defines and s.defines.kind is ScopeKind.CLASS]
    every = [Members(mentions, module, one) for one in classes]

    def with_base(members: Members) -> Relative:
        alone = Relative(members)
        above = (m for m in every if m.statement.start < members.statement.start)
        base = next((m for m in above if alone.comes_from(Relative(m))), None)
        return Relative(members, with_base(base)) if base is not None else alone

    found = [with_base(next(m for m in every if m.scope is scope))]
    for one in found:
        known = [relative.members for relative in found]
        below = (m for m in every if m not in known and m.statement.start > one.statement.start)
        found += [heir for m in below if (heir := Relative(m, one)).comes_from(one)]
    return found
