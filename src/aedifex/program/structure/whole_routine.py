"""The routine that is the whole program, however it is called: behind a wrapper, in a `try`, from elsewhere."""

from __future__ import annotations

from dataclasses import dataclass

from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Symbol
from aedifex.program.model.statements import Function, Kind, Statement
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.main_function import fits_at_top, holds_state


@dataclass(frozen=True)
class WholeRoutine:
    """Such a routine, and the top-level statements that use it, all that the main code has."""

    function: Function
    users: tuple[Statement, ...]


def whole_routine_of(module: Module) -> WholeRoutine | None:
    """The routine in which all state of a script lives, where the main code does nothing but to use it."""
    main = MainCode.of(module)
    users = tuple(s for s in module.block.statements if s in main.statements or s is module.guard or _calls_one(s))
    if not all(_is_of(symbol, users) for symbol in main.variables) or main.overtaking:
        return None
    found = [f for f in module.functions if _may_be_whole(module, f, users)]
    return WholeRoutine(found[0], users) if len(found) == 1 else None


def _calls_one(statement: Statement) -> bool:
    """Whether a variable is only given what a function of the script gives back."""
    value = statement.assignment.value if statement.kind is Kind.ASSIGN and statement.assignment else None
    called = [call.callee for call in statement.calls if value is not None and call.span == value.span]
    return any(c is not None and not c.path and Form.ROUTINE in c.symbol.forms for c in called)


def _may_be_whole(module: Module, function: Function, users: tuple[Statement, ...]) -> bool:
    if function.statement.block.owner is not None or function.is_generator or len(function.symbol.bindings) != 1:
        return False
    if users and not any(r.symbol is function.symbol for s in users for r in module.references_within(s.span)):
        return False
    layout, body = Layout.of(module), function.body.statements
    if _sets_of_nobody(module, function) and not all(module.dialect.rules.calls_once(module, user) for user in users):
        return False
    stand_alone = all(map(layout.stands_alone, (function.statement, *users, *body[:1])))
    is_behind = all(user.start > function.statement.start for user in users)
    away = [name for name, s in module.scope.symbols.items() if s is not function.symbol and _is_of(s, users)]
    return stand_alone and is_behind and holds_state(function) and fits_at_top(module, function, away)


def _sets_of_nobody(module: Module, function: Function) -> bool:
    """Whether the routine gives values to names that nothing declares, which all calls of it have in common."""
    if not module.dialect.writer.declares:
        return False
    given = {r.symbol for r in module.references_within(function.statement.span) if r.mode.writes and not r.path}
    return any(s.is_module_level and not any(r.declares for r in s.references) for s in given)


def _is_of(symbol: Symbol, users: tuple[Statement, ...]) -> bool:
    """Whether a variable is used nowhere but in the top-level code that uses the routine."""
    return all(any(user.start <= r.start < user.end for user in users) for r in symbol.references)


def keeps_doc(module: Module, function: Function) -> bool:
    """Whether a text that describes the routine may be looked at: by a decorator, or by the name of its attribute."""
    asks = any(module.dialect.rules.doc_attribute in statement.attributes for statement in module.walk())
    return function.doc is not None and (bool(function.statement.decorators) or asks)
