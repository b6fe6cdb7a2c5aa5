"""Runners: libraries and tools that find things of a script by their names; one file each, found in this folder."""

from __future__ import annotations

import importlib
import pkgutil
from functools import cache

from aedifex.languages.python.runners.known import KnownRunner


@cache
def all_runners() -> tuple[KnownRunner, ...]:
    """The `RUNNER` of each file of this folder."""
    modules = (importlib.import_module(f"{__name__}.{module.name}") for module in pkgutil.iter_modules(__path__))
    return tuple(found.RUNNER for found in modules if hasattr(found, "RUNNER"))
