"""Reading programs, and reading them again after a change."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from aedifex.program.dialect.dialect import Dialect
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.edits import Applied
from aedifex.source.text import SourceText


def read_program(sources: Sequence[SourceText], dialect: Dialect) -> Program:
    """Read files as one program; the first is the script that is started.

    Raises:
        UnreadableError: one of them does not parse.
    """
    return _linked({source.path: dialect.files.read(source) for source in sources}, dialect)


def reread(program: Program, applied: Applied) -> Program:
    """The program after changes: only what changed is read again.

    Raises:
        UnreadableError: one of the new texts does not parse.
    """
    modules: dict[Path, Module] = {}
    for path, data in applied.texts.items():
        old, around = program.modules.get(path), applied.around.get(path)
        if old is not None and old.source.data == data and around is None and not _leads_elsewhere(old):
            modules[path] = old
        else:
            source = old.source.edited(data, around) if old is not None else SourceText(path, data)
            modules[path] = program.dialect.files.read(source)
    after = _linked(modules, program.dialect)
    kept = replace(
        after,
        spellings=program.spellings,
        enclosed=program.enclosed,
        kinds=program.kinds,
        parts=program.parts,
    )
    if program.enclosed is not None:
        kept.main.waiting_names = program.enclosed.names
    return replace(kept, beside=program.beside, earlier=program, applied=applied)


def _leads_elsewhere(module: Module) -> bool:
    """Whether names of a file lead into others: linked anew, they would no longer tell what they meant before."""
    return any(
        symbol.target is not None or symbol.module_scope is not None
        for scope in (*module.scope.walk(), module.outside)
        for symbol in scope.symbols.values()
    )


def _linked(modules: dict[Path, Module], dialect: Dialect) -> Program:
    dialect.files.link(modules)
    return Program(modules)
