"""Answers about a module that are worked out once and kept with it."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Self, TypeVar

if TYPE_CHECKING:
    from aedifex.program.model.module import Module


Answer = TypeVar("Answer")


def cached(answers: dict[type, object], kind: type[Answer], make: Callable[[], Answer]) -> Answer:
    """The answers of one kind that are kept already, or those that are made now."""
    found = answers.get(kind)
    if not isinstance(found, kind):
        found = answers[kind] = make()
    return found


class Analysis:
    """A set of questions about one module; `of` gives the one made for it before."""

    def __init__(self, module: Module) -> None:
        self.module = module

    @classmethod
    def of(cls, module: Module) -> Self:
        """The answers for a module."""
        return cached(module.answers, cls, lambda: cls(module))
