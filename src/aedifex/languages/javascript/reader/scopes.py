"""Building scopes while reading, and resolving names in them afterwards, by JavaScript's rules.

The rules are those of ECMA-262, "Scope Analysis" and "FunctionDeclarationInstantiation".
"""

from __future__ import annotations

from aedifex.program.model.names import Form, Origin, Reference, Scope, ScopeKind, Symbol

THIS, ARGUMENTS = "this", "arguments"
IMPLICIT = (THIS, ARGUMENTS)
"""What each function but an arrow has under a name that nothing declares."""

GLOBAL_OBJECTS = frozenset({"window", "self", "globalThis", "global"})
"""The names of the object whose members are the variables that all scripts share."""

DECLARING = frozenset({Form.PARAMETER, Form.ROUTINE, Form.CLASS, Form.IMPORT, Form.CATCH, Form.DECLARATION})
"""The forms in which a name is declared, whether or not it gets a value there."""


def new_scope(kind: ScopeKind, name: str, parent: Scope, start: int, end: int) -> Scope:
    """A scope inside another."""
    scope = Scope(kind, name, parent, start, end)
    scope.runs_later = kind in (ScopeKind.ROUTINE, ScopeKind.LAMBDA)
    scope.hides_from_inner = kind is ScopeKind.CLASS
    parent.children.append(scope)
    return scope


def bind(scope: Scope, name: str) -> None:
    """Note that a scope declares a name."""
    if name not in scope.symbols:
        scope.symbols[name] = Symbol(name, scope)


def bind_implicit(module_scope: Scope, builtins: frozenset[str]) -> None:
    """Let a name that is given a value, and that nothing declares, live in the module: a script may do that.

    So does `window.tide = 3` with a name that is used without `window` elsewhere.
    """
    uses = [use for scope in module_scope.walk() for use in scope.uses if not use.declares]
    free = [use for use in uses if use.name not in builtins and not _is_declared(use)]
    through = {use.path[0].name for use in uses if use.name in GLOBAL_OBJECTS and use.path}
    for use in free:
        if use.mode.writes or use.name in through:
            bind(module_scope, use.name)


def _is_declared(use: Reference) -> bool:
    """Whether a scope around a name declares it."""
    scope: Scope | None = use.scope
    while scope is not None and use.name not in scope.symbols:
        scope = scope.parent
    return scope is not None


def resolve(module_scope: Scope, outside: Scope, builtins: frozenset[str]) -> None:
    """Give every reference its symbol, and every symbol its references in the order of the text."""
    found: dict[Symbol, list[Reference]] = {}
    for scope in module_scope.walk():
        known: dict[tuple[str, bool], Symbol] = {}
        for reference in scope.uses:
            key = (reference.name, _is_in_signature(reference, scope))
            symbol = known.get(key)
            if symbol is None:
                symbol = known[key] = _look_up(reference, outside, builtins)
            reference.symbol = symbol
            found.setdefault(symbol, []).append(reference)
    for symbol, references in found.items():
        references.sort(key=lambda reference: reference.start)
        symbol.references = references


def _is_in_signature(reference: Reference, scope: Scope) -> bool:
    """Whether a name stands among the parameters of the routine whose scope it is."""
    routine = scope.routine
    return routine is not None and routine.signature.start <= reference.start < routine.signature.end


def _look_up(reference: Reference, outside: Scope, builtins: frozenset[str]) -> Symbol:
    name = reference.name
    scope: Scope | None = reference.scope
    while scope is not None and scope is not outside:
        is_visible = scope is reference.scope or not scope.hides_from_inner
        if is_visible and name in scope.symbols and _may_be_meant(reference, scope):
            return scope.symbols[name]
        scope = scope.parent
    symbol = outside.symbols.get(name)
    if symbol is None:
        symbol = outside.symbols[name] = Symbol(name, outside)
        symbol.origin = Origin.BUILTIN if name in builtins else Origin.UNKNOWN
    return symbol


def _may_be_meant(reference: Reference, scope: Scope) -> bool:
    """Whether a name may mean that of a scope: what a default value names is not what the body declares."""
    if not _is_in_signature(reference, scope) or reference.name in IMPLICIT:
        return True
    signature = scope.routine.signature if scope.routine is not None else None
    declared = (use for use in scope.uses if use.name == reference.name and use.form is Form.PARAMETER)
    return signature is not None and any(signature.start <= use.start < signature.end for use in declared)
