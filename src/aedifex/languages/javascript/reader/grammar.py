"""The JavaScript grammar: text to syntax tree, and where a text does not follow it."""

from __future__ import annotations

from tree_sitter import Tree

from aedifex.languages.tree.grammar import Grammar, first_error
from aedifex.source.errors import UnreadableError
from aedifex.source.text import SourceText


def _pointer() -> object:
    import tree_sitter_javascript

    return tree_sitter_javascript.language()


GRAMMAR = Grammar(_pointer)


def parse(source: SourceText, code: bytes) -> Tree:
    """The syntax tree of the code of a file, which has the same length as the file.

    Raises:
        UnreadableError: the code is not JavaScript, with the line of the first mistake.
    """
    tree = GRAMMAR.parse(code)
    if tree.root_node.has_error:
        place = source.place(first_error(tree.root_node).start_byte)
        raise UnreadableError("this syntax cannot be read", place, "Mend the line, then try again.")
    return tree
