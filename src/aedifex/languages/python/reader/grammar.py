"""The Python grammar: text to syntax tree, and where a text does not follow it."""

from __future__ import annotations

import warnings

from tree_sitter import Tree

from aedifex.languages.tree.grammar import Grammar, first_error
from aedifex.source.errors import Place, UnreadableError
from aedifex.source.text import SourceText

_COMPILE_ADVICE = "Mend the script so that it starts, then try again."


def _pointer() -> object:
    import tree_sitter_python

    return tree_sitter_python.language()


GRAMMAR = Grammar(_pointer)


def parse(source: SourceText) -> Tree:
    """The syntax tree of a text.

    Raises:
        UnreadableError: the text is not Python, with the line of the first mistake.
    """
    tree = GRAMMAR.parse(source.parse_view)
    if tree.root_node.has_error:
        _check_compiles(source)
        node = first_error(tree.root_node)
        raise UnreadableError(
            "this syntax cannot be read", source.place(node.start_byte), "Rewrite the line in a plainer form."
        )
    return tree


def check(source: SourceText) -> None:
    """Check that this Python compiles the text, without running it.

    Raises:
        UnreadableError: it does not.
    """
    _check_compiles(source)


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
