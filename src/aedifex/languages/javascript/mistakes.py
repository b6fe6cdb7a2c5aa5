"""Small mistakes put into a script: changed numbers, swapped branches, signs and comparisons, dropped calls.

In route files also: wrong keys of what is asked, and handlers whose paths are swapped.
"""

from __future__ import annotations

import random
from collections.abc import Iterator
from itertools import pairwise

from tree_sitter import Node

from aedifex.languages.javascript.page_code import code_of_text
from aedifex.languages.javascript.reader.grammar import GRAMMAR
from aedifex.languages.tree.grammar import below, text_of
from aedifex.program.dialect.testing import Mutant

_SIGNS = {"+=": "-=", "-=": "+=", "++": "--", "--": "++", "<": "<=", "<=": "<", ">": ">=", ">=": ">"}
_SWAPPED = frozenset({"augmented_assignment_expression", "update_expression", "binary_expression"})
_ROUTINES = frozenset({"method_definition", "function_declaration"})
_ASKED = frozenset({"params", "query", "body", "cookies", "session"})

_Change = tuple[Node, bytes]


def mutants_of(
    text: str, count: int, seed: int = 1, lines: frozenset[int] | None = None, *, has_routes: bool = False
) -> list[Mutant]:
    """Up to `count` mutants of a script or a page, on the given lines where any are given."""
    data = text.encode()
    root = GRAMMAR.parse(code_of_text(data)).root_node
    made = [*_all(root), *(_of_routes(root) if has_routes else ())]
    found = [each for each in made if lines is None or each[1][0].start_point.row + 1 in lines]
    random.Random(seed).shuffle(found)
    chosen: list[Mutant] = []
    for what, *changes in found:
        if len(chosen) == count:
            break
        other = _changed(data, changes)
        if not GRAMMAR.parse(code_of_text(other)).root_node.has_error:
            place = changes[0][0]
            chosen.append(Mutant(what, place.start_point.row + 1, other.decode(), _routine_around(place)))
    return chosen


def _changed(data: bytes, changes: list[_Change]) -> bytes:
    for node, new in sorted(changes, key=lambda change: -change[0].start_byte):
        data = data[: node.start_byte] + new + data[node.end_byte :]
    return data


def _routine_around(node: Node | None) -> str:
    """The name of the innermost routine with a name of its own around a part of the code."""
    while node is not None and node.type not in _ROUTINES:
        node = node.parent
    return text_of(node.child_by_field_name("name")) if node is not None else ""


def _all(root: Node) -> Iterator[tuple[str, _Change]]:
    """What was done, and what is put in the place of a part of the code."""
    for node in below(root):
        text = node.text or b""
        if node.type == "number" and text.isdigit():
            value = int(text)
            yield "off by one", (node, str(value + 1).encode())
            yield "changed number", (node, str(value * 2 + 7).encode())
        elif node.type in ("true", "false"):
            yield "swapped truth", (node, b"false" if text == b"true" else b"true")
        elif node.type == "if_statement" and (test := node.child_by_field_name("condition")) is not None:
            yield "swapped branch", (test, b"(!" + (test.text or b"") + b")")
        elif node.type == "expression_statement" and node.named_children[0].type == "call_expression":
            yield "dropped call", (node, b";")
        elif node.type in _SWAPPED and (sign := node.child_by_field_name("operator")) is not None:
            if (other := _SIGNS.get(text_of(sign))) is not None:
                yield "swapped sign", (sign, other.encode())


def _of_routes(root: Node) -> Iterator[tuple[str, *tuple[_Change, ...]]]:
    """What goes wrong in the handlers of requests: in what they are told of, and in what they read."""
    paths: list[Node] = []
    for node in below(root):
        if node.type == "member_expression" and (key := node.child_by_field_name("property")) is not None:
            asked = node.child_by_field_name("object")
            if asked is not None and text_of(asked.child_by_field_name("property")) in _ASKED:
                yield "wrong key", (key, (key.text or b"") + b"_")
        elif node.type == "call_expression" and (given := node.child_by_field_name("arguments")) is not None:
            if (first := next(iter(given.named_children), None)) is not None and _is_path(first):
                paths.append(first)
    for one, other in pairwise(paths):
        if one.text != other.text:
            yield "swapped handlers", (one, other.text or b""), (other, one.text or b"")


def _is_path(node: Node) -> bool:
    return node.type == "string" and text_of(node)[1:2] == "/"
