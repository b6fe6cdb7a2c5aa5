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
    uses a name which it has `injected` and nothing else binds. `hooks` are the names that it looks for,
    `callables` those of which it wants something to call; `*` stands for any rest in `files` and in both. A function
    whose parameters are called as in one of the `signatures` is there for it, whatever its own name is. One that
    `looks_inside` wants the functions themselves, and not others that hand on to them.
    """

    name: str
    hooks: frozenset[str]
    callables: frozenset[str] = _NONE
    modules: frozenset[str] = _NONE
    files: frozenset[str] = _NONE
    injected: frozenset[str] = _NONE
    signatures: frozenset[tuple[str, ...]] = frozenset()
    looks_inside: bool = False

    def finds(self, name: str, *, is_plain: bool = False) -> bool:
        """Whether it looks for something of this name; where that `is_plain`, it is a number or a text."""
        wanted = self.hooks if is_plain else self.hooks | self.callables
        return any(fnmatchcase(name, hook) for hook in wanted)
