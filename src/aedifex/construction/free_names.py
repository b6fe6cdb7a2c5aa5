"""Names for what is made on the way."""

from __future__ import annotations

import itertools

from aedifex.program.model.module import Module


def free_name(module: Module, wish: str) -> str:
    """A name that nothing in the script has: the one wished for, or that with a number."""
    joined = module.dialect.naming.joined
    names = (wish if number == 1 else joined(wish, str(number)) for number in itertools.count(1))
    return next(name for name in names if name not in module.names_in_use)
