"""Variables that only the methods of a class know, whose objects a library makes: the class itself could have them."""

from __future__ import annotations

from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.statements import Kind, Shape, Statement
from aedifex.program.structure.obstacles import is_hard_to_echo, variable_obstacles
from aedifex.program.structure.state import state
from aedifex.survey.kinds.objects import member_names

_PLAIN = frozenset({Shape.LITERAL, Shape.DISPLAY})


def entrusted(module: Module, scope: Scope) -> list[Symbol]:
    """The variables that a class could have for all its objects, in the order of the text.

    Nothing but its methods uses them, and their one first value is written out. The script makes no object of the class
    itself, which inherits from one of a library: so none could be handed anything.
    """
    statement = next((s for s in module.block.statements if s.defines is scope), None)
    named = module.scope.symbols.get(scope.name)
    if module.hindrances or statement is None or named is None or not _is_of_library(statement, named):
        return []
    members = member_names(module, scope)
    found = [symbol for symbol in state(module) if _is_known_to(module, symbol, statement, named)]
    rules = module.dialect.rules
    return [s for s in found if s.name not in members and not rules.is_taken(s.name) and not rules.is_private(s.name)]


def _is_of_library(statement: Statement, named: Symbol) -> bool:
    bases = [r for r in statement.references if r.mode.reads]
    is_made = any(r.mode is Mode.CALL or r.path for r in named.references)
    return any(r.symbol.imported for r in bases) and not is_made and len(named.bindings) == 1


def _is_known_to(module: Module, symbol: Symbol, home: Statement, named: Symbol) -> bool:
    given = only_first_value(symbol)
    if given is None or module.is_known_outside(symbol.name) or variable_obstacles(module, symbol):
        return False
    uses = [r for r in symbol.references if r.statement is not given]
    return bool(uses) and all(_is_in_method(module, reference, home, named) for reference in uses)


def only_first_value(symbol: Symbol) -> Statement | None:
    """The statement of the top level that does nothing but to give a variable a value that is written out."""
    first = [r.statement for r in symbol.references if r.mode.writes and r.scope is symbol.scope]
    statement = first[0] if len(first) == 1 else None
    if statement is None or statement.kind is not Kind.ASSIGN or statement.block.owner is not None:
        return None
    pairs = statement.assignment.pairs if statement.assignment is not None else ()
    is_plain = len(pairs) == 1 and pairs[0].value.shape in _PLAIN and not statement.calls
    return statement if is_plain and [r.symbol for r in statement.references] == [symbol] else None


def _is_in_method(module: Module, reference: Reference, home: Statement, named: Symbol) -> bool:
    is_inside = home.start <= reference.start < home.end and reference.scope.home.kind is ScopeKind.ROUTINE
    if reference.form is Form.DECLARATION:
        return is_inside
    means_class = reference.scope.find(named.name) is named
    return is_inside and means_class and reference.mode is not Mode.DELETE and not is_hard_to_echo(module, reference)
