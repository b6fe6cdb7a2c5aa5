"""Which names a star import brings, read from the module's own source without running it."""

from __future__ import annotations

import ast
import importlib
import subprocess
import sys
from collections.abc import Iterable, Sequence
from pathlib import Path

from aedifex.source.errors import RunError, UnreadableError
from aedifex.source.text import SourceText

_STUB = ".pyi"
"""What tells the names of a module that is compiled."""


class StarImports:
    """Finds modules along a search path and tells their public names.

    `search_path` lists folders as `sys.path` does; that of this interpreter, without the current folder, by default.
    """

    def __init__(self, search_path: Sequence[str] | None = None) -> None:
        given = sys.path if search_path is None else search_path
        self.search_path = [Path(folder) for folder in given if folder]
        self._known: dict[tuple[str, Path], frozenset[str] | None] = {}

    def names(self, module: str, folder: Path) -> frozenset[str] | None:
        """The names that `from module import *` binds in a script that stands in `folder`.

        None where the module is not found, or is compiled (but for those of the language itself), or builds its list of
        names in a way that cannot be read, and no stub beside it tells them.
        """
        key = (module, folder)
        if key not in self._known:
            self._known[key] = None  # a circle of star imports adds nothing more
            self._known[key] = self._names(module, folder)
        return self._known[key]

    def find(self, module: str, folder: Path) -> Path | None:
        """The source file of a module, searched as the interpreter would from a script in `folder`."""
        if module.startswith("."):
            dots = len(module) - len(module.lstrip("."))
            roots: Iterable[Path] = [folder.joinpath(*[".."] * (dots - 1))]
            module = module[dots:]
        else:
            roots = [folder, *self.search_path]
        return _file_of(module, roots)

    def is_module(self, name: str) -> bool:
        """Whether the search path has a module of that name in source."""
        return _file_of(name, self.search_path) is not None

    def _names(self, module: str, folder: Path) -> frozenset[str] | None:
        path = self.find(module, folder)
        found = self._read(path) if path is not None else _compiled_names(module)
        stub = _file_of(module, [folder, *self.search_path], _STUB) if found is None else None
        return self._read(stub) if stub is not None else found

    def _read(self, path: Path) -> frozenset[str] | None:
        """The public names of a file; None where they cannot be read."""
        try:
            tree = ast.parse(SourceText.read(path).parse_view)
        except (UnreadableError, SyntaxError, RecursionError, ValueError):
            return None
        return _PublicNames(self, path).of(tree)


def search_path_of(command: str) -> list[str]:
    """The search path of another Python, without running anything of the user's.

    Raises:
        RunError: it cannot be asked.
    """
    question = "import sys; print('\\n'.join(sys.path))"
    try:
        done = subprocess.run([command, "-I", "-c", question], capture_output=True, text=True, check=True, timeout=30)
    except (OSError, subprocess.SubprocessError):
        raise RunError(
            f"{command} cannot be asked for its search path", advice="Name a Python interpreter, such as python3.12."
        ) from None
    return done.stdout.splitlines()


def _compiled_names(module: str) -> frozenset[str] | None:
    """The public names of a compiled module of the standard library, which runs nobody's code when it is asked."""
    if module not in sys.stdlib_module_names:
        return None
    try:
        found = importlib.import_module(module)
    except ImportError:
        return None
    return frozenset(getattr(found, "__all__", [name for name in vars(found) if not name.startswith("_")]))


def _file_of(module: str, roots: Iterable[Path], suffix: str = ".py") -> Path | None:
    parts = module.split(".") if module and not module.startswith(".") else []
    for root in roots:
        base = root.joinpath(*parts)
        for candidate in (base / f"__init__{suffix}", *([base.with_name(base.name + suffix)] if base.name else [])):
            if candidate.is_file():
                return candidate
    return None


def _parts(test: ast.expr) -> list[ast.expr]:
    """What must all hold for a test to hold."""
    return test.values if isinstance(test, ast.BoolOp) and isinstance(test.op, ast.And) else [test]


class _PublicNames:
    """Reads `__all__`, or else the public names, from one module's syntax tree."""

    def __init__(self, stars: StarImports, path: Path) -> None:
        self.stars = stars
        self.path = path
        self.listed: list[str] | None = None
        self.lists: dict[str, list[str]] = {}
        self.bound: set[str] = set()
        self.is_known = True
        self.origins: dict[str, tuple[str, str | None]] = {}

    def of(self, tree: ast.Module) -> frozenset[str] | None:
        self._block(tree.body)
        if not self.is_known:
            return None
        if self.listed is not None:
            return frozenset(self.listed)
        return frozenset(name for name in self.bound if not name.startswith("_"))

    def _block(self, body: Sequence[ast.stmt]) -> None:
        for statement in body:
            self._statement(statement)

    def _statement(self, node: ast.stmt) -> None:
        if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef | ast.ClassDef):
            self.bound.add(node.name)
            return
        if isinstance(node, ast.Import):
            for alias in filter(self._is_passed_on, node.names):
                self._imported(alias.asname or alias.name.partition(".")[0], alias.name, None)
            return
        if isinstance(node, ast.ImportFrom):
            self._import_from(node)
            return
        if isinstance(node, ast.Assign):
            for target in node.targets:
                self._assign(target, node.value)
        elif isinstance(node, ast.AnnAssign) and node.value is not None:
            self._assign(node.target, node.value)
        elif isinstance(node, ast.AnnAssign) and self.path.suffix != _STUB:
            return  # this only tells of a name; a stub does nothing else
        elif isinstance(node, ast.AugAssign) and isinstance(node.target, ast.Name):
            self._extend(node.target.id, node.value)
        elif isinstance(node, ast.Expr) and isinstance(node.value, ast.Call):
            self._call(node.value)
        self._bind_in(node)
        for field in ("body", "orelse", "finalbody"):
            self._block(getattr(node, field, []))
        for handler in getattr(node, "handlers", []):
            self._block(handler.body)
        for case in getattr(node, "cases", []):
            self._block(case.body)

    def _bind_in(self, node: ast.stmt) -> None:
        """Note the names that a statement's own expressions bind."""
        waiting: list[ast.AST] = [node]
        while waiting:
            item = waiting.pop()
            if isinstance(item, ast.Name) and not isinstance(item.ctx, ast.Load):
                self.bound.add(item.id)
            children = [item.iter, *item.ifs] if isinstance(item, ast.comprehension) else ast.iter_child_nodes(item)
            waiting += [child for child in children if not isinstance(child, ast.stmt | ast.Lambda)]

    def _is_passed_on(self, alias: ast.alias) -> bool:
        """Whether an imported name is one of the module's own: a stub says so by naming it twice."""
        return self.path.suffix != _STUB or alias.asname == alias.name

    def _imported(self, name: str, module: str, what: str | None) -> None:
        self.bound.add(name)
        self.origins[name] = (module, what)

    def _import_from(self, node: ast.ImportFrom) -> None:
        module = "." * node.level + (node.module or "")
        for alias in node.names:
            if alias.name != "*":
                if self._is_passed_on(alias):
                    self._imported(alias.asname or alias.name, module, alias.name)
                continue
            brought = self.stars.names(module, self.path.parent)
            if brought is None:
                self.is_known = self.listed is not None
            else:
                self.bound |= brought

    def _assign(self, target: ast.expr, value: ast.expr) -> None:
        if not isinstance(target, ast.Name):
            return
        names = self._strings(value)
        if names is not None:
            self.lists[target.id] = names
        else:
            self.lists.pop(target.id, None)
        if target.id == "__all__":
            self.listed = names
            self.is_known = names is not None

    def _extend(self, name: str, value: ast.expr) -> None:
        more = self._strings(value)
        known = self.lists.pop(name, None)
        if known is not None and more is not None:
            self.lists[name] = known + more
        if name == "__all__":
            self.listed = self.lists.get(name)
            self.is_known = self.listed is not None

    def _call(self, call: ast.Call) -> None:
        function = call.func
        if not isinstance(function, ast.Attribute) or not isinstance(function.value, ast.Name):
            return
        name = function.value.id
        if len(call.args) == 1 and function.attr in ("extend", "append", "remove"):
            known = self.lists.get(name)
            if function.attr == "extend":
                self._extend(name, call.args[0])
            elif known is not None and isinstance(call.args[0], ast.Constant):
                item = str(call.args[0].value)
                if function.attr == "append":
                    self.lists[name] = [*known, item]
                else:
                    self.lists[name] = [other for other in known if other != item]
                if name == "__all__":
                    self.listed = self.lists[name]

    def _strings(self, node: ast.expr) -> list[str] | None:
        """The strings of a list expression; None where it cannot be read."""
        if isinstance(node, ast.List | ast.Tuple | ast.Set):
            found: list[str] = []
            for item in node.elts:
                inner = self._strings(item.value) if isinstance(item, ast.Starred) else None
                if inner is not None:
                    found += inner
                elif isinstance(item, ast.Constant) and isinstance(item.value, str):
                    found.append(item.value)
                else:
                    return None
            return found
        if isinstance(node, ast.BinOp) and isinstance(node.op, ast.Add):
            left, right = self._strings(node.left), self._strings(node.right)
            return left + right if left is not None and right is not None else None
        if isinstance(node, ast.Name):
            return self.lists.get(node.id)
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and len(node.args) == 1:
            return self._strings(node.args[0]) if node.func.id in ("list", "tuple", "sorted", "set") else None
        if isinstance(node, ast.Attribute) and node.attr == "__all__" and isinstance(node.value, ast.Name):
            return self._all_of(node.value.id)
        if isinstance(node, ast.ListComp):
            return self._own_names(node)
        return None

    def _own_names(self, node: ast.ListComp) -> list[str] | None:
        """The names that a module has so far, sifted as some list them: `[… for … in globals().items() if …]`."""
        (walked, *others), element = node.generators, node.elt
        target = walked.target
        is_pair = isinstance(target, ast.Tuple) and all(isinstance(each, ast.Name) for each in target.elts)
        if others or not is_pair or ast.unparse(walked.iter) != "globals().items()":
            return None
        name, value = (ast.unparse(each) for each in ast.iter_child_nodes(target) if isinstance(each, ast.Name))
        if not isinstance(element, ast.Name) or element.id != name:
            return None
        kept = set(self.bound)
        for test in [part for each in walked.ifs for part in _parts(each)]:
            sifted = self._sifted(test, name, value, kept)
            if sifted is None:
                return None
            kept = sifted
        return sorted(kept)

    def _sifted(self, test: ast.expr, name: str, value: str, names: set[str]) -> set[str] | None:
        """The names that pass a test; None where it is not one of those that are known."""
        text = ast.unparse(test)
        if text == f"not {name}.startswith('_')":
            return {each for each in names if not each.startswith("_")}
        if text == f"not isinstance({value}, types.ModuleType)":
            return {each for each in names if not self._is_module(each)}
        if isinstance(test, ast.Compare) and isinstance(test.ops[0], ast.NotIn) and ast.unparse(test.left) == name:
            left_out = self._strings(test.comparators[0])
            return names - set(left_out) if left_out is not None else None
        return None

    def _is_module(self, name: str) -> bool:
        """Whether a name is that of an imported module."""
        module, what = self.origins.get(name, ("", None))
        joined = module if what is None else f"{module}.{what}"
        return bool(module) and (what is None or self.stars.find(joined, self.path.parent) is not None)

    def _all_of(self, name: str) -> list[str] | None:
        """The `__all__` of a module that this one has imported under `name`."""
        module, what = self.origins.get(name, (None, None))
        if module is None:
            return None
        joined = module if what is None else f"{module.rstrip('.')}.{what}" if module.strip(".") else module + what
        brought = self.stars.names(joined, self.path.parent)
        return sorted(brought) if brought is not None else None
