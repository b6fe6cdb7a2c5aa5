"""Chance, scripted: every source of random numbers starts from the scenario's seed."""

from __future__ import annotations

import os
import sys


def install(seed: int) -> None:
    """Put a seeded generator in the place of the system's."""
    made: list = []

    def urandom(size: int) -> bytes:
        if not made:
            import random

            made.append(random.Random(seed + 1))
        return made[0].getrandbits(8 * size).to_bytes(size, "little")

    os.urandom = urandom
    if "random" in sys.modules:
        seed_random(sys.modules["random"], seed)


def seed_random(random: object, seed: int) -> None:
    """Seed the standard generator; what asks the system asks ours."""
    random.seed(seed)
    random._urandom = os.urandom


def seed_numpy(seed: int) -> None:
    """Seed NumPy's generators: the old one, and new ones that are made without a seed."""
    import numpy

    numpy.random.seed(seed % 2**32)
    made = iter(range(seed, seed + 10**9))
    plain = numpy.random.default_rng

    def default_rng(given: object = None) -> object:
        return plain(next(made) if given is None else given)

    numpy.random.default_rng = default_rng


def name_temporary_files(module: object, seed: int) -> None:
    """Temporary files get the same names in each run."""
    import random

    class Names(module._RandomNameSequence):
        rng = random.Random(seed + 2)

    names = Names()
    module._get_candidate_names = lambda: names
