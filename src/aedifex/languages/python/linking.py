"""Following imports between the files of one program."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from aedifex.program.names import Form, Mode, Reference, Symbol
from aedifex.program.program import Module


def link(modules: Mapping[Path, Module]) -> None:
    """Set the target of each imported symbol that another of these modules defines.

    The folder of the first module, the script that is started, is where absolute imports begin; a folder's
    `__init__` file stands for the package.
    """
    if not modules:
        return
    root = next(iter(modules)).parent
    by_place = {_place(path): module for path, module in modules.items()}
    for module in modules.values():
        for scope in module.scope.walk():
            for symbol in scope.symbols.values():
                if symbol.brought is not None:
                    symbol.target = _target(symbol, module, by_place, root)


def _place(path: Path) -> Path:
    return path.parent if path.stem == "__init__" else path.with_suffix("")


def _target(symbol: Symbol, module: Module, by_place: Mapping[Path, Module], root: Path) -> Symbol | None:
    assert symbol.brought is not None
    name, what = symbol.brought
    if what is None:
        return None
    found = _module(name, module, by_place, root)
    if found is None:
        return None
    return found.scope.symbols.get(what)


def _module(name: str, importer: Module, by_place: Mapping[Path, Module], root: Path) -> Module | None:
    base = root
    if name.startswith("."):
        dots = len(name) - len(name.lstrip("."))
        name = name[dots:]
        base = importer.path.parent.joinpath(*[".."] * (dots - 1)).resolve()
        by_place = {place.resolve(): module for place, module in by_place.items()}
    parts = name.split(".") if name else []
    return by_place.get(base.joinpath(*parts))


def module_target(reference: Reference, modules: Mapping[Path, Module]) -> Symbol | None:
    """The symbol that `m.name` leads to, where `m` is an imported module of the program."""
    brought = reference.symbol.brought
    if brought is None or brought[1] is not None or not reference.path or Form.IMPORT not in reference.symbol.forms:
        return None
    by_place = {_place(path): module for path, module in modules.items()}
    root = next(iter(modules)).parent
    importer = next(m for m in modules.values() if m.scope is reference.symbol.scope.module_scope)
    found = _module(brought[0], importer, by_place, root)
    step = reference.path[0].name
    if found is None or step is None or reference.mode is Mode.DECLARE:
        return None
    return found.scope.symbols.get(step)
