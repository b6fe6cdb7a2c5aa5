"""What the source of another file tells of its classes and of what it does."""

from __future__ import annotations

import ast
import builtins
import re
from collections.abc import Callable, Iterator
from functools import lru_cache
from pathlib import Path

FindModule = Callable[[str, Path], Path | None]
"""Finds the source of a module by its name, as code in a folder would."""

_SHOWING = frozenset({"__repr__", "__str__"})
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
    named = rf"(?:\.|\bdef\s+){member}\b|^[ \t]+{member}\s*[=:]|['\"]{member}['\"]"
    return _is_in_files(find, path, class_name, member, re.compile(named, re.MULTILINE))


def may_have(find: FindModule, path: Path, class_name: str, member: str) -> bool:
    """Whether objects of a class may have a member, by the files of all that it inherits from; where unclear, yes."""
    named = rf"\bself\.{member}\b|\bdef\s+{member}\b|^[ \t]+{member}\s*[=:]"
    return _is_in_files(find, path, class_name, member, re.compile(named, re.MULTILINE))


def may_ask_class(find: FindModule, path: Path, class_name: str) -> bool:
    """Whether a class, or one that it inherits from, asks anywhere but to show an object of which class that is."""
    return any(
        file is None or any(map(_asks_class, _classes(file)[name].body if name in _classes(file) else ()))
        for file, name in _lineage(find, path, class_name)
        if file is not None or not isinstance(getattr(builtins, name, None), type)
    )


def _asks_class(statement: ast.stmt) -> bool:
    if getattr(statement, "name", "") in _SHOWING:
        return False
    asked = (n.attr if isinstance(n, ast.Attribute) else getattr(n, "id", "") for n in ast.walk(statement))
    return not {"__class__", "type"}.isdisjoint(asked)


def _is_in_files(find: FindModule, path: Path, class_name: str, member: str, named: re.Pattern[str]) -> bool:
    return any(
        named.search(_text(file)) if file is not None else not _is_builtin_without(name, member)
        for file, name in _lineage(find, path, class_name)
    )


def _lineage(find: FindModule, path: Path, class_name: str) -> Iterator[tuple[Path | None, str]]:
    """The files of a class and of all that it inherits from, with its names there; no file for what is in none."""
    waiting: list[tuple[Path | None, str]] = [(path, class_name)]
    seen: set[tuple[Path | None, str]] = set()
    while waiting:
        file, name = waiting.pop()
        if (file, name) in seen:
            continue
        seen.add((file, name))
        yield file, name
        if file is not None:
            origins = _origins(find, file, name)
            waiting += origins if origins is not None else [(None, name)]


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
    inherited = built_in is object or getattr(built_in, member, None) is getattr(object, member, None)
    return isinstance(built_in, type) and inherited


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
def _text(path: Path) -> str:
    return path.read_text("utf-8", errors="replace")


@lru_cache(maxsize=64)
def _tree(path: Path) -> ast.Module:
    """The syntax tree of a file; an empty one where it cannot be read."""
    try:
        return ast.parse(path.read_bytes())
    except (OSError, SyntaxError, ValueError):
        return ast.Module(body=[], type_ignores=[])
