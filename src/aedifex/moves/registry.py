"""All moves, found by looking into this folder: a file that holds a `MOVE` is one."""

from __future__ import annotations

import importlib
import pkgutil
from functools import cache

import aedifex.moves
from aedifex.moves.kit.description import Description


@cache
def descriptions() -> tuple[Description, ...]:
    """What every move says of itself, in the order in which people make them."""
    modules = [m for m in pkgutil.iter_modules(aedifex.moves.__path__) if not m.ispkg]
    found = (getattr(importlib.import_module(f"aedifex.moves.{m.name}"), "MOVE", None) for m in modules)
    return tuple(sorted((d for d in found if isinstance(d, Description)), key=lambda d: d.place))


def by_hand() -> dict[str, Description]:
    """The moves that can be made one at a time, by name."""
    return {description.name: description for description in descriptions() if description.make is not None}
