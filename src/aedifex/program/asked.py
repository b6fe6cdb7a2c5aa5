"""Answers about a module that are worked out once and kept with it."""

from __future__ import annotations

from typing import TYPE_CHECKING, Self

if TYPE_CHECKING:
    from aedifex.program.program import Module


class Asked:
    """A set of questions about one module; `of` gives the one made for it before."""

    def __init__(self, module: Module) -> None:
        self.module = module

    @classmethod
    def of(cls, module: Module) -> Self:
        """The answers for a module."""
        found = module.answers.get(cls)
        if not isinstance(found, cls):
            found = module.answers[cls] = cls(module)
        return found
