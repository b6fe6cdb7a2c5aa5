"""Objects that are written out once, with what they hold and functions that use it: classes but for their form."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.written import WrittenMember
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Reference, Symbol
from aedifex.program.model.statements import Lambda, Sort, Statement
from aedifex.program.structure.obstacles import Obstacle, place_obstacles
from aedifex.program.structure.own_names import uses_own
from aedifex.source.text import Span
from aedifex.survey.words import words_of

_ADVICE = "Leave it as it is, or write it as a class by hand."


@dataclass(frozen=True)
class LoneObject:
    """A variable that holds one object all the time, written out at the top level where it is declared."""

    module: Module
    symbol: Symbol
    statement: Statement
    value: Span
    members: Sequence[WrittenMember]

    @property
    def class_name(self) -> str:
        """What its class would be called."""
        return self.module.dialect.naming.class_name(words_of(self.symbol.name))

    @property
    def held(self) -> list[WrittenMember]:
        """What is no method."""
        return [member for member in self.members if member.routine is None]

    @cached_property
    def methods(self) -> list[tuple[WrittenMember, Lambda]]:
        """Its functions."""
        routines = {r.scope.start: r for r in self.module.routines if isinstance(r, Lambda)}
        pairs = ((member, routines.get(member.routine)) for member in self.members if member.routine is not None)
        return [(member, routine) for member, routine in pairs if routine is not None]

    @cached_property
    def own_uses(self) -> list[Reference]:
        """Where its functions call the object by the variable's name, and could as well say that it is themselves."""
        return [use for use in self.symbol.references if any(self._is_own(use, routine) for _, routine in self.methods)]

    def _is_own(self, use: Reference, routine: Lambda) -> bool:
        scope = use.scope
        while scope is not routine.scope:
            inner = scope.routine
            has_own = inner is not None and self.module.dialect.rules.has_receiver(self.module, inner)
            if has_own or scope.parent is None:
                return False
            scope = scope.parent
        return True

    @property
    def is_whole(self) -> bool:
        """Whether it holds something, and its functions use that: no table of functions to choose from."""
        uses = self.own_uses or any(uses_own(routine) for _, routine in self.methods)
        return bool(self.held and self.methods and uses)

    @cached_property
    def obstacles(self) -> list[Obstacle]:
        """Why it cannot be an object of a class."""
        ways = (self._name, self._members, self._own_names, self._places, self._itself, self._uses, self._handed_on)
        return [obstacle for way in ways for obstacle in way()]

    def _name(self) -> Iterator[Obstacle]:
        rules, name, at = self.module.dialect.rules, self.class_name, self.symbol.references[0].start
        is_free = rules.is_name(name) and not rules.is_taken(name) and name != self.symbol.name
        if not is_free or any(reference.name == name for reference in self.module.references):
            yield Obstacle(at, f"the name `{name}` is in use", _ADVICE)
        if self.module.is_known_outside(self.symbol.name) or self.module.is_known_outside(name):
            yield Obstacle(at, f"`{self.symbol.name}` is found by its name from outside", _ADVICE)
        walked = rules.walks_over_names(self.module)
        if walked is not None:
            yield Obstacle(walked, "the names of an object's members are gone through here", _ADVICE)

    def _members(self) -> Iterator[Obstacle]:
        rules, source = self.module.dialect.rules, self.module.source
        names = Counter(member.name for member in self.members if not member.worked_out)
        worked_out = {member.name for member in self.members if member.worked_out}
        for member in self.members:
            before = source.slice(Span(source.line_start(member.whole.start), member.whole.start))
            behind = source.slice(Span(member.whole.end, source.line_end(member.whole.end)))
            is_apart = not before.strip() and self._is_end(behind, member.whole.end)
            is_doubled = names[member.name] + (member.name in worked_out) > 1
            if is_doubled or rules.has_meaning(member.name) or not rules.is_name(member.name):
                yield Obstacle(member.named.start, f"`{member.name}` is no plain name of a member", _ADVICE)
            elif not is_apart:
                yield Obstacle(member.whole.start, "several members stand in one line", _ADVICE)

    def _is_end(self, behind: str, at: int) -> bool:
        """Whether nothing but a comma, and a comment, stands behind a member in its last line."""
        rest = behind.strip().removeprefix(",").strip()
        start = at + len(behind.encode()) - len(behind[behind.find(rest) :].encode()) if rest else at
        return not rest or any(comment.start == start for comment in self.module.comments)

    def own_names(self, member: WrittenMember, routine: Lambda) -> list[Reference]:
        """What a function is called by itself alone, between its word and its parameters."""
        return self.module.references_within(Span(member.named.end, routine.signature.start))

    def _own_names(self) -> Iterator[Obstacle]:
        for member, routine in self.methods:
            for name in self.own_names(member, routine):
                if len(name.symbol.references) > 1:
                    yield Obstacle(name.start, f"`{name.name}` is used inside of itself", _ADVICE)

    def _places(self) -> Iterator[Obstacle]:
        yield from place_obstacles(self.module, self.statement.span)
        receiver, base = self.module.dialect.writer.receiver, self.module.dialect.rules.reaches_base
        for use in self.module.references_within(self.value):
            home = use.symbol.scope
            is_of_script = not self.value.holds(Span(home.start, home.end))
            if is_of_script and use.name == receiver:
                yield Obstacle(use.start, f"`{use.name}` means something else in a class", _ADVICE)
        if re.search(rf"\b{re.escape(base)}\b", self.module.source.slice(self.value)):
            yield Obstacle(self.value.start, f"`{base}` means something else in a class", _ADVICE)

    def _itself(self) -> Iterator[Obstacle]:
        """A function may call its object by another name, but give it to nobody: it would show what it is."""
        for use in self.module.references_within(self.value):
            if use.name == self.module.dialect.writer.receiver and not use.path and not self._is_named_anew(use):
                yield Obstacle(use.start, f"`{use.name}` is used as a whole here", _ADVICE)

    def _is_named_anew(self, use: Reference) -> bool:
        given = use.statement.assignment if use.statement is not None else None
        pairs = given.pairs if given is not None else ()
        named = next((pair.target.symbol for pair in pairs if pair.value.span == use.span), None)
        return named is not None and all(r.binds or r.path for r in named.references)

    def _uses(self) -> Iterator[Obstacle]:
        rules, functions = self.module.dialect.rules, self._called
        for use in self.symbol.references:
            if use.binds:
                continue
            first = use.path[0] if use.path else None
            if first is None or first.kind is not AccessKind.ATTRIBUTE:
                yield Obstacle(use.start, f"`{self.symbol.name}` is used as a whole here", _ADVICE)
            elif rules.makes_object(self.module, use):
                yield Obstacle(use.start, f"a function of `{self.symbol.name}` makes an object here", _ADVICE)
            elif len(use.path) == 1 and first.name in functions and use.path_mode is not None and use.path_mode.writes:
                yield Obstacle(use.start, f"a function of `{self.symbol.name}` is set anew here", _ADVICE)

    @property
    def _called(self) -> set[str]:
        """The names of its functions that are called."""
        return {member.name for member, _ in self.methods if not member.worked_out}

    def _handed_on(self) -> Iterator[Obstacle]:
        """A function that is called without its object finds none in a class, and something else before."""
        functions, surroundings = self._called, Surroundings.of(self.module)
        for asked in (e for tree in surroundings.trees for e in tree.walk() if e.sense is Sense.MEMBER):
            if asked.name in functions and self._may_be_ours(asked) and not surroundings.is_called(asked):
                yield Obstacle(asked.start, f"`{asked.name}` is handed on without its object here", _ADVICE)

    def _may_be_ours(self, asked: Expression) -> bool:
        reference = asked.parts[0].reference
        return (
            reference is None
            or reference.symbol is self.symbol
            or reference.name == self.module.dialect.writer.receiver
        )


class LoneObjects(Analysis):
    """Finds them in a file, in the order of the text."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        found = () if module.hindrances else map(self._found_in, module.block.statements)
        self.found = [one for one in found if one is not None and one.is_whole]

    def _found_in(self, statement: Statement) -> LoneObject | None:
        given = statement.assignment
        if given is None or given.value is None or len(given.pairs) != 1 or statement.keyword is None:
            return None
        target, value = given.pairs[0].target, given.pairs[0].value.span
        is_one = not target.path and len(target.symbol.bindings) == 1 and value == given.value.span
        if not is_one or given.value.sort is not Sort.TABLE:
            return None
        members = self.module.dialect.rules.members_written(self.module, value)
        return LoneObject(self.module, target.symbol, statement, value, members) if members else None
