"""What expressions look like: constants, names, calls, and what is computed from them."""

from __future__ import annotations

from tree_sitter import Node

from aedifex.languages.tree.grammar import parts
from aedifex.program.model.statements import Shape, Sort

CONSTANTS = frozenset("number true false null undefined".split())
"""The kinds of nodes that are constants, texts aside."""

FUNCTIONS = frozenset("function_expression arrow_function generator_function".split())
"""The kinds of nodes that are nameless routines."""

_OPERATORS = frozenset({"binary_expression", "unary_expression", "ternary_expression", "parenthesized_expression"})
_SORTS = {"number": Sort.NUMBER, "string": Sort.TEXT, "template_string": Sort.TEXT, "array": Sort.LIST}
_SORTS |= {"object": Sort.TABLE, "true": Sort.TRUTH, "false": Sort.TRUTH}
_NAMED_KEYS = frozenset(
    """
private_property_identifier property_identifier shorthand_property_identifier shorthand_property_identifier_pattern
""".split()
)
_DEEPEST = 20


def pattern_pairs(pattern: Node) -> list[tuple[Node, Node]] | None:
    """The keys of an object that is taken apart, each with what it goes to; defaults may only be constants.

    None where more is done: what is left over is given a name, or a default is worked out.
    """
    found: list[tuple[Node, Node]] = []
    for child in parts(pattern):
        key, value = child, child
        if child.type == "object_assignment_pattern" and child.children[-1].type in CONSTANTS:
            key = value = child.children[0]
        elif child.type == "pair_pattern":
            named, given = child.child_by_field_name("key"), child.child_by_field_name("value")
            assert named is not None and given is not None
            key, value = named, given
        elif child.type != "shorthand_property_identifier_pattern":
            return None
        found.append((key, value))
    return found


def sort_of(node: Node) -> Sort:
    """What a value is that is written out in place."""
    if node.type == "unary_expression" and node.child_count == 2 and node.children[1].type == "number":
        return Sort.NUMBER
    return _SORTS.get(node.type, Sort.OTHER)


def shape_of(node: Node, depth: int = 0) -> Shape:
    """What the text of an expression looks like."""
    kind = node.type
    if kind in CONSTANTS:
        return Shape.LITERAL
    if kind == "identifier":
        return Shape.NAME
    if kind in ("call_expression", "new_expression"):
        return Shape.CALL
    if kind == "string":
        return Shape.LITERAL
    if kind == "template_string":
        return Shape.OTHER if any(child.type == "template_substitution" for child in node.children) else Shape.LITERAL
    if kind in ("array", "object", "pair"):
        return _shape_of_parts(node, depth)
    if kind == "unary_expression" and node.children[-1].type == "number":
        return Shape.LITERAL
    return _shape_of_operation(node) if kind in _OPERATORS else Shape.OTHER


def _shape_of_parts(node: Node, depth: int) -> Shape:
    """DISPLAY where all that is written out there is constant, computed, or written out itself."""
    if depth > _DEEPEST:
        return Shape.OTHER
    values = [node.child_by_field_name("value")] if node.type == "pair" else parts(node)
    shapes = {shape_of(value, depth + 1) for value in values if value is not None}
    return Shape.DISPLAY if shapes <= {Shape.LITERAL, Shape.COMPUTED, Shape.NAME, Shape.DISPLAY} else Shape.OTHER


def _shape_of_operation(node: Node) -> Shape:
    """COMPUTED where an operation's leaves are all constants or names; no operation on such fails."""
    waiting = [node]
    while waiting:
        child = waiting.pop()
        if child.type in _OPERATORS:
            operator = child.child_by_field_name("operator")
            if operator is not None and operator.type in ("delete", "in", "instanceof"):
                return Shape.OTHER
            waiting += parts(child)
        elif child.type != "identifier" and shape_of(child) is not Shape.LITERAL:
            return Shape.OTHER
    return Shape.COMPUTED


def has_operations(node: Node, shape: Shape) -> bool:
    """Whether operators stand in an expression of a shape that may have them."""
    waiting = [node] if shape in (Shape.COMPUTED, Shape.DISPLAY) else []
    while waiting:
        child = waiting.pop()
        if child.type in _OPERATORS and child.type != "parenthesized_expression":
            return True
        waiting += child.named_children
    return False


def plain_key(node: Node, text: bytes) -> str | None:
    """The key that a node names where that is written out: a name, a plain text, or a whole number."""
    if node.type in _NAMED_KEYS:
        return text.decode("utf-8")
    if node.type == "string" and all(child.type == "string_fragment" for child in node.named_children):
        return text[1:-1].decode("utf-8")
    return text.decode("ascii") if node.type == "number" and text.isdigit() else None
