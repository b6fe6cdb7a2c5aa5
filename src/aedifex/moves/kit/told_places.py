"""Who is told in which file a definition stands: stored objects, uncaught errors, warnings, and what shows a class."""

from __future__ import annotations

from collections.abc import Iterator

from aedifex.moves.kit.placement import Placement
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Kind, Statement, final_name
from aedifex.program.structure.imports import stores_objects


def told_places(module: Module, placing: Placement, symbol: Symbol) -> Iterator[tuple[int, str]]:
    """The places at which somebody would notice that a definition has moved, each with a plain sentence."""
    statement, library = placing.definitions[symbol], module.dialect.library
    for reference in module.references_within(statement.span):
        if reference.symbol.imported is not None and library.tells_place(reference.symbol.imported.module):
            yield reference.start, f"`{symbol.name}` warns, and that tells its file"
            break
    if statement.kind is not Kind.CLASS:
        return
    shown = next((r for r in symbol.references if _is_shown(module, r)), None)
    if shown is not None:
        yield shown.start, f"`{symbol.name}` is shown here with the name of its file"
    if symbol.name in placing.homes:
        return
    if stores_objects(module):
        yield statement.start, f"objects of `{symbol.name}` may be stored with the name of its file"
    elif _is_exception(module, placing, statement):
        yield statement.start, f"`{symbol.name}` is an exception: what it says when nobody catches it names its file"


def _is_shown(module: Module, reference: Reference) -> bool:
    """Whether a class itself is given to what makes a text of it."""
    for call in reference.statement.calls if reference.statement is not None else ():
        is_given = any((a.start, a.end) == (reference.start, reference.end) for a in call.arguments)
        if is_given and call.callee is not None and not call.callee.path:
            return module.dialect.library.shows(call.callee.name)
    return False


def _is_exception(module: Module, placing: Placement, statement: Statement) -> bool:
    """Whether a class inherits from an exception, directly or through others of the script."""
    bases = [r for r in statement.references if r.mode.reads and r.scope.kind is ScopeKind.MODULE]
    own = [placing.definitions[r.symbol] for r in bases if r.symbol in placing.definitions]
    is_exception = module.dialect.library.is_exception
    named = any(is_exception(final_name(r)) for r in bases if Form.CLASS not in r.symbol.forms)
    return named or any(_is_exception(module, placing, base) for base in own if base is not statement)
