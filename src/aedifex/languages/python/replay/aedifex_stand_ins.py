"""What stands in, in tests, for parts of libraries that would show, play or wait."""

import ast
import sys
from collections.abc import Iterator
from pathlib import Path
from types import ModuleType
from unittest.mock import MagicMock, patch

outside = MagicMock()

_SHOWING = {"tkinter", "turtle", "curses", "winsound", "msvcrt"}
_COMPUTING = {"numpy", "scipy", "pandas", "sympy", "networkx", "dateutil", "yaml", "attr", "attrs", "pydantic"}
_VALUES = {"Rect", "FRect", "Color", "Vector2", "Vector3", "sprite", "math", "locals", "mask"}
_REACHING_OUT = {("time", "sleep"), ("sqlite3", "connect")}


class Stand:
    """A stand-in at `target`, the dotted name of what it replaces; its calls are noted under `name`."""

    def __init__(self, target: str, name: str) -> None:
        self.target = target
        self.name = name
        self.patch = patch(target, getattr(outside, name))

    def start(self) -> None:
        """Put it in place."""
        self.patch.start()

    def stop(self) -> None:
        """Take it away."""
        self.patch.stop()


def found_in(modules: "list[ModuleType]") -> "list[Stand]":
    """The stand-ins that some modules need, whose folder this is: what stands beside them is no library."""
    own = {path.stem for path in Path().iterdir() if path.is_dir() or path.suffix == ".py"}
    found = {target: name for module in modules for target, name in _targets(module, own)}
    return [Stand(target, name) for target, name in sorted(found.items())]


def _targets(module: ModuleType, own: "set[str]") -> "Iterator[tuple[str, str]]":
    tree = ast.parse(module.__loader__.get_source(module.__name__))
    aliases: dict[str, str] = {}
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            for each in node.names:
                aliases[each.asname or each.name.partition(".")[0]] = (
                    each.name if each.asname else each.name.split(".")[0]
                )
    named = [node for node in ast.walk(tree) if isinstance(node, ast.Name)]
    bound = {node.id for node in named if not isinstance(node.ctx, ast.Load)}
    bound |= {node.arg for node in ast.walk(tree) if isinstance(node, ast.arg)}
    used = {node.id for node in named} - bound
    for node in ast.walk(tree):
        if isinstance(node, ast.ImportFrom) and not node.level and node.module.partition(".")[0] not in own:
            names = [each.asname or each.name for each in node.names]
            brought = vars(sys.modules[node.module]) if node.module in sys.modules else {}
            for name in sorted(used & brought.keys()) if names == ["*"] else names:
                value = vars(module).get(name, module)
                if value is getattr(sys.modules.get(node.module), name, None) and _acts(node.module, name, value):
                    yield f"{module.__name__}.{name}", name
        elif isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name) and node.value.id in aliases:
            library = aliases[node.value.id]
            value = getattr(sys.modules.get(library), node.attr, None)
            if library not in own and _acts(library, node.attr, value):
                yield f"{library}.{node.attr}", node.attr


def _acts(library: str, name: str, value: object) -> bool:
    """Whether something of a library is to be replaced: what calls it shows, plays, waits, or opens a database."""
    root = library.partition(".")[0]
    if (library, name) in _REACHING_OUT:
        return True
    if root in _COMPUTING or (root in sys.stdlib_module_names and root not in _SHOWING):
        return False
    if isinstance(value, type) and issubclass(value, BaseException):
        return False
    return name not in _VALUES and (callable(value) or isinstance(value, ModuleType))
