"""Games whose functions a small runner finds by their names: they are played by that runner, without a window."""

from __future__ import annotations

import re
import sys
import types

_HOOK = re.compile(rb"^def (draw|update)\(", re.MULTILINE)
_GIVEN = re.compile(rb"\bscreen\.(draw|blit|clear|fill|surface)\b|\bActor\(|\bkeyboard\.\w|\bclock\.schedule")
_OTHERWISE = re.compile(
    rb"^\s*(import|from) pgzrun|^\s*screen\s*=|\bglobal [\w, ]*screen\b|^class Actor\b", re.MULTILINE
)


def waits_for_runner(source: bytes) -> bool:
    """Whether a script has functions to be found by their names, uses what it is given, and starts no runner itself."""
    return bool(_HOOK.search(source) and _GIVEN.search(source) and not _OTHERWISE.search(source))


def play(code: types.CodeType, module: types.ModuleType) -> None:
    """Run a script as Pygame Zero does.

    Raises:
        ModuleNotFoundError: it is not installed.
    """
    import pgzero.runner

    sys._pgzrun = True
    pgzero.runner.prepare_mod(module)
    exec(code, module.__dict__)
    pgzero.runner.run_mod(module)
