"""Members of objects that are reached by texts that name them."""

from __future__ import annotations

from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference
from aedifex.program.model.statements import Statement


def reaches_members(module: Module, statement: Statement) -> bool:
    """Whether a statement may reach members of objects by their text.

    What the script itself calls so, as a function or as a method that one of its class calls, does not.
    """
    reaches = module.dialect.rules.is_reflection
    if any(reaches(r.name) and Form.ROUTINE not in r.symbol.forms for r in statement.references):
        return True
    found = {name for name in statement.attributes if reaches(name)}
    own = [_own_method(reference) for reference in statement.references] if found else []
    own = [name for name in own if not module.dialect.rules.has_meaning(name)]
    return any(statement.attributes.count(name) > own.count(name) for name in found)


def _own_method(reference: Reference) -> str:
    """The member of its class that a method asks its object for first; empty where there is none of that name."""
    routine = reference.symbol.scope.routine
    is_receiver = bool(reference.path) and routine is not None and routine.receiver is reference.symbol
    home, name = reference.symbol.scope.parent, reference.path[0].name if is_receiver else None
    return name if home is not None and name is not None and name in home.symbols else ""
