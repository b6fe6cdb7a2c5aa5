"""Building scopes while reading, and resolving names in them afterwards, by Python's rules.

The rules are those of the language reference, "Naming and binding" (Execution model, section 4.2).
"""

from __future__ import annotations

import unicodedata

from aedifex.program.model.names import Form, Home, Imported, Mode, Origin, Reference, Scope, ScopeKind, Symbol

CLASS_CELL = "__class__"


def normalise(text: bytes, private: str | None) -> str:
    """The name that an identifier stands for: NFKC, and mangled inside a class with the private prefix `private`."""
    name = text.decode("utf-8")
    if not name.isascii():
        name = unicodedata.normalize("NFKC", name)
    if private and name.startswith("__") and not name.endswith("__") and "." not in name:
        return f"_{private}{name}"
    return name


def private_prefix(class_name: str) -> str | None:
    """What mangling puts before private names in a class of that name; None where it does nothing."""
    return class_name.lstrip("_") or None


def bind(scope: Scope, name: str) -> None:
    """Note that `name` is bound in `scope`, following its global and nonlocal declarations."""
    declared = scope.declared.get(name)
    if declared is Home.AROUND:
        return
    home = scope.module_scope if declared is Home.MODULE else scope
    if name not in home.symbols:
        home.symbols[name] = Symbol(name, home)


def declare(scope: Scope, name: str, home: Home) -> None:
    """Carry out a `global` or `nonlocal` declaration."""
    if scope.kind is ScopeKind.MODULE:
        return
    scope.declared[name] = home
    scope.symbols.pop(name, None)
    if home is Home.MODULE:
        bind(scope, name)


def bind_walrus(scope: Scope, name: str) -> None:
    """Bind the target of an assignment expression: comprehensions pass it out to the scope around them."""
    inner: list[Scope] = []
    while scope.kind is ScopeKind.COMPREHENSION and scope.parent is not None:
        inner.append(scope)
        scope = scope.parent
    bind(scope, name)
    if not inner:
        return
    is_global = scope.kind is ScopeKind.MODULE or scope.declared.get(name) is Home.MODULE
    for comprehension in inner:
        comprehension.declared[name] = Home.MODULE if is_global else Home.AROUND


def resolve(module_scope: Scope, outside: Scope, builtins: frozenset[str], has_unknown_star: bool) -> None:
    """Give every reference its symbol, and every symbol its references in the order of the text."""
    found: dict[Symbol, list[Reference]] = {}
    for scope in module_scope.walk():
        _add_class_cell(scope)
        known: dict[str, Symbol] = {}
        for reference in scope.uses:
            name = reference.name
            symbol = known.get(name)
            if symbol is None:
                symbol = known[name] = _look_up(scope, name, outside, builtins, has_unknown_star)
            reference.symbol = symbol
            found.setdefault(symbol, []).append(reference)
    for symbol, references in found.items():
        references.sort(key=lambda reference: reference.start)
        symbol.references = references


def _add_class_cell(scope: Scope) -> None:
    """A method that says `super` or `__class__` reads the cell that the compiler adds to its class."""
    if scope.kind is not ScopeKind.CLASS or CLASS_CELL in scope.symbols:
        return
    for inner in scope.walk()[1:]:
        if any(use.name in (CLASS_CELL, "super") for use in inner.uses):
            scope.symbols[CLASS_CELL] = Symbol(CLASS_CELL, scope)
            return


def _look_up(start: Scope, name: str, outside: Scope, builtins: frozenset[str], has_unknown_star: bool) -> Symbol:
    symbol = (_cell(start) if name == CLASS_CELL else None) or start.find(name)
    if symbol is None:
        symbol = outside.symbols[name] = Symbol(name, outside)
        if name in builtins:
            symbol.origin = Origin.BUILTIN
        else:
            symbol.origin = Origin.PERHAPS_STAR if has_unknown_star else Origin.UNKNOWN
    return symbol


def _cell(start: Scope) -> Symbol | None:
    """The class cell that `__class__` means inside a method, where no routine in between binds that name."""
    scope = None if CLASS_CELL in start.symbols else start.parent
    while scope is not None and CLASS_CELL not in scope.symbols:
        scope = scope.parent
    return scope.symbols[CLASS_CELL] if scope is not None and scope.kind is ScopeKind.CLASS else None


def _is_of_star(scope: Scope, name: str) -> bool:
    """Whether nothing but star imports has bound a name so far."""
    forms = {use.form for use in scope.uses if use.name == name and use.mode.writes}
    return forms == {Form.STAR}


def star_symbol(scope: Scope, name: str, module: str, star: Reference) -> None:
    """Bind a name that a star import brings, with the star as its binding reference; the last star counts."""
    if name not in scope.symbols or _is_of_star(scope, name):
        symbol = scope.symbols.setdefault(name, Symbol(name, scope))
        symbol.imported = Imported(module, name)
    reference = Reference(name, star.start, star.end, Mode.WRITE, Form.STAR, scope, star.statement)
    scope.uses.append(reference)
