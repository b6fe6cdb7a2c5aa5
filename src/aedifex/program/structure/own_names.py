"""What a routine has without declaring it: its receiver, its arguments, where a language gives it such."""

from __future__ import annotations

from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.statements import Lambda, Routine
from aedifex.source.text import Span


def uses_own(routine: Routine, beside: Symbol | None = None) -> bool:
    """Whether a routine uses what it alone has and nothing declares; one such thing may not count."""
    own = {symbol for symbol in routine.scope.symbols.values() if not any(r.declares for r in symbol.references)}
    own -= {beside}
    return any(use.symbol in own for scope in routine.scope.walk() for use in scope.uses)


def own_use_of(receiver: str, routine: Routine) -> Reference | None:
    """A use of the receiver's name that a method's own receiver would capture; inner classes have theirs."""
    for scope in routine.scope.walk():
        for use in scope.uses:
            if use.name == receiver:
                home = use.symbol.scope
                if home is routine.scope or not home.within(routine.scope):
                    return use
    return None


def routines_apart(module: Module) -> list[Span]:
    """Where the routines stand that can be no methods of another's: they use a receiver of their own, or are no code
    for a class.
    """
    rules = module.dialect.rules
    apart = (r for r in module.routines if rules.has_receiver(module, r) and _is_apart(module, r))
    return [Span(routine.scope.start, routine.scope.end) for routine in apart]


def _is_apart(module: Module, routine: Routine) -> bool:
    if isinstance(routine, Lambda) or routine.scope.parent is not module.scope:
        return uses_own(routine) or not module.dialect.rules.is_closed_over(module, routine)
    stays = any(routine.scope.start <= at < routine.scope.end for at, _ in module.only_outside)
    return stays or own_use_of(module.dialect.writer.receiver, routine) is not None
