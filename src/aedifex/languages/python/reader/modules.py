"""Reading a whole Python file: its tree, its star imports, its names, and what hinders."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager

from aedifex.languages.python.imports.stars import StarImports
from aedifex.languages.python.knowledge import BUILTINS
from aedifex.languages.python.reader import grammar, hindrances
from aedifex.languages.python.reader.scopes import resolve, star_symbol
from aedifex.languages.python.reader.statements import StatementReader
from aedifex.program.dialect.dialect import Dialect
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference
from aedifex.source.text import SourceText


def read_module(source: SourceText, dialect: Dialect, stars: StarImports) -> Module:
    """Read one file.

    Raises:
        UnreadableError: it does not parse, or is nested deeper than Python itself allows.
    """
    with _no_collection():
        return _read_module(source, dialect, stars)


@contextmanager
def _no_collection() -> Iterator[None]:
    """Reading makes many objects and no garbage: looking for some again and again would cost more than the reading."""
    was_on = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was_on:
            gc.enable()


def _read_module(source: SourceText, dialect: Dialect, stars: StarImports) -> Module:
    tree = grammar.parse(source)
    reader = StatementReader(source)
    module = reader.module(tree.root_node, dialect)
    has_unknown_star = False
    for name, star in reader.stars:
        brought = stars.names(name, source.path.parent)
        if brought is None:
            has_unknown_star = True
            module.unknown_stars.append((name, star))
        else:
            _bring(module, name, star, brought)
    resolve(module.scope, module.outside, BUILTINS, has_unknown_star)
    module.hindrances = hindrances.find(module)
    return module


def _bring(module: Module, name: str, star: Reference, brought: frozenset[str]) -> None:
    used = {use.name for scope in module.scope.walk() for use in scope.uses}
    for found in sorted(used & brought):
        star_symbol(module.scope, found, name, star)
