"""What there is to know of one library that answers requests."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from functools import cached_property

from aedifex.languages.python.library.known import words
from aedifex.program.dialect.library import ApplicationPart, Refusal

__all__ = ["AS_IT_STANDS", "KnownRoutes", "words"]

AS_IT_STANDS = "{how}({all})({handler})"
"""A decorator that is called as it is, and then with the function."""


@dataclass(frozen=True)
class KnownRoutes:
    """How handlers are told to a library, by decorators and without them.

    `applications` are the full names of what makes an application or a part of one, `functions` those of decorators
    that a module has itself. `called` says for each decorator of an application, or function, that takes values how
    it is written as a statement, and `plain` for those that decorate as they are. What is written there stands for:
    `{app}` the application, `{how}` the decorator without its values, `{all}` all values, `{first}` the first of them,
    `{rest}` the others, each with a comma before it, and `{handler}` the function. `part` is what an application can
    have for paths that begin alike, `not_found` how a handler answers with status 404. A decorator that is given one of
    `only_decorators_take` is called as it is.
    """

    applications: frozenset[str]
    called: Mapping[str, str] = field(default_factory=dict)
    plain: Mapping[str, str] = field(default_factory=dict)
    functions: frozenset[str] = frozenset()
    routes: frozenset[str] = frozenset()
    part: ApplicationPart | None = None
    not_found: Refusal | None = None
    only_decorators_take: frozenset[str] = frozenset()

    @cached_property
    def telling(self) -> frozenset[str]:
        """What is called on an application to tell it of a function, as a decorator or not."""
        written = (text.partition("(")[0] for text in (*self.called.values(), *self.plain.values()))
        return frozenset({text.removeprefix("{app}.") for text in written} | self.called.keys() | self.plain.keys())

    def tells(self, name: str) -> bool:
        """Whether a call of this full name tells an application of a function."""
        owner, _, last = name.rpartition(".")
        return (owner in self.applications and last in self.telling) or name in self.functions

    def is_used_in(self, imported: Collection[str]) -> bool:
        """Whether some imported modules are of this library."""
        packages = {name.partition(".")[0] for name in (*self.applications, *self.functions)}
        return any(module.partition(".")[0] in packages for module in imported)

    def written(self, name: str, keywords: Collection[str], *, is_called: bool) -> str | None:
        """How a decorator of this full name, given these keywords, is a statement; None where it is not known."""
        owner, _, last = name.rpartition(".")
        if owner not in self.applications and name not in self.functions:
            return None
        written = (self.called if is_called else self.plain).get(last)
        is_special = written is not None and not self.only_decorators_take.isdisjoint(keywords)
        return AS_IT_STANDS if is_special else written
