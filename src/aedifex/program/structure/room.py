"""Whether a function has room for a line above its first statement, and where that is."""

from __future__ import annotations

from aedifex.program.model.module import Module
from aedifex.program.model.names import Scope, ScopeKind
from aedifex.program.model.statements import Function, Statement
from aedifex.program.structure.layout import Layout


def has_room_for_declaration(module: Module, scope: Scope) -> bool:
    """Whether a scope is the top level, or a function with room for a line above its first statement."""
    if scope.kind is ScopeKind.MODULE:
        return True
    function = scope.routine
    if not isinstance(function, Function):
        return False
    layout = Layout.of(module)
    first = first_behind_doc(function)
    return first is not None and layout.stands_alone(first) and bool(layout.margin(first))


def first_behind_doc(function: Function) -> Statement | None:
    """The first statement of a function behind its docstring."""
    statements = function.body.statements[1:] if function.doc is not None else function.body.statements
    return statements[0] if statements else None
