"""Databases by the interface that all of them share in this language (PEP 249)."""

from __future__ import annotations

from aedifex.languages.python.library.known import KnownLibrary, words

LIBRARY = KnownLibrary(aloof=words("execute executemany executescript commit rollback"))
