"""Things that calls of a library's classes make."""

from __future__ import annotations

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense


def maker_of(surroundings: Surroundings, value: Expression) -> str:
    """The class of a library that a value is made by, there or right above where it gets its name; empty for others."""
    made = _given_above(surroundings, value) if value.sense is Sense.NAME else value
    callee = made.parts[0] if made is not None and made.sense is Sense.CALL else None
    base = callee
    while base is not None and base.sense is Sense.MEMBER:
        base = base.parts[0]
    imported = base.reference.symbol.imported if base is not None and base.reference is not None else None
    if callee is None or imported is None:
        return ""
    name = (callee.name if callee.sense is Sense.MEMBER else imported.name) or ""
    return name if name[:1].isupper() else ""


def _given_above(surroundings: Surroundings, value: Expression) -> Expression | None:
    """What a name was given last, further up in the same block."""
    here, symbol = value.statement, value.reference.symbol if value.reference is not None else None
    for above in reversed(here.block.statements[: here.index]) if here is not None else ():
        bound = [r for inner in above.walk() for r in inner.references if r.symbol is symbol and r.binds]
        if bound:
            target = surroundings.of_reference(bound[0]) if len(bound) == 1 else None
            setting = surroundings.around(target) if target is not None else None
            is_plain = setting is not None and setting.sense is Sense.SET and setting.statement is above
            return setting.parts[1] if setting is not None and is_plain and len(setting.parts) == 2 else None
    return None
