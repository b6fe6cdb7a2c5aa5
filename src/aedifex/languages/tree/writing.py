"""What is written alike in the languages that are read with a grammar: access, calls, and what is written out."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from itertools import chain

from aedifex.program.dialect.writer import Frame, Piece


class CommonWriter:
    """Dots before members, parentheses behind functions, brackets around lists, and braces around tables."""

    def member(self, base: str, *names: str) -> str:
        """`base.name`."""
        return ".".join([base, *names])

    def table_frame(self) -> Frame:
        """Braces."""
        return Frame("{", "}")

    def list_frame(self) -> Frame:
        """Square brackets."""
        return Frame("[", "]")

    def under_key(self, key: str) -> str:
        """`key: `."""
        return f"{key}: "

    def asks_within(self, container: str) -> str:
        """` in container`."""
        return f" in {container}"

    def element(self, base: str, key: str) -> str:
        """`base[key]`."""
        return f"{base}[{key}]"

    def bound_method(self, base: str, name: str) -> str:
        """It is bound already, or when it is fetched."""
        return self.member(base, name)

    def call(self, function: str, arguments: Sequence[str]) -> str:
        """`function(a, b)`."""
        return f"{function}({', '.join(arguments)})"

    def number_and(self, item: str) -> str:
        """`, item`."""
        return f", {item}"


def in_row(pieces: Iterable[Piece]) -> list[Piece]:
    """Pieces with commas between them."""
    return list(chain.from_iterable((", ", piece) for piece in pieces))[1:]
