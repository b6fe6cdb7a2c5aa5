"""Variables that are called, in languages where a call of a member tells the function which object it is one of."""

from __future__ import annotations

from aedifex.program.analysis.values import value_of
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Symbol
from aedifex.program.model.statements import Shape, Value
from aedifex.program.structure.own_names import uses_own


def told_if_kept(module: Module, symbol: Symbol) -> Reference | None:
    """The first call of a variable whose function may be of somebody else, and would be told what it is kept in.

    What the script itself writes is known: whether it asks what it is called on. What makes objects is not told.
    """
    if not module.dialect.rules.calls_tell_owner:
        return None
    calls = (r for r in symbol.references if r.mode is Mode.CALL and not r.path)
    first = next((r for r in calls if not module.dialect.rules.makes_object(module, r)), None)
    return first if first is not None and not _is_deaf(module, symbol, set()) else None


def _is_deaf(module: Module, symbol: Symbol, known: set[Symbol]) -> bool:
    """Whether nothing that a variable is ever given asks what it is called on."""
    known.add(symbol)
    for binding in (r for r in symbol.references if r.mode.writes or r.form is Form.PARAMETER):
        value = value_of(binding)
        if value is None or not _is_deaf_value(module, value, known):
            return False
    return True


def _is_deaf_value(module: Module, value: Value, known: set[Symbol]) -> bool:
    if value.shape is Shape.LITERAL:
        return True
    routine = module.nameless_at(value.span)
    if routine is not None:
        return not uses_own(routine)
    named = [r for r in module.references_within(value.span) if r.span == value.span]
    if not named:
        return module.dialect.rules.is_bound_for_good(module, value)
    other = named[0].symbol
    own = next((f for f in module.functions if f.symbol is other), None)
    if own is not None:
        return len(other.bindings) == 1 and not uses_own(own)
    return other in known or (other.is_module_level and other.imported is None and _is_deaf(module, other, known))
