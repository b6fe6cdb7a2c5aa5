"""One grammar: text to syntax tree, its comments, and where a text does not follow it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import cached_property

from tree_sitter import Language, Node, Parser, Query, QueryCursor, Tree

_EXTRAS = frozenset({"comment", "line_continuation"})


class Grammar:
    """The grammar of a language, compiled when it is first needed; `load` gives the grammar package's pointer."""

    def __init__(self, load: Callable[[], object]) -> None:
        self._load = load

    @cached_property
    def language(self) -> Language:
        """The compiled grammar."""
        return Language(self._load())

    @cached_property
    def _parser(self) -> Parser:
        return Parser(self.language)

    @cached_property
    def _comments(self) -> Query:
        return Query(self.language, "(comment) @comment")

    def parse(self, text: bytes) -> Tree:
        """The syntax tree of a text, errors and all."""
        return self._parser.parse(text)

    def comments(self, root: Node) -> list[Node]:
        """The comment nodes below a node, in the order of the text."""
        found = QueryCursor(self._comments).captures(root).get("comment", [])
        return sorted(found, key=lambda node: node.start_byte)


def parts(node: Node) -> list[Node]:
    """The node's named children without the comments and line continuations that may stand anywhere."""
    return [child for child in node.named_children if child.type not in _EXTRAS]


def text_of(node: Node | None) -> str:
    """The text of a node; empty for none."""
    return (node.text or b"").decode() if node is not None else ""


def below(node: Node) -> Iterator[Node]:
    """A node and all named ones below it, in the order of the text."""
    waiting = [node]
    while waiting:
        inner = waiting.pop()
        yield inner
        waiting.extend(reversed(inner.named_children))


def first_error(root: Node) -> Node:
    """The first error that holds no other: an outer one may begin far above the mistake."""
    node = root
    while True:
        inner = [child for child in node.children if child.has_error or child.is_missing]
        if not inner:
            return node
        node = inner[0]
