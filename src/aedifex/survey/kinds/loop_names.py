"""Names that loops give what they go over: several loops may use one."""

from __future__ import annotations

from aedifex.program.analysis.flow import is_needed_after
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Scope, Symbol
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.state import is_used_in_routine
from aedifex.survey.words import singular, words_of

_ELEMENT = "row"


def is_free_for(module: Module, scope: Scope, name: str, loop: Statement) -> bool:
    """Whether a loop in a scope may use a name: nothing is called so, or only what other loops go over."""
    symbol = scope.find(name)
    return symbol is None or (symbol.scope is scope and _serves_loops(module, symbol, loop))


def item_name(module: Module, scope: Scope, container: str, loop: Statement | None = None) -> str:
    """What one element of a container may be called in a scope, and in a loop there that had no name for it."""
    naming, home = module.dialect.naming, scope.home
    used = {name for inner in home.walk() for name in inner.symbols}
    used |= {use.name for inner in home.walk() for use in inner.uses}
    used |= module.names_in_use if home is module.scope else set()
    words = words_of(container)
    noun = naming.member_name([*words[:-1], singular(words[-1])]) if words else _ELEMENT
    wishes = [noun, *(naming.joined(word, noun) for word in ("one", "the", "each", "any"))]
    for wish in filter(module.dialect.rules.is_name, wishes):
        is_shared = loop is not None and wish in home.symbols and is_free_for(module, home, wish, loop)
        if wish not in used or is_shared:
            return wish
    return wishes[-1]


def _serves_loops(module: Module, symbol: Symbol, loop: Statement) -> bool:
    """Whether a name only ever serves other loops over something, and no value of it is needed after this one."""
    is_known = symbol.is_module_level and (is_used_in_routine(symbol) or module.is_known_outside(symbol.name))
    if is_known or any(r.scope is not symbol.scope or r.form is Form.DECLARATION for r in symbol.references):
        return False
    is_walked = all(r.statement is not None and r.statement.kind is Kind.EACH for r in symbol.bindings)
    is_there = any(r.symbol is symbol for r in module.references_within(loop.span))
    return is_walked and not is_there and not is_needed_after(module, symbol, loop)
