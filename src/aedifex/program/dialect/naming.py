"""How people spell names in a language."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol


class Naming(Protocol):
    """The customs of one language for names."""

    def class_name(self, words: Sequence[str]) -> str:
        """A class's name made of words."""
        ...

    def member_name(self, words: Sequence[str]) -> str:
        """A field's, method's, variable's or file's name made of words."""
        ...

    def constant_name(self, words: Sequence[str]) -> str:
        """The name of a constant made of some words."""
        ...

    def joined(self, *names: str) -> str:
        """One name made of several that exist already, each kept as it is spelled."""
        ...

    def as_begun(self, rest: str) -> str:
        """What is left of a member's name without its first words, as a name of its own."""
        ...

    def sealed(self, name: str) -> str:
        """The name of a member that only its class is to use."""
        ...

    def is_sealed(self, name: str) -> bool:
        """Whether the name of a member says that only its class is to use it."""
        ...

    def is_declared(self, name: str) -> bool:
        """Whether a class has to declare a member of this name, which can be reached by a plain access alone."""
        ...

    def unsealed(self, name: str) -> str:
        """The name of a member without what says that only its class is to use it."""
        ...

    def names_constant(self, name: str) -> bool:
        """Whether a name is one that people, or libraries, give to what never changes."""
        ...

    def as_field(self, name: str) -> str:
        """How a field is spelled for a variable of this name: a constant's spelling is not a field's."""
        ...
