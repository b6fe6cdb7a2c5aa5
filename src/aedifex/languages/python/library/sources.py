"""What the source of another file tells of its classes and of what it does."""

from __future__ import annotations

import ast
import builtins
import re
from collections.abc import Callable
from functools import lru_cache
from pathlib import Path

FindModule = Callable[[str, Path], Path | None]
"""Finds the source of a module by its name, as code in a folder would."""

_PLAIN_METACLASSES = frozenset({"ABCMeta", "abc.ABCMeta"})


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


def may_mention(find: FindModule, path: Path, class_name: str, member: str) -> bool:
    """Whether the files of a class and all that it inherits from name a member anywhere; where it is unclear, yes."""
    named = re.compile(rf"(?:\.|\bdef\s+){member}\b|^[ \t]+{member}\s*[=:]|['\"]{member}['\"]", re.MULTILINE)
    waiting, seen = [(path, class_name)], set[tuple[Path, str]]()
    while waiting:
        place = waiting.pop()
        if place in seen:
            continue
        seen.add(place)
        if named.search(place[0].read_text("utf-8", errors="replace")):
            return True
        origins = _origins(find, *place)
        if origins is None and not _is_builtin_without(place[1], member):
            return True
        waiting += origins or []
    return False


def _origins(find: FindModule, path: Path, name: str) -> list[tuple[Path, str]] | None:
    """Where a class of a file comes from: its bases there, or the file that it is imported from; None if unclear."""
    found = _classes(path).get(name)
    if found is None:
        brought = _import_of(find, path, name)
        return [brought] if brought is not None else None
    bases: list[tuple[Path, str]] = []
    for base in found.bases:
        if isinstance(base, ast.Name):
            bases.append((path, base.id))
            continue
        module = base.value.id if isinstance(base, ast.Attribute) and isinstance(base.value, ast.Name) else ""
        file = _module_called(find, path, module)
        if file is None or not isinstance(base, ast.Attribute):
            return None
        bases.append((file, base.attr))
    return bases if all(ast.unparse(k.value) in _PLAIN_METACLASSES for k in found.keywords) else None


def _import_of(find: FindModule, path: Path, name: str) -> tuple[Path, str] | None:
    """The file, and the name there, of what a file imports or has under another name."""
    for statement in _tree(path).body:
        if isinstance(statement, ast.ImportFrom):
            file = find("." * statement.level + (statement.module or ""), path.parent)
            if file is None:
                continue
            for alias in statement.names:
                if (alias.asname or alias.name) == name or (alias.name == "*" and name in _classes(file)):
                    return file, name if alias.name == "*" else alias.name
        elif isinstance(statement, ast.Assign) and isinstance(statement.value, ast.Name):
            if any(isinstance(target, ast.Name) and target.id == name for target in statement.targets):
                return path, statement.value.id
    return None


def _module_called(find: FindModule, path: Path, name: str) -> Path | None:
    """The file of a module that a file imports under a name."""
    for statement in _tree(path).body:
        for alias in statement.names if isinstance(statement, ast.Import) else ():
            if (alias.asname or alias.name) == name:
                return find(alias.name, path.parent)
    return None


def _is_builtin_without(name: str, member: str) -> bool:
    """Whether a name means a builtin class that has a member no other way than all objects do, if it has it."""
    built_in = getattr(builtins, name, None)
    return isinstance(built_in, type) and getattr(built_in, member, None) is getattr(object, member, None)


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
