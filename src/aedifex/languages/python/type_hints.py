"""Where a type hint says what a thing is, however many containers stand around it."""

from __future__ import annotations

import ast

_OPTIONAL, _UNION = "Optional", "Union"
_LISTED = frozenset("list List set Set deque Deque Sequence Iterable Iterator Collection tuple Tuple".split())
_KEYED = frozenset("dict Dict Mapping defaultdict DefaultDict OrderedDict".split())


def place_of_type(hint: str, depth: int) -> tuple[int, int] | None:
    """The bytes of a hint that say what stands `depth` containers deep in it.

    Of `Optional[dict]` at depth 0 it is `dict`, of `list[dict[str, int]]` at depth 1 `dict[str, int]`. None where the
    hint says nothing of that depth, or runs over several lines.
    """
    try:
        tree = ast.parse(hint, mode="eval").body
    except SyntaxError:
        return None
    if "\n" in hint:
        return None
    if isinstance(tree, ast.Constant) and isinstance(tree.value, str):
        inner = place_of_type(tree.value, depth) if hint[1:-1] == tree.value else None
        return (inner[0] + 1, inner[1] + 1) if inner is not None else None
    found = _inner(tree, depth)
    return (found.col_offset, found.end_col_offset or 0) if found is not None else None


def _inner(node: ast.expr, depth: int) -> ast.expr | None:
    if isinstance(node, ast.BinOp):
        sides = [side for side in (node.left, node.right) if not _is_none(side)]
        return _inner(sides[0], depth) if len(sides) == 1 else None
    if isinstance(node, ast.Subscript):
        base, given = _last_name(node.value), node.slice
        arguments = given.elts if isinstance(given, ast.Tuple) else [given]
        told = [argument for argument in arguments if not _is_none(argument)]
        if base in (_OPTIONAL, _UNION):
            return _inner(told[0], depth) if len(told) == 1 else None
        if depth and base in _LISTED:
            told = [argument for argument in told if not _is_rest(argument)]
            return _inner(told[0], depth - 1) if len(told) == 1 else None
        if depth and base in _KEYED:
            return _inner(arguments[1], depth - 1) if len(arguments) > 1 else None
    return node if depth == 0 else None


def _last_name(node: ast.expr) -> str:
    if isinstance(node, ast.Attribute):
        return node.attr
    return node.id if isinstance(node, ast.Name) else ""


def _is_none(node: ast.expr) -> bool:
    return isinstance(node, ast.Constant) and node.value is None


def _is_rest(node: ast.expr) -> bool:
    return isinstance(node, ast.Constant) and node.value is ...
