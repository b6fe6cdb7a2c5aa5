"""Libraries that answer requests: one file each, found by looking into this folder."""

from __future__ import annotations

import importlib
import pkgutil
from functools import cache

from aedifex.languages.python.routes.known import KnownRoutes


@cache
def all_routes() -> tuple[KnownRoutes, ...]:
    """What all files of this folder that hold a `ROUTES` know, each by itself."""
    modules = (importlib.import_module(f"{__name__}.{module.name}") for module in pkgutil.iter_modules(__path__))
    found = (getattr(module, "ROUTES", None) for module in modules)
    return tuple(known for known in found if isinstance(known, KnownRoutes))
