"""Which files of a program share their state with the script, so that only together they can be understood."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Scope
from aedifex.program.model.program import Program


def shared_modules(program: Program) -> list[Module]:
    """The modules beside the script that have state which other files change, with those that import them.

    Others that have state go with them. They are in the order in which they first run; none where nothing is shared.
    """
    homes = {module.scope: module for module in program.modules.values() if module is not program.main}
    if not homes:
        return []
    order = list(_in_order(program.main, homes))
    shared = {home for module in program.modules.values() for home in _changed_by(module, homes)}
    if not shared.intersection(order):
        return []
    shared |= {module for module in order if any(map(_is_kept_in_routine, module.references))}
    while more := {m for m in order if m not in shared and not shared.isdisjoint(imported_by(m, homes))}:
        shared |= more
    return [module for module in order if module in shared]


def replaceable(program: Program) -> list[Path]:
    """The files of a program that have nothing left of their own, and that no other file imports."""
    known = {path.resolve() for path in program.origin.modules}
    users = program.dialect.files.users
    return [path for path in program.gone if known.issuperset(user.resolve() for user in users(path))]


def imported_by(module: Module, homes: dict[Scope, Module]) -> Iterator[Module]:
    """The modules that a file imports, in the order of its text."""
    for reference in module.references:
        if reference.mode.writes and reference.symbol.imported is not None:
            target = reference.symbol.target
            scope = reference.symbol.module_scope or (target.scope if target is not None else None)
            if scope in homes:
                yield homes[scope]


def _in_order(module: Module, homes: dict[Scope, Module]) -> Iterator[Module]:
    """The modules that a file runs by its imports, those that others import first."""
    seen: set[Module] = {module}

    def run_by(importer: Module) -> Iterator[Module]:
        for imported in imported_by(importer, homes):
            if imported not in seen:
                seen.add(imported)
                yield from run_by(imported)
                yield imported

    return run_by(module)


def _changed_by(module: Module, homes: dict[Scope, Module]) -> Iterator[Module]:
    """The modules whose variables a file gives other values."""
    for reference in module.references:
        home = homes.get(reference.final.scope)
        is_set = len(reference.path) == 1 and reference.path_mode is not None and reference.path_mode.writes
        if home is not None and home is not module and is_set:
            yield home


def _is_kept_in_routine(reference: Reference) -> bool:
    """Whether a routine gives a variable of its module another value."""
    return reference.binds and reference.symbol.is_module_level and reference.scope.routine is not None
