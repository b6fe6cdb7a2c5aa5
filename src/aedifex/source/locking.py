"""Holding a folder against other calls; the system lets go of it when the holder dies."""

from __future__ import annotations

import contextlib
import hashlib
import os
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

from aedifex.source.errors import Place, RefusedError


@contextlib.contextmanager
def locked(folder: Path) -> Iterator[None]:
    """Hold a folder, without leaving anything in it.

    Raises:
        RefusedError: another process holds it.
    """
    handle = _handle(folder)
    try:
        try:
            _take(handle)
        except OSError:
            raise RefusedError(
                "another call of aedifex is at work in this folder", Place(folder), "Wait until it is done."
            ) from None
        yield
    finally:
        os.close(handle)


if sys.platform == "win32":
    import msvcrt

    def _handle(folder: Path) -> int:
        name = hashlib.sha256(str(folder.resolve()).encode()).hexdigest()[:16]
        return os.open(Path(tempfile.gettempdir()) / f"aedifex-{name}.lock", os.O_RDWR | os.O_CREAT)

    def _take(handle: int) -> None:
        msvcrt.locking(handle, msvcrt.LK_NBLCK, 1)

else:
    import fcntl

    def _handle(folder: Path) -> int:
        return os.open(folder, os.O_RDONLY)

    def _take(handle: int) -> None:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
