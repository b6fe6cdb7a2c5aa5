"""The last checks of a built program."""

from __future__ import annotations

from aedifex.program.model.module import Module
from aedifex.program.model.names import Origin
from aedifex.program.model.program import Program
from aedifex.source.errors import RefusedError, UnreadableError


def check_result(before: Program, after: Program) -> None:
    """Every new file compiles, no name has become unknown, and what the script hands out it hands out still.

    Raises:
        RefusedError: one does not; this would be our own mistake.
    """
    known = {name for module in before.modules.values() for name in module.outside.symbols}
    if before.enclosed is not None:
        known |= before.enclosed.names
    for module in after.modules.values():
        try:
            module.dialect.files.check(module.source)
        except UnreadableError as error:
            raise RefusedError(
                f"the result would not compile: {error}",
                advice="Please report this design and its script: it is a mistake of Aedifex.",
            ) from None
        _check_handed_out(before, module)
        for name, symbol in module.outside.symbols.items():
            if symbol.target is None and symbol.origin is not Origin.BUILTIN and name not in known:
                raise RefusedError(
                    f"the result would use a name `{name}` that nothing binds",
                    module.source.place(symbol.references[0].start),
                    "Please report this design and its script: it is a mistake of Aedifex.",
                )


def _check_handed_out(before: Program, after: Module) -> None:
    old, rules = before.modules.get(after.path), after.dialect.rules
    if old is None:
        return
    for name, symbol in old.scope.symbols.items():
        if rules.is_handed_out(old, name) and not rules.is_handed_out(after, name):
            raise RefusedError(
                f"the result would not hand out `{name}`",
                old.source.place(symbol.references[0].start),
                "Please report this design and its script: it is a mistake of Aedifex.",
            )
