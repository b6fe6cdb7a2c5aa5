"""The languages that Aedifex reads and writes, one package each, found by looking into this folder.

A package that holds no `DIALECT` is shared by several.
"""

from __future__ import annotations

import importlib
import pkgutil
from functools import cache
from pathlib import Path

from aedifex.program.dialect.dialect import Dialect
from aedifex.source.errors import Place, UnreadableError


@cache
def _dialects() -> tuple[Dialect, ...]:
    packages = [module.name for module in pkgutil.iter_modules(__path__) if module.ispkg]
    found = (getattr(importlib.import_module(f"{__name__}.{name}"), "DIALECT", None) for name in packages)
    return tuple(dialect for dialect in found if dialect is not None)


def dialect_for(path: Path) -> Dialect:
    """The dialect for a file, by its suffix.

    Raises:
        UnreadableError: no language here has that suffix.
    """
    for dialect in _dialects():
        if path.suffix in dialect.files.suffixes:
            return dialect
    known = ", ".join(suffix for dialect in _dialects() for suffix in dialect.files.suffixes)
    raise UnreadableError(f"no language known for the suffix {path.suffix!r}", Place(path), f"Aedifex reads: {known}.")
