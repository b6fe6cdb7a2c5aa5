"""Doc texts of routines and classes, which may be indented anew with what they describe."""

from __future__ import annotations

from collections.abc import Iterator

from aedifex.program.model.module import Module
from aedifex.program.model.statements import Kind, Statement
from aedifex.source.text import Span

_DOC, _MARKS = b"__doc__", (b".", b"'", b'"')
"""What reads the text of something else than the file."""


def movable_docs(module: Module) -> Iterator[Span]:
    """The doc texts that say the same at any indentation, as all that shows them takes it away (PEP 257).

    Each of their lines begins with the margin of the first, or is empty, so that all move alike. None where the program
    asks for the text as it stands.
    """
    source = module.source
    if any(mark + _DOC in source.parse_view for mark in _MARKS):
        return
    for statement in module.walk():
        text = _doc(statement)
        if text is not None:
            margin = source.slice(Span(source.line_start(text.start), text.start))
            _, *lines = source.slice(text.span).split("\n")
            is_even = all(not line or (line.startswith(margin) and line.strip()) for line in lines)
            if not margin.strip() and is_even and not any("\\" in line or "\t" in line for line in lines):
                yield text.span


def _doc(statement: Statement) -> Statement | None:
    """The text that describes the routine or the class which a statement defines."""
    if statement.kind not in (Kind.ROUTINE, Kind.CLASS) or not statement.blocks:
        return None
    first = next(iter(statement.blocks[0].statements), None)
    return first if first is not None and first.is_text else None
