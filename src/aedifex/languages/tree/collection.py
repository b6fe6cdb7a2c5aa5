"""Reading without looking for garbage."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def no_collection() -> Iterator[None]:
    """Reading makes many objects and no garbage: looking for some again and again would cost more than the reading."""
    was_on = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was_on:
            gc.enable()
