"""Whether code of a program may run beside other code of it."""

from __future__ import annotations

from aedifex.program.model.module import Module


def runs_beside(module: Module) -> bool:
    """Whether a file imports anything by which routines run at the same time as others."""
    symbols = (symbol for scope in module.scope.walk() for symbol in scope.symbols.values())
    imported = {symbol.imported.module for symbol in symbols if symbol.imported is not None}
    return any(module.dialect.library.is_concurrent(name) for name in imported)
