"""What a method of one object among many is handed: what it draws on or writes to, and what it only reads."""

from __future__ import annotations

from collections.abc import Collection

from aedifex.design.drafting.naming import is_resource
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Reference, Symbol
from aedifex.program.model.statements import Function
from aedifex.program.structure.state import Constants, is_called_constant, is_state
from aedifex.survey.words import words_of

MOST_VALUES = 2
_FEWEST_WORDS = 2
_LOOKING = frozenset({Mode.READ, Mode.DECLARE})


def handed_to(module: Module, function: Function, own: Symbol) -> list[Symbol] | None:
    """The state of the program that a function about the object in `own` can be handed; None where it needs more.

    What is about a certain object is handed values only where it is called after it: else it knows more than that.
    """
    touched = Effects.of(module).transitive[function].touches - {own}
    changing = [symbol for symbol in Constants.of(module).changing(touched) if symbol.is_module_level]
    needed = [*changing, *(symbol for symbol in touched if symbol not in changing and _is_of_thing(module, symbol))]
    uses = [use for scope in function.scope.walk() for use in scope.uses]
    values = [symbol for symbol in needed if not is_resource(symbol)]
    about = [use for use in uses if use.symbol is own and use.path]
    own_uses = len(about) + any(use.path_mode is not None and use.path_mode.writes for use in about)
    read = [use for use in uses if use.symbol in values]
    is_about_any = not own.is_module_level or set(words_of(own.name)) <= set(words_of(function.name))
    if (
        len(values) > (MOST_VALUES if is_about_any else 0)
        or not are_only_read(read)
        or {use.symbol for use in read} != set(values)
    ):
        return None
    return sorted(needed, key=lambda symbol: symbol.name) if own_uses > len(values) or not values else None


def _is_of_thing(module: Module, symbol: Symbol) -> bool:
    """Whether a variable that never changes has the name of a thing in its own, of which something else does."""
    words = words_of(symbol.name)
    if not symbol.is_module_level or not is_state(symbol) or is_called_constant(module, symbol):
        return False
    if len(words) < _FEWEST_WORDS:
        return False
    alike = [s for s in module.scope.symbols.values() if s is not symbol and words_of(s.name)[:1] == words[:1]]
    return bool(Constants.of(module).changing(alike))


def are_only_read(references: Collection[Reference]) -> bool:
    """Whether nothing is given to some names, or done with what they hold."""
    return all(r.mode in _LOOKING and r.path_mode in (None, Mode.READ) for r in references)
