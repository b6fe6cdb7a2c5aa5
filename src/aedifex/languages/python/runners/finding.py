"""What of a script a runner finds by its name."""

from __future__ import annotations

from fnmatch import fnmatchcase

from aedifex.languages.python.runners import all_runners
from aedifex.languages.python.runners.known import KnownRunner
from aedifex.program.model.module import Module
from aedifex.program.model.names import Origin


def find(module: Module) -> dict[str, str]:
    """The names of a module that runners look for, each with who does."""
    found: dict[str, str] = {}
    for runner in all_runners():
        if _is_at_work(runner, module):
            found.update((name, runner.name) for name in module.scope.symbols if runner.finds(name))
    return found


def _is_at_work(runner: KnownRunner, module: Module) -> bool:
    if any(name.partition(".")[0] in runner.modules for name in module.imported | {n for n, _ in module.stars}):
        return True
    if any(fnmatchcase(module.path.name, pattern) for pattern in runner.files):
        return True
    unbound = {name for name, symbol in module.outside.symbols.items() if symbol.origin is Origin.UNKNOWN}
    return not unbound.isdisjoint(runner.injected) and any(map(runner.finds, module.scope.symbols))
