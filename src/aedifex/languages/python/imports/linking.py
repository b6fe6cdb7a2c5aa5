"""Following imports between the files of one program."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import takewhile
from pathlib import Path

from aedifex.languages.python.imports.entry_points import entry_points
from aedifex.languages.python.imports.package import last_name
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Scope, Symbol
from aedifex.program.model.statements import call_of
from aedifex.source.errors import Place

STARTED = "__main__"
_LOADERS = {"importlib", "runpy", "pkgutil"}


def link(modules: Mapping[Path, Module]) -> None:
    """Set where each imported symbol leads to, and note where one file reaches into another.

    The folder of the first module, the script that is started, is where absolute imports begin, or that above it; a
    folder's `__init__` file stands for the package.
    """
    started = next(iter(modules.values()))
    _note_entry_points(started)
    if len(modules) == 1:
        return
    finder = _Finder(modules)
    for module in modules.values():
        for scope in module.scope.walk():
            for symbol in scope.symbols.values():
                if symbol.imported is not None:
                    finder.resolve(symbol, module)
    owners: dict[Scope, Module] = {module.scope: module for module in modules.values()}
    for module in modules.values():
        if module is not started:
            module.used_elsewhere.clear()
    for module in modules.values():
        _note_uses(module, owners)
    others = [module for module in modules.values() if module is not started]
    in_full = [module for module in others if finder.imports_in_full(module)]
    for module in others:
        _note_texts(module, started)
    for module in in_full:
        _note_attributes(module, started)
    started.is_imported = bool(in_full) or any(_imports(module, started) for module in others)


def _note_entry_points(started: Module) -> None:
    """What the projects around the script start it with, and what it hands out: its entry, or other parts of it."""
    started.used_elsewhere.clear()
    started.starters.clear()
    rules = started.dialect.rules
    named = {name: _place_of(started, name) for name in started.scope.symbols if rules.is_handed_out(started, name)}
    for name, place in {**named, **entry_points(started.path)}.items():
        if name in started.scope.symbols:
            is_entry = name == rules.entry
            (started.starters if is_entry else started.used_elsewhere).setdefault(name, place)


def _place_of(module: Module, text: str) -> Place:
    """Where a name stands as a text."""
    at = next((at for found, at in _texts(module) if found == text), 0)
    return Place(module.path, module.source.line_of(at))


class _Finder:
    def __init__(self, modules: Mapping[Path, Module]) -> None:
        self.by_place = {_place(path.resolve()): module for path, module in modules.items()}
        self.started = next(iter(modules.values()))
        root = next(iter(modules)).resolve().parent
        self.roots = [root, *root.parents[: 1 + _packages_around(root)]]

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
        if name == STARTED:
            return self.started
        bases = self.roots
        if name.startswith("."):
            dots = len(name) - len(name.lstrip("."))
            name = name[dots:]
            bases = [importer.path.resolve().parent.joinpath(*[".."] * (dots - 1)).resolve()]
        places = (base.joinpath(*name.split(".")) if name else base for base in bases)
        return next((self.by_place[place] for place in places if place in self.by_place), None)

    def imports_in_full(self, importer: Module) -> bool:
        """Whether a file imports the one that is started by a dotted name, of which it binds only the package."""
        found = (imported for statement in importer.walk() for imported in statement.imports)
        brought = {imported.module for imported in found if imported.name is None}
        return any("." in name and self.module(name, importer) is self.started for name in brought)


def _place(path: Path) -> Path:
    return path.parent if path.stem == "__init__" else path.with_suffix("")


def _packages_around(folder: Path) -> int:
    """How many folders above, beginning with this one, are packages."""
    return sum(1 for _ in takewhile(lambda each: (each / "__init__.py").exists(), (folder, *folder.parents)))


def loads_by_name(module: Module) -> bool:
    """Whether a file may run or import others whose names are values."""
    packages = {name.partition(".")[0] for name in module.imported}
    return bool(_LOADERS & packages or {"exec", "__import__"} & module.outside.symbols.keys())


def _imports(module: Module, started: Module) -> bool:
    """Whether a file imports, or may load, the one that is started."""
    if loads_by_name(module) and any(_names_file(text, module, started) for text, _ in _texts(module)):
        return True
    return any(
        (symbol.module_scope is started.scope or (symbol.target is not None and symbol.target.scope is started.scope))
        and symbol.imported is not None
        and symbol.imported.module != STARTED
        for scope in module.scope.walk()
        for symbol in scope.symbols.values()
    )


def _note_texts(module: Module, started: Module) -> None:
    """What another file may use of the one that is started by its name in a text: a part of it, or anything."""
    reaches = "modules" in {a for statement in module.walk() for a in statement.attributes} or loads_by_name(module)
    for text, at in _texts(module):
        place = Place(module.path, module.source.line_of(at))
        if reaches and (_names_file(text, module, started) or (text == STARTED and not _is_of_guard(module, at))):
            _note_all(started, place)
        head, _, name = text.rpartition(".")
        if head.rpartition(".")[2] == last_name(started.path) and name in started.scope.symbols:
            started.used_elsewhere.setdefault(name, place)


def _texts(module: Module) -> Iterator[tuple[str, int]]:
    """The plain texts of a file, without their quotes, and where they begin."""
    for span in module.strings:
        yield module.source.slice(span).strip("rRbBuU").strip("'\""), span.start


def _names_file(text: str, module: Module, started: Module) -> bool:
    """Whether a text in another file may be the name of the one that is started, or of its module.

    From another folder it is named with its own, or with its suffix.
    """
    own = last_name(started.path)
    *folders, last = text.replace("\\", "/").split("/") if "/" in text or "\\" in text else text.split(".")
    if text.endswith(started.path.name) and last in (started.path.name, started.path.suffix.lstrip(".")):
        return True
    folder = started.path.resolve().parent
    return last == own and (module.path.resolve().parent == folder or folder.name in folders)


def _is_of_guard(module: Module, at: int) -> bool:
    return module.guard is not None and module.guard.start <= at < module.guard.header_end


def _note_attributes(module: Module, started: Module) -> None:
    """What a file may use of the one that is started, by the names of attributes."""
    for statement in module.walk():
        for name in statement.attributes:
            if name in started.scope.symbols:
                started.used_elsewhere.setdefault(name, Place(module.path, module.source.line_of(statement.start)))


def _note_all(started: Module, place: Place) -> None:
    for name in started.scope.symbols:
        started.used_elsewhere.setdefault(name, place)


def _note_uses(module: Module, owners: Mapping[Scope, Module]) -> None:
    """What other files use of a file cannot move without them; a module that is handed on may be used in any way."""
    for reference in module.references:
        found = reference.final
        whole = owners.get(found.module_scope) if found.module_scope is not None and not reference.path else None
        if whole is not None and whole is not module and reference.mode is Mode.READ:
            _note_all(whole, Place(module.path, module.source.line_of(reference.start)))
        home = owners.get(found.scope)
        if home is not None and home is not module:
            uses = home.starters if _only_starts(module, found) else home.used_elsewhere
            uses.setdefault(found.name, Place(module.path, module.source.line_of(reference.start)))


def _only_starts(module: Module, symbol: Symbol) -> bool:
    """Whether a file is there to start its package, and calls nothing but the entry, given nothing."""
    if module.path.stem != STARTED or symbol.name != module.dialect.rules.entry:
        return False
    uses = [r for r in module.references if r.final is symbol and not r.mode.writes]
    calls = [call_of(use) for use in uses]
    return len(calls) == 1 and calls[0] is not None and not calls[0].arguments
