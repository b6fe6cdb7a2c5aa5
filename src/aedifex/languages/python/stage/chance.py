"""Chance, scripted: every source of random numbers starts from the scenario's seed."""

from __future__ import annotations

import os
import random


def install(seed: int) -> None:
    """Seed the standard generator, and put a seeded one in the place of the system's."""
    random.seed(seed)
    system = random.Random(seed + 1)

    def urandom(size: int) -> bytes:
        return system.randbytes(size)

    os.urandom = urandom
    random._urandom = urandom


def seed_numpy(seed: int) -> None:
    """Seed NumPy's generators: the old one, and new ones that are made without a seed."""
    import numpy

    numpy.random.seed(seed % 2**32)
    made = iter(range(seed, seed + 10**9))
    plain = numpy.random.default_rng

    def default_rng(given: object = None) -> object:
        return plain(next(made) if given is None else given)

    numpy.random.default_rng = default_rng
