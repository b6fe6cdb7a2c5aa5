"""A nameless routine as a function with a name."""

from __future__ import annotations

from collections.abc import Iterator

from aedifex.moves.kit.rewriter import Rewriter
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.statements import Lambda
from aedifex.source.text import Span


def function_named(rewriter: Rewriter, routine: Lambda, name: str) -> list[Piece]:
    """The text of a top-level function that has a name, and does what a nameless routine did."""
    frame = rewriter.writer.function_frame(name, "", is_async=routine.is_async)
    opening, _, behind = frame.head.rpartition(")")
    return [opening, rewriter.taken(routine.signature), f"){behind}", *_body(rewriter, routine), frame.tail]


def _body(rewriter: Rewriter, routine: Lambda) -> Iterator[Piece]:
    layout, block = rewriter.layout, routine.body
    unit = layout.indent
    if block is None:
        assert routine.expression is not None
        yield from (unit, *rewriter.writer.returning([rewriter.taken(routine.expression)]), "\n")
    elif block.statements and layout.stands_alone(block.statements[0]):
        first = block.statements[0]
        lines = Span(layout.lines(first).start, layout.end_inside(block))
        yield from rewriter.lines_taken(lines, layout.margin(first), unit)
    elif block.statements:
        inside = Span(block.statements[0].start, block.statements[-1].end)
        yield from (unit, rewriter.taken(inside), "\n")
