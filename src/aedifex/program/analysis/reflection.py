"""Members of objects that are reached by texts that name them."""

from __future__ import annotations

from aedifex.program.model.module import Module
from aedifex.program.model.statements import Statement


def reaches_members(module: Module, statement: Statement) -> bool:
    """Whether a statement may reach members of objects by their text."""
    reaches = module.dialect.rules.is_reflection
    return any(reaches(r.name) for r in statement.references) or any(map(reaches, statement.attributes))
