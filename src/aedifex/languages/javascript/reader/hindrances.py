"""Places in JavaScript where names cannot be followed."""

from __future__ import annotations

from aedifex.languages.javascript.reader.scopes import GLOBAL_OBJECTS, THIS
from aedifex.program.model.hindrance import Hindrance
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Origin, Reference
from aedifex.program.model.statements import Kind

_EVALUATING = {"eval": "evaluates a text as code", "Function": "makes a function of a text"}


def find(module: Module) -> list[Hindrance]:
    """All of them, in the order of the text."""
    found: dict[int, Hindrance] = {}
    for reference in module.references:
        hindrance = _of_reference(module, reference)
        if hindrance is not None:
            found[reference.start] = hindrance
    for statement in module.walk():
        if statement.kind is Kind.RESOURCE:  # `with`
            found[statement.start] = _hindrance(module, statement.start, "looks for names in an object first")
    return [found[start] for start in sorted(found)]


def _of_reference(module: Module, reference: Reference) -> Hindrance | None:
    """What hinders where a name stands that JavaScript, or a page, gives to all scripts."""
    if reference.symbol.origin is not Origin.BUILTIN:
        return None
    first = reference.path[0] if reference.path else None
    is_global = reference.name in GLOBAL_OBJECTS or reference.name == THIS
    if reference.name in _EVALUATING and reference.mode is Mode.CALL:
        return _hindrance(module, reference.start, _EVALUATING[reference.name])
    if not is_global or first is None:
        return None
    if first.name is None:
        return _hindrance(module, reference.start, f"reaches a global variable by a text, through `{reference.name}`")
    if first.name in _EVALUATING and len(reference.path) == 1:
        return _hindrance(module, reference.start, _EVALUATING[first.name])
    if first.name in module.scope.symbols:
        reason = f"reaches `{first.name}` through `{reference.name}`"
        return _hindrance(module, reference.start, reason, frozenset({first.name}))
    return None


def _hindrance(module: Module, start: int, reason: str, touches: frozenset[str] | None = None) -> Hindrance:
    return Hindrance(module.path, module.source.line_of(start), reason, touches)
