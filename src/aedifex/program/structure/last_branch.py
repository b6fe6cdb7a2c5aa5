"""What a function does last, in one of its branches."""

from __future__ import annotations

from aedifex.program.model.statements import Function, Kind, Statement


def rest_from(function: Function, first: Statement) -> list[Statement]:
    """The statements of a function from one on, if nothing comes behind them and branches lead to them; else none."""
    block = first.block
    if block is function.body:
        return []
    while block is not function.body:
        owner = block.owner
        if owner is None or owner.kind is not Kind.BRANCH or owner is not owner.block.statements[-1]:
            return []
        block = owner.block
    return first.block.statements[first.index :]
