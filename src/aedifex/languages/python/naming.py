"""How people spell names in Python."""

from __future__ import annotations

from collections.abc import Sequence


class PythonNaming:
    """The customs of the style guide for Python code."""

    def class_name(self, words: Sequence[str]) -> str:
        """Words with a capital each, joined."""
        return "".join(word[:1].upper() + word[1:].lower() for word in words)

    def member_name(self, words: Sequence[str]) -> str:
        """Words in small letters, joined by underscores."""
        return "_".join(word.lower() for word in words)

    def constant_name(self, words: Sequence[str]) -> str:
        """Words in capitals, joined by underscores."""
        return "_".join(word.upper() for word in words)

    def joined(self, *names: str) -> str:
        """Names joined by underscores."""
        return "_".join(names)

    def as_begun(self, rest: str) -> str:
        """As it is."""
        return rest

    def sealed(self, name: str) -> str:
        """A name with a leading underscore."""
        return f"_{name}"

    def is_sealed(self, name: str) -> bool:
        """Whether a name has a leading underscore."""
        return name.startswith("_")

    def is_declared(self, name: str) -> bool:
        """Nothing has to be declared."""
        return False

    def unsealed(self, name: str) -> str:
        """A name without leading underscores."""
        return name.lstrip("_")

    def names_constant(self, name: str) -> bool:
        """Whether the first word of a name is all capitals: `RED`, `K_w`."""
        return name.partition("_")[0].isupper()

    def as_field(self, name: str) -> str:
        """A constant's name, which is all capitals, in small letters; any other as it is."""
        return name.lower() if name.isupper() else name
