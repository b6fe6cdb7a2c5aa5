"""Reading match patterns."""

from __future__ import annotations

from typing import TYPE_CHECKING

from tree_sitter import Node

from aedifex.languages.python.reader.scopes import normalise
from aedifex.languages.python.reader.uses import CAPTURE, LEAF_NODES
from aedifex.languages.tree.grammar import parts
from aedifex.languages.tree.uses import READ
from aedifex.program.model.names import Access, AccessKind, Mode, Scope

if TYPE_CHECKING:
    from aedifex.languages.python.reader.expressions import ExpressionReader


def read_pattern(reader: ExpressionReader, node: Node, scope: Scope) -> None:
    """Read a match pattern: captures bind, dotted names and class names are read."""
    stack = [node]
    while stack:
        node = stack.pop()
        kind = node.type
        children = parts(node)
        if kind == "dotted_name":
            _dotted_pattern(reader, children, scope, is_capture=len(children) == 1)
        elif kind == "class_pattern":
            _dotted_pattern(reader, parts(children[0]), scope, is_capture=False)
            stack.extend(reversed(children[1:]))
        elif kind == "keyword_pattern":
            if reader.statement is not None:
                reader.statement.attributes.append(normalise(reader.text(children[0]), scope.private))
            stack.extend(reversed(children[1:]))
        elif kind == "splat_pattern":
            for child in children:
                _capture(reader, child, scope)
        elif kind == "as_pattern":
            stack.append(children[0])
            _capture(reader, children[-1], scope)
        elif kind == "identifier":
            _capture(reader, node, scope)
        elif kind not in LEAF_NODES:
            stack.extend(reversed(children))


def _dotted_pattern(reader: ExpressionReader, names: list[Node], scope: Scope, *, is_capture: bool) -> None:
    if is_capture:
        _capture(reader, names[0], scope)
        return
    path = tuple(
        Access(AccessKind.ATTRIBUTE, normalise(reader.text(n), scope.private), n.start_byte, n.end_byte)
        for n in names[1:]
    )
    reader.name(names[0], scope, READ, path, Mode.READ if path else None)


def _capture(reader: ExpressionReader, node: Node, scope: Scope) -> None:
    if reader.text(node) != b"_":
        reader.name(node, scope, CAPTURE)
