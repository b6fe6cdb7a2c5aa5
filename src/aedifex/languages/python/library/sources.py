"""What the source of another file tells of its classes and of what it does."""

from __future__ import annotations

import ast
import builtins
from functools import lru_cache
from pathlib import Path


def may_define(path: Path, class_name: str, member: str) -> bool:
    """Whether a class in a file, or one that it inherits from, may define a member; where it cannot be told, yes."""
    classes = _classes(path)
    waiting, seen = [class_name], set()
    while waiting:
        name = waiting.pop()
        found = classes.get(name)
        if found is None:
            built_in = getattr(builtins, name, None)
            if built_in is None or getattr(built_in, member, None) is not getattr(object, member, None):
                return True
        elif name not in seen:
            seen.add(name)
            own = {getattr(statement, "name", "") for statement in found.body}
            if member in own or found.keywords or any(not isinstance(base, ast.Name) for base in found.bases):
                return True
            waiting += [base.id for base in found.bases if isinstance(base, ast.Name)]
    return False


def compares_identity(path: Path) -> bool:
    """Whether a file asks anywhere if two values, none of them a constant, are the same one."""
    comparisons = (node for node in ast.walk(_tree(path)) if isinstance(node, ast.Compare))
    return any(
        isinstance(operator, ast.Is | ast.IsNot) and not isinstance(operand, ast.Constant)
        for comparison in comparisons
        for operator, operand in zip(comparison.ops, comparison.comparators, strict=True)
    )


def _classes(path: Path) -> dict[str, ast.ClassDef]:
    return {statement.name: statement for statement in _tree(path).body if isinstance(statement, ast.ClassDef)}


@lru_cache(maxsize=64)
def _tree(path: Path) -> ast.Module:
    """The syntax tree of a file; an empty one where it cannot be read."""
    try:
        return ast.parse(path.read_bytes())
    except (OSError, SyntaxError, ValueError):
        return ast.Module(body=[], type_ignores=[])
