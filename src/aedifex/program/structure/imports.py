"""Imports as effects: whether anybody may notice that one runs."""

from __future__ import annotations

from aedifex.program.model.module import Module
from aedifex.program.model.names import Form
from aedifex.program.model.statements import Statement


def imports_noticeably(module: Module, statement: Statement) -> bool:
    """Whether a statement imports something that may do more than define: all but the language's own quiet library."""
    is_library = module.dialect.library.is_module
    imported = (r.symbol.imported for inner in statement.walk() for r in inner.references if r.form is Form.IMPORT)
    if any(found is not None and not is_library(found.module) for found in imported):
        return True
    return any(star.statement in list(statement.walk()) and not is_library(name) for name, star in module.stars)


def stores_objects(module: Module) -> bool:
    """Whether a file imports anything that stores objects together with the place of their class."""
    return any(map(module.dialect.library.stores_objects, module.imported))
