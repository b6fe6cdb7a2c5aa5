"""The blocks in which a script's code stands."""

from __future__ import annotations

from collections.abc import Iterator

from aedifex.program.model.module import Module
from aedifex.program.model.statements import Block, Function, Kind


def plain_blocks(module: Module) -> Iterator[tuple[Function | None, Block]]:
    """All blocks of the main code, for which there is None, and of the script's plain functions; none of classes."""
    places: list[tuple[Function | None, Block]] = [(None, module.block)]
    places += [(function, function.body) for function in module.functions]
    for routine, block in places:
        yield from ((routine, inner) for inner in _within(block))


def _within(block: Block) -> Iterator[Block]:
    """A block and those inside of it, but for what classes and routines have."""
    yield block
    for statement in block.statements:
        if statement.kind is not Kind.CLASS:
            for inner in statement.blocks:
                if inner.routine is None:
                    yield from _within(inner)
