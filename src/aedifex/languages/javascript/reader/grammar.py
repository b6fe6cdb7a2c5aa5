"""The JavaScript grammar: text to syntax tree, and where a text does not follow it."""

from __future__ import annotations

import re
from collections.abc import Iterator

from tree_sitter import Node, Tree

from aedifex.languages.tree.grammar import Grammar, first_error
from aedifex.source.errors import UnreadableError
from aedifex.source.text import SourceText


def _pointer() -> object:
    import tree_sitter_javascript

    return tree_sitter_javascript.language()


GRAMMAR = Grammar(_pointer)


_BLOCK_BELOW_CALL = re.compile(rb"\)\s*\n\s*\{")


def parse(source: SourceText, code: bytes) -> Tree:
    """The syntax tree of the code of a file, which has the same length as the file.

    Raises:
        UnreadableError: the code is not JavaScript, with the line of the first mistake, or the grammar misreads it.
    """
    tree = GRAMMAR.parse(code)
    if tree.root_node.has_error:
        place = source.place(first_error(tree.root_node).start_byte)
        raise UnreadableError("this syntax cannot be read", place, "Mend the line, then try again.")
    misread = next(_blocks_taken_for_objects(tree.root_node), None) if _BLOCK_BELOW_CALL.search(code) else None
    if misread is not None:
        reason = "the grammar takes this block for an object, because of a call in it without a semicolon"
        raise UnreadableError(reason, source.place(misread.start_byte), "End the calls in it with semicolons.")
    return tree


def _blocks_taken_for_objects(root: Node) -> Iterator[Node]:
    """Objects where JavaScript knows blocks only: as a statement, or behind an arrow."""
    waiting = [root]
    while waiting:
        node = waiting.pop()
        if node.type in ("expression_statement", "arrow_function"):
            yield from (child for child in node.named_children[-1:] if child.type == "object")
        waiting.extend(node.named_children)
