"""Texts that stand by themselves, as those of routines and classes, and may be indented anew with what is around."""

from __future__ import annotations

from collections.abc import Iterator

from aedifex.program.model.module import Module
from aedifex.source.text import Span

_DOC, _MARKS = b"__doc__", (b".", b"'", b'"')
"""What reads the text of something else than the file."""


def movable_docs(module: Module) -> Iterator[Span]:
    """The texts that say the same at any indentation, as all that shows them takes it away (PEP 257), or nobody does.

    Each of their lines begins with the margin of the first, or is empty, so that all move alike. None where the program
    asks for the text as it stands; the text of the file itself stays as it is.
    """
    source = module.source
    if any(mark + _DOC in source.parse_view for mark in _MARKS):
        return
    of_file = next(iter(module.block.statements), None)
    for text in (statement for statement in module.walk() if statement.is_text and statement is not of_file):
        margin = source.slice(Span(source.line_start(text.start), text.start))
        _, *lines = source.slice(text.span).split("\n")
        is_even = all(not line or (line.startswith(margin) and line.strip()) for line in lines)
        if not margin.strip() and is_even and not any("\\" in line or "\t" in line for line in lines):
            yield text.span
