"""How people spell names in JavaScript."""

from __future__ import annotations

from collections.abc import Sequence


class JavaScriptNaming:
    """The customs of most style guides: capitals inside names. `private` marks members for their class alone."""

    def __init__(self, private: str = "_") -> None:
        self.private = private

    def class_name(self, words: Sequence[str]) -> str:
        """Words with a capital each, joined."""
        return "".join(word[:1].upper() + word[1:].lower() for word in words)

    def member_name(self, words: Sequence[str]) -> str:
        """Words with a capital each but the first, joined."""
        first, *rest = [word.lower() for word in words] or [""]
        return first + "".join(word[:1].upper() + word[1:] for word in rest)

    def constant_name(self, words: Sequence[str]) -> str:
        """Words in capitals, joined by underscores."""
        return "_".join(word.upper() for word in words)

    def joined(self, *names: str) -> str:
        """Names joined, those behind the first with a capital."""
        first, *rest = [name for name in names if name] or [""]
        return first + "".join(name[:1].upper() + name[1:] for name in rest)

    def as_begun(self, rest: str) -> str:
        """With a small letter first, or all small where all are capitals."""
        return rest.lower() if rest.isupper() else rest[:1].lower() + rest[1:]

    def sealed(self, name: str) -> str:
        """A name that its class alone can use, or that says so by an underscore, for the sake of older engines."""
        return f"{self.private}{name}"

    def is_declared(self, name: str) -> bool:
        """Whether its class has to declare a member of this name."""
        return name.startswith("#")

    def is_sealed(self, name: str) -> bool:
        """Whether a name begins with `#`, or with an underscore, as it was done before there was that."""
        return name.startswith(("#", "_"))

    def unsealed(self, name: str) -> str:
        """A name without these."""
        return name.lstrip("#_")

    def names_constant(self, name: str) -> bool:
        """Whether the first word of a name is all capitals."""
        return name.partition("_")[0].isupper()

    def as_field(self, name: str) -> str:
        """A constant's name, which is all capitals, as fields are spelled; any other as it is."""
        return self.member_name(name.split("_")) if name.isupper() else name
