"""What a function that makes objects inherits by hand from another, and where it calls on that."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass

from aedifex.program.dialect.written import BaseCall, Inheritance
from aedifex.program.model.module import Module
from aedifex.program.model.names import Scope
from aedifex.program.model.statements import Function, Leave
from aedifex.program.structure.obstacles import Obstacle

_ADVICE = "Leave it as it is, or write it as a class by hand."


@dataclass(frozen=True)
class HandMadeBase:
    """What the function `heir` inherits from, by which statement, and its calls of it."""

    heir: Function
    base: Function
    link: Inheritance
    calls: tuple[BaseCall, ...]

    def obstacles(self) -> Iterator[Obstacle]:
        """Why the heir's class could not inherit from that of the base."""
        heir, base = self.heir, self.base
        beginnings = [call for call in self.calls if not call.member]
        if len(beginnings) != 1:
            reason = f"`{heir.name}` does not let `{base.name}` set up each of its objects once"
            yield Obstacle(heir.statement.start, reason, _ADVICE)
            return
        receiver, begin = beginnings[0].receiver, beginnings[0].call.start
        early = [r.start for r in receiver.symbol.references if r is not receiver and r.start < beginnings[0].call.end]
        early += [s.start for s in heir.body.walk() if s.start < begin and Leave.RETURN in s.leaves]
        for at in early:
            yield Obstacle(at, f"this is done before `{base.name}` has set up the object", _ADVICE)
        for function in (heir, base):
            for statement in function.body.walk():
                if statement.returned is not None:
                    reason = f"`{function.name}` gives back something of its own here"
                    yield Obstacle(statement.start, reason, _ADVICE)


def base_calls(module: Module, heir: Function, methods: Collection[Scope], base: Function) -> Iterator[BaseCall]:
    """The heir's calls of its base: as a statement of its own text, and of a member anywhere in its methods."""
    for use in base.symbol.references:
        found = module.dialect.rules.base_call(module, use)
        if found is None or any(found.head.start <= comment.start < found.head.end for comment in module.comments):
            continue
        around = found.receiver.symbol.scope
        if around is heir.scope and not found.member:
            if any(statement.deed == found.call.span for statement in heir.body.statements):
                yield found
        elif found.member and (around is heir.scope or around in methods):
            yield found
