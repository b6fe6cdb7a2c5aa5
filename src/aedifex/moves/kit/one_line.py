"""Routines whose statements have no lines of their own, and how they get them."""

from __future__ import annotations

from collections.abc import Sequence

from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Function
from aedifex.program.structure.layout import Layout
from aedifex.source.text import Span


def gaps(module: Module, function: Function) -> list[Span]:
    """The blanks in front of, between and behind the statements of a routine that has one line, or none, for them.

    There are none where brackets do not hold the routine together, and where more than its statements stands in them.
    """
    source, statement = module.source, function.statement
    frame = module.dialect.writer.block_frame("", "")
    opening, closing = frame.head.strip(), frame.tail.strip()
    is_one = source.line_of(statement.start) == source.line_of(statement.end - 1)
    if not closing or (function.body.statements and not is_one) or not Layout.of(module).stands_alone(statement):
        return []
    inside = Span(function.signature.end, statement.end - len(closing))
    begin = inside.start + source.slice(inside).find(opening) + len(opening)
    edges = [begin, *(at for s in function.body.statements for at in s.span), inside.end]
    found = [Span(end, start) for end, start in zip(edges[::2], edges[1::2], strict=True)]
    return [] if any(source.slice(span).strip() for span in found) else found


def broken(module: Module, function: Function, more: Sequence[Piece], place: int) -> list[list[Piece]]:
    """What stands in each gap for every statement to have its own line, and `more`, a line, in gap number `place`."""
    layout = Layout.of(module)
    margin = layout.margin(function.statement)
    count = len(function.body.statements)
    ends = [margin + layout.indent] * count + [margin]
    return [["\n", *(more if number == place else ()), end] for number, end in enumerate(ends)]
