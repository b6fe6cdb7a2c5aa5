"""What is known of libraries: one file each, found by looking into this folder."""

from __future__ import annotations

import importlib
import pkgutil
from functools import cache

from aedifex.languages.python.library.known import KnownLibrary


@cache
def all_known() -> KnownLibrary:
    """What all files of this folder that hold a `LIBRARY` know together."""
    found = KnownLibrary()
    for module in pkgutil.iter_modules(__path__):
        found |= getattr(importlib.import_module(f"{__name__}.{module.name}"), "LIBRARY", KnownLibrary())
    return found
