"""Chance, scripted: every random generator starts from the scenario's seed."""

from __future__ import annotations

import random


def seed(value: int) -> None:
    """Seed the standard generator, and NumPy's once it is there."""
    random.seed(value)
    import sys

    numpy = sys.modules.get("numpy")
    if numpy is not None:
        numpy.random.seed(value % 2**32)
