"""What there is to know of one runner."""

from __future__ import annotations

from dataclasses import dataclass
from fnmatch import fnmatchcase

from aedifex.languages.python.library.known import words

__all__ = ["KnownRunner", "words"]

_NONE: frozenset[str] = frozenset()


@dataclass(frozen=True)
class KnownRunner:
    """A library or tool that finds functions and variables of a script by their names.

    It is at work in a script that imports one of its `modules`, whose file is named after one of its `files`, or that
    uses a name which it has `injected` and nothing else binds. `hooks` are the names that it looks for; `*` stands for
    any rest in `files` and `hooks`.
    """

    name: str
    hooks: frozenset[str]
    modules: frozenset[str] = _NONE
    files: frozenset[str] = _NONE
    injected: frozenset[str] = _NONE

    def finds(self, name: str) -> bool:
        """Whether it looks for something of this name."""
        return any(fnmatchcase(name, hook) for hook in self.hooks)
