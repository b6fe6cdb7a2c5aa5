"""Reading a whole Python file: its tree, its star imports, its names, and what hinders."""

from __future__ import annotations

from aedifex.languages.python.imports.stars import StarImports
from aedifex.languages.python.library.standard import BUILTINS
from aedifex.languages.python.reader import grammar, hindrances
from aedifex.languages.python.reader.scopes import resolve, star_symbol
from aedifex.languages.python.reader.statements import StatementReader
from aedifex.languages.python.runners import finding
from aedifex.languages.tree.collection import no_collection
from aedifex.program.dialect.dialect import Dialect
from aedifex.program.model.module import Module
from aedifex.program.model.names import Imported, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Function, Lambda, Routine
from aedifex.source.text import SourceText


def read_module(source: SourceText, dialect: Dialect, stars: StarImports) -> Module:
    """Read one file.

    Raises:
        UnreadableError: it does not parse, or is nested deeper than Python itself allows.
    """
    with no_collection():
        return _read_module(source, dialect, stars)


def _read_module(source: SourceText, dialect: Dialect, stars: StarImports) -> Module:
    tree = grammar.parse(source)
    reader = StatementReader(source)
    module = reader.module(tree.root_node, dialect)
    module.stars = list(reader.imports.stars)
    has_unknown_star = False
    for name, star in reader.imports.stars:
        names = stars.names(name, source.path.parent)
        if names is None:
            has_unknown_star = True
            module.unknown_stars.append((name, star))
        else:
            _bring(module, name, star, names)
    resolve(module.scope, module.outside, BUILTINS, has_unknown_star)
    for routine in module.routines:
        routine.receiver = _receiver_of(routine)
    postponing = Imported("__future__", "annotations")
    module.postpones_annotations = any(symbol.imported == postponing for symbol in module.symbols)
    module.hindrances = hindrances.find(module)
    module.found_by_name = finding.find(module)
    for function in module.functions:
        function.is_called_from_outside = function.name in module.found_by_name
    return module


def _bring(module: Module, name: str, star: Reference, names: frozenset[str]) -> None:
    used = {use.name for scope in module.scope.walk() for use in scope.uses}
    for found in sorted(used & names):
        star_symbol(module.scope, found, name, star)


def _receiver_of(routine: Routine) -> Symbol | None:
    """The first parameter of what a class defines, where no decorator may make something else of it."""
    home, statement = routine.scope.parent, routine.statement if isinstance(routine, Function | Lambda) else None
    if home is None or home.kind is not ScopeKind.CLASS or not routine.parameters or statement is None:
        return None
    symbol = routine.parameters[0].reference.symbol
    return symbol if len(symbol.bindings) == 1 and not statement.decorators else None
