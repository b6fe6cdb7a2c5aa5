"""All moves, found by looking into this folder: a file that holds a `MOVE` is one."""

from __future__ import annotations

import importlib
import pkgutil
from functools import cache

import aedifex.moves
from aedifex.moves.kit.description import Description


def names() -> list[str]:
    """The files of this folder that may hold a move."""
    return [module.name for module in pkgutil.iter_modules(aedifex.moves.__path__) if not module.ispkg]


def description_of(name: str) -> Description | None:
    """What the move of a name says of itself; None where there is none."""
    if name not in names():
        return None
    found = getattr(importlib.import_module(f"aedifex.moves.{name}"), "MOVE", None)
    return found if isinstance(found, Description) else None


@cache
def descriptions() -> tuple[Description, ...]:
    """What every move says of itself, in the order in which people make them."""
    found = (description for name in names() if (description := description_of(name)) is not None)
    return tuple(sorted(found, key=lambda description: description.place))


def by_hand() -> dict[str, Description]:
    """The moves that can be made one at a time, by name."""
    return {description.name: description for description in descriptions() if description.make is not None}
