"""Services that run until they are ended."""

from __future__ import annotations

from aedifex.languages.python.library.known import KnownLibrary, words

LIBRARY = KnownLibrary(main_loops=words("run_forever serve_forever"))
