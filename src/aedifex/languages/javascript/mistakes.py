"""Small mistakes put into a script: changed numbers, swapped branches, signs and comparisons, dropped calls."""

from __future__ import annotations

import random
from collections.abc import Iterator, Sequence

from tree_sitter import Node

from aedifex.languages.javascript.page_code import code_of_text
from aedifex.languages.javascript.reader.grammar import GRAMMAR
from aedifex.languages.tree.grammar import text_of

_SIGNS = {"+=": "-=", "-=": "+=", "++": "--", "--": "++", "<": "<=", "<=": "<", ">": ">=", ">=": ">"}
_SWAPPED = frozenset({"augmented_assignment_expression", "update_expression", "binary_expression"})


def mistakes_in(text: str, count: int, seed: int) -> Sequence[tuple[str, str]]:
    """Up to so many other texts of a script or a page with a mistake in each, behind the routine that it is in."""
    data = text.encode()
    found = list(_all(GRAMMAR.parse(code_of_text(data)).root_node, ""))
    random.Random(seed).shuffle(found)
    made = ((routine, data[: node.start_byte] + new + data[node.end_byte :]) for routine, node, new in found)
    right = ((routine, other) for routine, other in made if not GRAMMAR.parse(code_of_text(other)).root_node.has_error)
    return [(routine, other.decode()) for (routine, other), _ in zip(right, range(count), strict=False)]


def _all(node: Node, routine: str) -> Iterator[tuple[str, Node, bytes]]:
    """What can be put in the place of parts of the code."""
    text = node.text or b""
    if node.type in ("method_definition", "function_declaration"):
        name = node.child_by_field_name("name")
        routine = text_of(name) or routine
    if node.type == "number" and text.isdigit():
        value = int(text)
        yield routine, node, str(value + 1).encode()
        yield routine, node, str(value * 2 + 7).encode()
    elif node.type in ("true", "false"):
        yield routine, node, b"false" if text == b"true" else b"true"
    elif node.type == "if_statement" and (test := node.child_by_field_name("condition")) is not None:
        yield routine, test, b"(!" + (test.text or b"") + b")"
    elif node.type == "expression_statement" and node.named_children[0].type == "call_expression":
        yield routine, node, b";"
    elif node.type in _SWAPPED and (sign := node.child_by_field_name("operator")) is not None:
        if (other := _SIGNS.get(text_of(sign))) is not None:
            yield routine, sign, other.encode()
    for child in node.named_children:
        yield from _all(child, routine)
