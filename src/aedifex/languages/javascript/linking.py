"""How files of JavaScript find one another: by relative paths, or by a page that loads them."""

from __future__ import annotations

import os
import re
from collections.abc import Iterator, Mapping, Sequence
from contextlib import suppress
from pathlib import Path
from typing import TYPE_CHECKING

from aedifex.languages.javascript import left_to_others, pages
from aedifex.languages.javascript.callers import named_by_page
from aedifex.languages.javascript.page_code import PageCode, page_of
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.source.errors import Place, UnreadableError
from aedifex.source.text import SourceText

if TYPE_CHECKING:
    from aedifex.languages.javascript.files import JavaScriptFiles

_ENDINGS = ("", ".js", ".mjs", ".cjs", "/index.js")
_NOT_DECLARED = "this sets a variable that nothing declares"
_EXPORTS = "exports"
_REQUIRE = "require"


def link(modules: Mapping[Path, Module], files: JavaScriptFiles) -> None:
    """Set where each imported symbol leads to, and note what each file hands out, or others use."""
    for module in modules.values():
        module.used_elsewhere.clear()
        _note_handed_out(module)
        _note_page(module, files)
    for module in modules.values():
        for scope in module.scope.walk():
            for symbol in scope.symbols.values():
                if symbol.imported is not None:
                    _resolve(symbol, module, modules)
    for one in modules.values():
        for other in modules.values():
            if one is not other and _share_scope(one, other):
                _note_shared(one, other)
    for module in modules.values():
        if not (_is_module(module) or module.shares_globals or module.found_by_name):
            left_to_others.note(module)


def _note_handed_out(module: Module) -> None:
    rules = module.dialect.rules
    for name, symbol in module.scope.symbols.items():
        if name not in module.found_by_name and rules.is_handed_out(module, name):
            module.used_elsewhere[name] = module.source.place(symbol.references[0].start)


def _note_page(module: Module, files: JavaScriptFiles) -> None:
    """Let the names be known as used elsewhere that other scripts of the same page have to do with."""
    page = module.source.within
    if not isinstance(page, PageCode) or not page.beside.strip():
        return
    _note_names(module, files.read(SourceText(module.path.with_suffix(".js"), page.beside)), module.path)


def _resolve(symbol: Symbol, module: Module, modules: Mapping[Path, Module]) -> None:
    imported = symbol.imported
    assert imported is not None
    path = found(imported.module, module.path.parent, modules)
    if path is None:
        return
    there = modules[path].scope
    if imported.name is None:
        symbol.module_scope = there
    elif imported.name in there.symbols:
        symbol.target = there.symbols[imported.name]


def found(name: str, folder: Path, among: Mapping[Path, object] | None = None) -> Path | None:
    """The file to which a relative name leads from a folder; None where there is none."""
    if not name.startswith("."):
        return None
    for ending in _ENDINGS:
        path = Path(os.path.normpath(folder / f"{name}{ending}"))
        if path in among if among is not None else path.is_file():
            return path
    return None


def _share_scope(one: Module, other: Module) -> bool:
    """Whether two files are scripts, and no modules, of which each sees the variables of the other."""
    return not any(_is_module(module) for module in (one, other))


def _is_module(module: Module) -> bool:
    """Whether a file imports something, or hands it out."""
    return bool(module.imported) or _EXPORTS in module.outside.symbols or "module" in module.outside.symbols


def _note_shared(one: Module, other: Module) -> None:
    """Let what one script uses or sets, and another beside it has, be known as used there."""
    one.shares_globals = True
    for name in named_by_page(one) & other.scope.symbols.keys():
        _note_use(other, other.scope.symbols[name], one.source.place(0))
    for name, symbol in one.outside.symbols.items():
        if name in other.scope.symbols and symbol.references:
            symbol.target = other.scope.symbols[name]
    _note_names(other, one, one.path)


def _note_names(module: Module, other: Module, path: Path) -> None:
    """Let the names of a module that another script, in a file, uses or sets too be known as used there."""
    for name, symbol in module.scope.symbols.items():
        bound, used = other.scope.symbols.get(name), other.outside.symbols.get(name)
        if used is not None and used.references:
            _note_use(module, symbol, Place(path, other.source.line_of(used.references[0].start)))
        elif bound is not None and bound.references:
            module.set_elsewhere.add(name)
            place = Place(path, other.source.line_of(bound.references[0].start))
            module.used_elsewhere.setdefault(name, place)
            if not any(reference.declares for reference in (*symbol.references, *bound.references)):
                places = {(r.start, _NOT_DECLARED) for r in symbol.references if r.mode.writes}
                module.only_outside = sorted({*module.only_outside, *places})


def _note_use(module: Module, symbol: Symbol, place: Place) -> None:
    """Let it be known where a name of a module is used elsewhere: functions that are only asked for may hand on."""
    function = next((f for f in module.functions if f.name == symbol.name), None)
    if function is None or any(r.mode.writes and r is not function.named for r in symbol.references):
        module.used_elsewhere.setdefault(symbol.name, place)
    else:
        module.found_by_name.setdefault(symbol.name, str(place))
        function.is_called_from_outside = True


def neighbours(module: Module) -> Sequence[Path]:
    """The files that a script imports, or that a page loads, in the order of the text."""
    folder = module.path.parent
    names = [name for name, _ in sorted(_imports(module), key=lambda pair: pair[1])]
    paths = [found(name, folder) for name in names]
    if pages.is_page(module.path):
        paths += pages.files_of(module.path, page_of(module.source))
    return list(dict.fromkeys(path for path in paths if path is not None and path != module.path))


def _imports(module: Module) -> Iterator[tuple[str, int]]:
    """The names of the modules that a script asks for, be it in the middle of a statement, with where it does."""
    for symbol in {reference.symbol for reference in module.references}:
        if symbol.imported is not None:
            yield symbol.imported.module, symbol.references[0].start
    for call in (e for tree in Surroundings.of(module).trees for e in tree.walk() if e.sense is Sense.CALL):
        callee, *given = call.parts
        is_asking = callee.sense is Sense.NAME and callee.reference is not None and callee.reference.name == _REQUIRE
        if is_asking and len(given) == 1 and given[0].sense is Sense.CONSTANT and given[0].name:
            yield given[0].name, call.start


def users(path: Path, files: JavaScriptFiles) -> Sequence[Path]:
    """The files beside a script that import it, and the pages that load it, with what else these load."""
    named = re.compile(rb"[/\"'`=]" + re.escape(path.stem.encode()) + rb"(?:\.[cm]?js)?(?=[\"'`\s>?#])")
    using: list[Path] = []
    for beside in sorted(path.parent.iterdir()):
        if beside == path or beside.suffix not in files.suffixes or not beside.is_file():
            continue
        try:
            source = SourceText.read(beside)
            loaded = neighbours(files.read(source)) if named.search(source.data) else ()
            if path in loaded:
                using.append(beside)
                if pages.is_page(beside):
                    using += [other for other in loaded if other != path and _is_readable(other, files)]
        except UnreadableError:
            continue
    return list(dict.fromkeys(using))


def _is_readable(path: Path, files: JavaScriptFiles) -> bool:
    with suppress(UnreadableError):
        files.read(SourceText.read(path))
        return True
    return False


def relative(path: Path, importer: Path) -> str:
    """The name by which one file imports another."""
    name = Path(os.path.relpath(path, importer.parent)).as_posix()
    return name if name.startswith(".") else f"./{name}"
