"""Whether code of a program may run beside other code of it."""

from __future__ import annotations

from aedifex.program.model.module import Module


def runs_beside(module: Module) -> bool:
    """Whether a file imports anything by which routines run at the same time as others."""
    return any(map(module.dialect.library.is_concurrent, module.imported))
