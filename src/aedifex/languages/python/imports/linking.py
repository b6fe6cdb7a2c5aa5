"""Following imports between the files of one program."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from aedifex.program.model.module import Module
from aedifex.program.model.names import Scope, Symbol
from aedifex.source.errors import Place


def link(modules: Mapping[Path, Module]) -> None:
    """Set where each imported symbol leads to, and note where one file reaches into another.

    The folder of the first module, the script that is started, is where absolute imports begin; a folder's `__init__`
    file stands for the package.
    """
    finder = _Finder(modules)
    for module in modules.values():
        for scope in module.scope.walk():
            for symbol in scope.symbols.values():
                if symbol.imported is not None:
                    finder.resolve(symbol, module)
    owners: dict[Scope, Module] = {module.scope: module for module in modules.values()}
    for module in modules.values():
        module.used_elsewhere.clear()
    for module in modules.values():
        _note_uses(module, owners)


class _Finder:
    def __init__(self, modules: Mapping[Path, Module]) -> None:
        self.by_place = {_place(path.resolve()): module for path, module in modules.items()}
        self.root = next(iter(modules)).resolve().parent

    def resolve(self, symbol: Symbol, importer: Module) -> None:
        """Give one imported symbol its target."""
        assert symbol.imported is not None
        name, what = symbol.imported
        symbol.target, symbol.module_scope = None, None
        module = self.module(name, importer)
        if what is None:
            symbol.module_scope = module.scope if module is not None else None
            return
        if module is not None and what in module.scope.symbols:
            symbol.target = module.scope.symbols[what]
            return
        joined = f"{name}{what}" if name.endswith(".") else f"{name}.{what}"
        inner = self.module(joined, importer)
        symbol.module_scope = inner.scope if inner is not None else None

    def module(self, name: str, importer: Module) -> Module | None:
        """The file that a dotted name means in `importer`."""
        base = self.root
        if name.startswith("."):
            dots = len(name) - len(name.lstrip("."))
            name = name[dots:]
            base = importer.path.resolve().parent.joinpath(*[".."] * (dots - 1)).resolve()
        return self.by_place.get(base.joinpath(*name.split(".")) if name else base)


def _place(path: Path) -> Path:
    return path.parent if path.stem == "__init__" else path.with_suffix("")


def _note_uses(module: Module, owners: Mapping[Scope, Module]) -> None:
    """What other files use of a file cannot move without them."""
    for reference in module.references:
        found = reference.final
        home = owners.get(found.scope)
        if home is not None and home is not module:
            home.used_elsewhere.setdefault(found.name, Place(module.path, module.source.line_of(reference.start)))
