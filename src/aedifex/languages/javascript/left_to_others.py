"""Scripts that only declare, and leave all the rest to others: what these call, and what may be theirs."""

from __future__ import annotations

import re

from aedifex.program.model.hindrance import Hindrance
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Symbol
from aedifex.program.model.statements import BRINGING, Function, Kind, Statement

_CALLER = "another script, as this one calls nothing itself"
_DECLARED = re.compile(rb"(?:let|const|var)\b")
_NAMING = frozenset({Form.ROUTINE, Form.CLASS})


def note(module: Module) -> None:
    """Let it be known what is called from outside, where a script does nothing but declare.

    What it sets and does not declare may be a variable of the others, which nobody knows here.
    """
    called = _called(module)
    if not called:
        return
    module.is_left_to_others = True
    for function in called:
        module.found_by_name[function.name] = _CALLER
        function.is_called_from_outside = True
    for symbol in _undeclared(module):
        _note_undeclared(module, symbol)


def _called(module: Module) -> list[Function]:
    """The functions that it never names itself: they would do nothing, did no other script."""
    if not all(_only_declares(module, statement) for statement in module.block.statements):
        return []
    return [f for f in module.functions if all(reference is f.named for reference in f.named.symbol.references)]


def _only_declares(module: Module, statement: Statement) -> bool:
    is_declared = _DECLARED.match(module.source.data, statement.start) is not None
    return statement.kind in BRINGING or statement.kind is Kind.DECLARE or is_declared


def _undeclared(module: Module) -> list[Symbol]:
    own = (symbol for symbol in module.scope.symbols.values() if symbol.imported is None)
    return [symbol for symbol in own if not any(r.declares or r.form in _NAMING for r in symbol.references)]


def _note_undeclared(module: Module, symbol: Symbol) -> None:
    """It stays where it is; a class, which is strict, could not set it, unless others surely have it: nothing here
    reads it.
    """
    name, first = symbol.name, symbol.references[0]
    module.set_elsewhere.add(name)
    reason = f"`{name}` gets a value and nothing declares it: it may be another script's"
    hindrance = Hindrance(module.path, module.source.line_of(first.start), reason, frozenset({name}))
    if hindrance not in module.hindrances:
        module.hindrances.append(hindrance)
    if any(reference.mode.reads for reference in symbol.references):
        why = f"nothing declares `{name}`, which gets a value here: do so, if it is this script's own"
        places = {(reference.start, why) for reference in symbol.references if reference.mode.writes}
        module.only_outside = sorted({*module.only_outside, *places})
