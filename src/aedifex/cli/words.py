"""Errors in words, and their exit codes."""

from __future__ import annotations

from aedifex.source.errors import AedifexError, DesignError, RefusedError, RunError, UnreadableError, UsageError

DIFFERENT = 1
_CODES: tuple[tuple[type[AedifexError], int], ...] = (
    (DesignError, 2),
    (UsageError, 2),
    (RefusedError, 3),
    (UnreadableError, 4),
    (RunError, 5),
)
_MOST_SHOWN = 10


def exit_code_of(error: AedifexError) -> int:
    """The exit code for an error."""
    return next(code for kind, code in _CODES if isinstance(error, kind))


def in_words(error: AedifexError) -> str:
    """Place, reason and advice; refusals one after another."""
    if not isinstance(error, RefusedError):
        return _one(error)
    all_of_them = list(dict.fromkeys(_one(e) for e in (error, *error.others)))
    shown = all_of_them[:_MOST_SHOWN]
    left = len(all_of_them) - len(shown)
    if left:
        shown.append(f"… and {left} more of this kind.")
    return "\n".join([*shown, "Refused: nothing was written."])


def _one(error: AedifexError) -> str:
    return f"{error}\n    {error.advice}" if error.advice else str(error)
