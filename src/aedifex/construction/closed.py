"""Classes for what routines that are called at once keep, and the functions that they give back."""

from __future__ import annotations

from contextlib import suppress

from aedifex.moves.adopt import Adopt, NewMethod
from aedifex.moves.close_over import CloseOver, is_for_closing
from aedifex.moves.disclose import Disclose, names_at_the_top
from aedifex.moves.form import Form, NewField
from aedifex.moves.kit.binding_check import attempted, perform
from aedifex.moves.seal import Seal
from aedifex.program.model.program import Program
from aedifex.program.structure.state import Constants
from aedifex.source.errors import RefusedError
from aedifex.survey.kinds.closed_modules import ClosedModule, closed_module, closed_modules
from aedifex.survey.words import words_of


def with_closed_modules(program: Program) -> Program:
    """The program with a class for each of those for which all of that can be done."""
    for name in [closed.symbol.name for closed in closed_modules(program.main)]:
        closed = closed_module(program.main, name)
        with suppress(RefusedError):
            program = _with_class(program, closed) if closed is not None else program
    return program


def _with_class(program: Program, closed: ClosedModule) -> Program:
    """The program with the class of one.

    Raises:
        RefusedError: it cannot be made.
    """
    path, naming = program.main.path, program.dialect.naming
    words = words_of(closed.symbol.name)
    class_name, instance = naming.class_name(words), naming.member_name(words)
    if {class_name, instance} & (program.main.names_in_use - {closed.symbol.name}):
        raise RefusedError(f"the names `{class_name}` and `{instance}` are in use")
    top = names_at_the_top(closed)
    after = perform(program, Disclose(path, closed.symbol.name))
    if is_for_closing(after.main):
        after = attempted(after, CloseOver(path))
    module, constants = after.main, Constants.of(after.main)
    methods = {name: own for name, own in top.items() if module.function(name) is not None}
    kept = {name for name in top if constants.settles(module.scope.symbols[name])}
    fields = tuple(NewField(name, own) for name, own in top.items() if name not in methods and name not in kept)
    if not fields or not methods or len({*methods.values(), *(field.name for field in fields)}) < len(top) - len(kept):
        raise RefusedError(f"`{closed.symbol.name}` has no state of its own, or several things of one name")
    after = perform(after, Form(path, class_name, instance, fields))
    own = tuple(NewMethod(name, own) for name, own in methods.items())
    return attempted(perform(after, Adopt(path, class_name, instance, own, reaches=True)), Seal(path, (class_name,)))
