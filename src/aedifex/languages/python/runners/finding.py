"""What of a script a runner finds by its name."""

from __future__ import annotations

from fnmatch import fnmatchcase

from aedifex.languages.python.runners import all_runners
from aedifex.languages.python.runners.known import KnownRunner
from aedifex.program.analysis.values import value_of
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Origin, Symbol
from aedifex.program.model.statements import Function, Shape


def find(module: Module) -> dict[str, str]:
    """The names of a module that runners look for, each with who does."""
    found: dict[str, str] = {}
    for runner in all_runners():
        if _is_at_work(runner, module):
            symbols = module.scope.symbols.items()
            found.update(
                (name, runner.name) for name, s in symbols if runner.finds(name, is_plain=_is_plain(module, s))
            )
            found.update((function.name, runner.name) for function in _made_for(runner, module))
    return found


def _made_for(runner: KnownRunner, module: Module) -> list[Function]:
    """The functions that are not called in the script, and whose parameters are those that a runner gives."""
    found = [f for f in module.functions if tuple(p.name for p in f.parameters) in runner.signatures]
    return [function for function in found if not any(r.mode is Mode.CALL for r in function.symbol.references)]


def _is_plain(module: Module, symbol: Symbol) -> bool:
    """Whether a name is only given plain values that are written out, or turned round."""
    return bool(symbol.bindings) and all(
        value is not None and (value.shape is Shape.LITERAL or module.source.slice(value.span).startswith("not "))
        for value in (value_of(r) if r.mode is Mode.WRITE else None for r in symbol.bindings)
    )


def _is_at_work(runner: KnownRunner, module: Module) -> bool:
    if any(name.partition(".")[0] in runner.modules for name in module.imported | {n for n, _ in module.stars}):
        return True
    if any(_made_for(runner, module)):
        return True
    if any(fnmatchcase(module.path.name, pattern) for pattern in runner.files):
        return True
    unbound = {name for name, symbol in module.outside.symbols.items() if symbol.origin is Origin.UNKNOWN}
    return not unbound.isdisjoint(runner.injected) and any(map(runner.finds, module.scope.symbols))
