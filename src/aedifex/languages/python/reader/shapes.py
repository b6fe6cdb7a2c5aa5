"""What expressions look like: constants, names, calls, and what is computed from them."""

from __future__ import annotations

from tree_sitter import Node

from aedifex.languages.tree.grammar import parts
from aedifex.program.model.statements import Shape, Sort

CONSTANTS = frozenset("integer float true false none ellipsis".split())
"""The kinds of nodes that are constants, texts aside."""

PATTERNS = frozenset("pattern_list tuple_pattern list_pattern".split())
"""The kinds of nodes that unpack a value."""

_OPERATORS = frozenset(
    "binary_operator unary_operator boolean_operator comparison_operator not_operator parenthesized_expression".split()
)
_FAILING = frozenset({"/", "//", "%", "**", "<<", ">>"})
_DEEPEST_SHAPE = 20


_BEGINNINGS = {b"[": Sort.LIST, b"{": Sort.TABLE, b"'": Sort.TEXT, b'"': Sort.TEXT}


def sort_of(text: bytes) -> Sort:
    """What a value is, by the way that its text begins."""
    if text in (b"True", b"False"):
        return Sort.TRUTH
    return Sort.NUMBER if text.lstrip(b"-")[:1].isdigit() else _BEGINNINGS.get(text[:1], Sort.OTHER)


def shape_of(node: Node, depth: int = 0) -> Shape:
    """What the text of an expression looks like."""
    kind = node.type
    if kind in CONSTANTS:
        return Shape.LITERAL
    if kind == "identifier":
        return Shape.NAME
    if kind == "call":
        return Shape.CALL
    if kind == "string":
        return Shape.OTHER if any(c.type == "interpolation" for c in node.named_children) else Shape.LITERAL
    if kind in ("list", "set", "dictionary"):
        return _shape_of_parts(node, Shape.DISPLAY, Shape.DISPLAY, depth)
    if kind in ("tuple", "expression_list", "concatenated_string", "pair"):
        return _shape_of_parts(node, Shape.LITERAL, Shape.COMPUTED, depth)
    if kind == "unary_operator":
        argument = node.child_by_field_name("argument")
        if argument is not None and argument.type in CONSTANTS:
            return Shape.LITERAL
    return _shape_of_operation(node) if kind in _OPERATORS else Shape.OTHER


def gives_fixed(target: Node, value: Node) -> bool:
    """Whether each name of a target gets a constant: one written out, or one that a call with constants counts."""
    if target.type == "identifier":
        return shape_of(value) is Shape.LITERAL
    names = parts(target)
    if target.type not in PATTERNS or any(name.type != "identifier" for name in names):
        return False
    if value.type in ("expression_list", "tuple"):
        return len(parts(value)) == len(names) and shape_of(value) is Shape.LITERAL
    return len(names) == _counted_by(value)


def _counted_by(node: Node) -> int | None:
    """How many numbers a call such as `range(1, 4)` counts; None where its limits are not written out."""
    callee, given = node.child_by_field_name("function"), node.child_by_field_name("arguments")
    if callee is None or given is None or callee.type != "identifier":
        return None
    limits = [int(part.text) for part in parts(given) if part.text and part.text.isdigit()]
    if len(limits) != len(parts(given)) or not 1 <= len(limits) <= 2:
        return None
    return limits[-1] - (limits[0] if len(limits) == 2 else 0)


def _shape_of_parts(node: Node, all_literal: Shape, otherwise: Shape, depth: int) -> Shape:
    if depth > _DEEPEST_SHAPE:
        return Shape.OTHER
    shapes = {shape_of(child, depth + 1) for child in parts(node)}
    if shapes <= {Shape.LITERAL}:
        return all_literal
    allowed = {Shape.LITERAL, Shape.COMPUTED, Shape.NAME}
    if otherwise is Shape.DISPLAY:
        allowed.add(Shape.DISPLAY)
    if shapes <= allowed:
        return otherwise
    return Shape.RISKY if otherwise is Shape.COMPUTED and shapes <= {*allowed, Shape.RISKY} else Shape.OTHER


def _shape_of_operation(node: Node) -> Shape:
    """COMPUTED where an operation's leaves are all constants or names, RISKY where it may fail for some of them."""
    shape = Shape.COMPUTED
    waiting = [node]
    while waiting:
        child = waiting.pop()
        if child.type in _OPERATORS:
            waiting += child.named_children
            risk = _risk(child)
            if risk is Shape.OTHER:
                return risk
            shape = risk or shape
        elif (child.type not in CONSTANTS and child.type not in ("identifier", "string", "comment")) or (
            child.type == "string" and shape_of(child) is not Shape.LITERAL
        ):
            return Shape.OTHER
    return shape


def _risk(node: Node) -> Shape | None:
    """RISKY for an operation that fails where a name on its right is zero or less; OTHER where more stands there."""
    operator, right = node.child_by_field_name("operator"), node.child_by_field_name("right")
    if node.type != "binary_operator" or operator is None or right is None or operator.type not in _FAILING:
        return None
    if right.type in ("integer", "float"):
        return None if (right.text or b"").strip(b"0._eEjJ") else Shape.OTHER
    return Shape.RISKY if right.type == "identifier" else Shape.OTHER


def has_operations(node: Node, shape: Shape) -> bool:
    """Whether operators stand in an expression of a shape that may have them."""
    if shape not in (Shape.COMPUTED, Shape.RISKY, Shape.DISPLAY):
        return False
    waiting = [node]
    while waiting:
        child = waiting.pop()
        if child.type in _OPERATORS and child.type != "parenthesized_expression":
            return True
        waiting += child.named_children
    return False
