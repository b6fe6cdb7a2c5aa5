"""The Python grammar: text to syntax tree, and where a text does not follow it."""

from __future__ import annotations

import warnings
from functools import cache

from tree_sitter import Language, Node, Parser, Query, QueryCursor, Tree

from aedifex.source.errors import Place, UnreadableError
from aedifex.source.text import SourceText

_COMPILE_ADVICE = "Mend the script so that it starts, then try again."


@cache
def language() -> Language:
    """The compiled grammar."""
    import tree_sitter_python

    return Language(tree_sitter_python.language())


@cache
def _parser() -> Parser:
    return Parser(language())


@cache
def _query(pattern: str) -> Query:
    return Query(language(), pattern)


def parse(source: SourceText) -> Tree:
    """The syntax tree of a text.

    Raises:
        UnreadableError: the text is not Python, with the line of the first mistake.
    """
    tree = _parser().parse(source.parse_view)
    if tree.root_node.has_error:
        _check_compiles(source)
        node = _first_error(tree.root_node)
        raise UnreadableError(
            "this syntax cannot be read", source.place(node.start_byte), "Rewrite the line in a plainer form."
        )
    return tree


def parse_fragment(text: bytes) -> Tree:
    """The syntax tree of a piece of text, errors and all."""
    return _parser().parse(text)


def check(source: SourceText) -> None:
    """Check that this Python compiles the text, without running it.

    Raises:
        UnreadableError: it does not.
    """
    _check_compiles(source)


def comments(root: Node) -> list[Node]:
    """The comment nodes below a node, in the order of the text."""
    found = QueryCursor(_query("(comment) @comment")).captures(root).get("comment", [])
    return sorted(found, key=lambda node: node.start_byte)


_EXTRAS = frozenset({"comment", "line_continuation"})


def parts(node: Node) -> list[Node]:
    """The node's named children without the comments and line continuations that may stand anywhere."""
    return [child for child in node.named_children if child.type not in _EXTRAS]


def _check_compiles(source: SourceText) -> None:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        try:
            compile(source.parse_view, str(source.path), "exec", dont_inherit=True)
        except SyntaxError as error:
            raise UnreadableError(
                f"does not parse: {error.msg}", Place(source.path, error.lineno or None), _COMPILE_ADVICE
            ) from None
        except (RecursionError, MemoryError, OverflowError, ValueError) as error:
            raise UnreadableError(
                f"too deeply nested or too large for Python to compile: {error}",
                Place(source.path),
                _COMPILE_ADVICE,
            ) from None


def _first_error(root: Node) -> Node:
    """The first error that holds no other: an outer one may begin far above the mistake."""
    node = root
    while True:
        inner = [child for child in node.children if child.has_error or child.is_missing]
        if not inner:
            return node
        node = inner[0]
