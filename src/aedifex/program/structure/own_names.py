"""What a routine has without declaring it: its receiver, its arguments, where a language gives it such."""

from __future__ import annotations

from aedifex.program.model.statements import Routine


def uses_own(routine: Routine) -> bool:
    """Whether a routine uses what it alone has and nothing declares."""
    own = {symbol for symbol in routine.scope.symbols.values() if not any(r.declares for r in symbol.references)}
    return any(use.symbol in own for scope in routine.scope.walk() for use in scope.uses)
