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
    """What a name was given that has no other value, further up in the same block."""
    bindings = value.reference.symbol.bindings if value.reference is not None else []
    target = surroundings.of_reference(bindings[0]) if len(bindings) == 1 else None
    setting = surroundings.around(target) if target is not None else None
    if setting is None or setting.sense is not Sense.SET or len(setting.parts) != 2:
        return None
    above, here = setting.statement, value.statement
    is_above = above is not None and here is not None and above.block is here.block and above.start < here.start
    return setting.parts[1] if is_above else None
