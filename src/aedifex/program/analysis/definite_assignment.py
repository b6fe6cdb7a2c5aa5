"""What statements certainly do: on every way to their end they set a name."""

from __future__ import annotations

from collections.abc import Sequence

from aedifex.program.analysis.flow import leaves
from aedifex.program.model.names import Form, Mode, Symbol
from aedifex.program.model.statements import Block, Kind, Role, Statement

_BINDING = frozenset({Form.TARGET, Form.LOOP, Form.RESOURCE, Form.IMPORT, Form.ROUTINE, Form.CLASS, Form.PARAMETER})


def certainly_assigns(run: Sequence[Statement], symbol: Symbol) -> bool:
    """Whether a run certainly sets a name, on every way to its end."""
    return any(definitely_assigns(statement, symbol) for statement in run)


def definitely_assigns(statement: Statement, symbol: Symbol) -> bool:
    """Whether a statement certainly sets a name, on every way to its end."""
    if statement.kind is not Kind.EACH and binds(statement, symbol):
        return True
    if statement.kind is Kind.BRANCH and statement.has_otherwise:
        return all(_assigns_or_leaves(block, symbol) for block in statement.blocks)
    if statement.tests_last and not leaves(statement.blocks[0].statements):
        return certainly_assigns(statement.blocks[0].statements, symbol)
    if statement.kind is Kind.GUARDED:
        body, *others = statement.blocks
        handlers = [block for block in others if block.role is Role.HANDLER]
        last = [block for block in others if block.role is Role.FINALLY]
        if any(certainly_assigns(block.statements, symbol) for block in last):
            return True
        return certainly_assigns(body.statements, symbol) and all(
            _assigns_or_leaves(block, symbol) for block in handlers
        )
    return False


def bound_before(statement: Statement, symbol: Symbol) -> bool:
    """Whether a name of its routine surely has a value when a statement begins."""
    if any(r.mode is Mode.DELETE for r in symbol.references):
        return False
    if Form.PARAMETER in symbol.forms:
        return True
    here: Statement | None = statement
    while here is not None:
        if any(definitely_assigns(earlier, symbol) for earlier in here.block.statements[: here.index]):
            return True
        owner = here.block.owner if here.block.routine is None else None
        if owner is not None and owner.kind in (Kind.EACH, Kind.RESOURCE) and here.block.role is Role.BODY:
            if binds(owner, symbol):
                return True
        here = owner
    return False


def _assigns_or_leaves(block: Block, symbol: Symbol) -> bool:
    is_left = bool(block.statements) and block.statements[-1].kind is Kind.LEAVE
    return is_left or certainly_assigns(block.statements, symbol)


def binds(statement: Statement, symbol: Symbol) -> bool:
    """Whether a statement's own text binds a name."""
    return any(
        r.symbol is symbol and r.binds and r.form in _BINDING and r.scope.frame is symbol.scope.frame
        for r in statement.references
    )
