"""Where the lines that a design names are in a program now, and names for what is made of them."""

from __future__ import annotations

import itertools
from collections.abc import Iterator

from aedifex.program.model.module import Module
from aedifex.program.model.names import MAIN, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Routine
from aedifex.source.errors import Place, RefusedError


def lines_now(program: Program, lines: tuple[int, int], of: str = "the script") -> tuple[int, int]:
    """The first and the last line on which lines of the script as it was read stand now.

    Raises:
        RefusedError: nothing of one of them is left; the advice is to name statements `of` something.
    """
    path = program.main.path
    found = program.lines_now(path, *lines)
    if found is None:
        reason = f"lines {lines[0]}-{lines[1]} are not there in this form"
        raise RefusedError(reason, Place(path), f"Name whole statements of {of}.")
    return found


def routine_at(module: Module, line: int) -> str:
    """The function of the script in which a line stands, or the main code."""
    at = module.source.line_starts[line - 1]
    around = (f.qualified_name for f in module.functions if f.statement.start <= at < f.statement.end)
    return next(around, MAIN)


def method_at(module: Module, line: int) -> Function | None:
    """The method of a class of the script in which a line stands."""
    at = module.source.line_starts[line - 1]
    methods = (f for f in module.all_functions if f.is_method)
    return next((f for f in methods if f.statement.start <= at < f.statement.end), None)


def wishes_for(module: Module, wish: str) -> Iterator[str]:
    """A name, and then the same with a number behind it, without end."""
    joined = module.dialect.naming.joined
    return (wish if number == 1 else joined(wish, str(number)) for number in itertools.count(1))


def free_name(module: Module, wish: str) -> str:
    """A name that nothing in the script has: the one wished for, or that with a number."""
    return next(name for name in wishes_for(module, wish) if name not in module.names_in_use)


def parameter_for(module: Module, routine: Routine, symbol: Symbol, wish: str) -> str:
    """A name for what a routine is given of a variable, which means nothing else there; spelled as no constant is."""
    spelled = module.dialect.naming.as_field(wish)
    return next(name for name in wishes_for(module, spelled) if not _is_used(routine, name, symbol))


def _is_used(routine: Routine, name: str, symbol: Symbol) -> bool:
    """Whether a name is one of a routine's own, or means something else than a variable in it."""
    scopes = list(routine.scope.walk())
    uses = (use for scope in scopes for use in scope.uses)
    return any(name in scope.symbols for scope in scopes) or any(
        u.name == name and u.symbol is not symbol for u in uses
    )
