"""Finding the places in a Python file where names cannot be followed."""

from __future__ import annotations

import re
from collections.abc import Iterator

from aedifex.languages.python.library.standard import DYNAMIC_FUNCTIONS, TEXT_RUNNERS
from aedifex.program.model.hindrance import Hindrance
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Origin, Reference, ScopeKind
from aedifex.program.model.statements import Call, Statement

_MODULE_LISTS = frozenset({"modules"})
_KEY = re.compile(rb"""\s*\[\s*(['"])(\w+)\1\s*\]""")
_FRAME_VIEWS = frozenset({"f_globals", "f_locals", "__globals__"})
_BY_NAME = frozenset({"setattr", "delattr", "getattr"})


def find(module: Module) -> list[Hindrance]:
    """All hindrances of a module, in the order of the text."""
    found = [
        *_stars(module),
        *(hindrance for statement in module.walk() for hindrance in _in_statement(module, statement)),
    ]
    return sorted(found, key=lambda hindrance: hindrance.line)


def _stars(module: Module) -> Iterator[Hindrance]:
    for name, star in module.unknown_stars:
        line = module.source.line_of(star.start)
        perhaps = frozenset(s.name for s in module.outside.symbols.values() if s.origin is Origin.PERHAPS_STAR)
        reason = f"the names that `from {name} import *` brings cannot be found out"
        if perhaps:
            reason += f"; perhaps {', '.join(sorted(perhaps)[:5])}"
        yield Hindrance(module.path, line, reason, perhaps)


def _in_statement(module: Module, statement: Statement) -> Iterator[Hindrance]:
    for reference in statement.references:
        if reference.symbol.scope.kind is not ScopeKind.OUTSIDE:
            yield from _imports_that_reach_in(module, reference)
            if _is_own_dictionary(module, reference):
                yield _everything(module, reference, "reaches the module's variables by its `__dict__`")
            elif _is_module_table(reference):
                yield _everything(module, reference, "reaches modules by `sys.modules`")
            continue
        if reference.name in ("NameError", "UnboundLocalError") and reference.mode.reads:
            yield Hindrance(
                module.path,
                module.source.line_of(reference.start),
                f"catches or raises `{reference.name}`, which unbound names depend on",
                None,
            )
        elif reference.name in DYNAMIC_FUNCTIONS and reference.mode.reads:
            yield from _dynamic(module, statement, reference)
    for call in statement.calls:
        yield from _set_on_import(module, call)
    for name in _FRAME_VIEWS.intersection(statement.attributes):
        line = module.source.line_of(statement.start)
        yield Hindrance(module.path, line, f"reaches variables through a frame's `{name}`", None)


def _imports_that_reach_in(module: Module, reference: Reference) -> Iterator[Hindrance]:
    """Modules that run text, and the script itself imported as a module."""
    imported = reference.symbol.imported
    if imported is None:
        return
    line = module.source.line_of(reference.start)
    if reference.form is Form.IMPORT and imported.package in TEXT_RUNNERS:
        yield Hindrance(module.path, line, f"may run text as code by `{imported.module}`", None)
    elif imported == ("__main__", None) and reference.path and reference.path[0].name != "__dict__":
        touched = frozenset({reference.path[0].name or ""})
        yield Hindrance(module.path, line, "reaches the script's own variables through `__main__`", touched)
    elif imported.module == "__main__" and imported.name is not None and reference.form is Form.IMPORT:
        yield Hindrance(module.path, line, "imports from the script itself", frozenset({imported.name}))


def _everything(module: Module, reference: Reference, reason: str) -> Hindrance:
    return Hindrance(module.path, module.source.line_of(reference.start), reason, None)


def _dynamic(module: Module, statement: Statement, reference: Reference) -> Iterator[Hindrance]:
    call = next((call for call in statement.calls if call.callee is reference), None)
    if reference.name in ("vars", "dir") and call is not None and call.arguments:
        return
    if reference.name == "dir" and reference.scope.home.kind is ScopeKind.ROUTINE:
        return
    if reference.name == "locals" and reference.scope.home.kind is ScopeKind.ROUTINE:
        yield Hindrance(
            module.path,
            module.source.line_of(reference.start),
            DYNAMIC_FUNCTIONS[reference.name],
            frozenset(reference.scope.home.symbols),
        )
        return
    touches = None
    if call is not None and reference.name in ("globals", "vars"):
        key = _KEY.match(module.source.data, call.end)
        touches = frozenset({key[2].decode()}) if key is not None else None
    yield Hindrance(module.path, module.source.line_of(reference.start), DYNAMIC_FUNCTIONS[reference.name], touches)


def _is_own_dictionary(module: Module, reference: Reference) -> bool:
    """Whether the variables of the script itself are reached through a module object's `__dict__`."""
    imported = reference.symbol.imported
    return (
        bool(reference.path)
        and reference.path[0].name == "__dict__"
        and imported is not None
        and imported.name is None
        and imported.module in (module.path.stem, "__main__")
    )


def _is_module_table(reference: Reference) -> bool:
    return (
        bool(reference.path)
        and reference.path[0].name in _MODULE_LISTS
        and reference.symbol.imported == ("sys", None)
        and reference.mode is Mode.READ
    )


def _set_on_import(module: Module, call: Call) -> Iterator[Hindrance]:
    callee = call.callee
    if callee is None or callee.path or callee.name not in _BY_NAME or not call.arguments:
        return
    if callee.symbol.scope.kind is not ScopeKind.OUTSIDE:
        return
    first = call.arguments[0]
    target = module.reference_at.get(first.start)
    if target is None or target.end != first.end or target.symbol.imported is None:
        return
    name, what = target.symbol.imported
    if what is None and name in (module.path.stem, "__main__"):
        line = module.source.line_of(call.start)
        yield Hindrance(module.path, line, f"reaches the module's own variables by `{callee.name}()`", None)
