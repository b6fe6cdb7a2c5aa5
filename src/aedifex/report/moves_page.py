"""The page of the docs that shows every move, made from what the moves say of themselves."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from aedifex.moves.kit.description import Description

_HEAD = """\
# The moves

Every move is one behaviour-keeping rewriting. `aedifex step MOVE SCRIPT …` makes one by hand; a build is a sequence of
them. This page is made from what the moves say of themselves (`make docs`), and the examples are run by the test suite.

| move | what it does | the textbook's term |
|---|---|---|
"""


def moves_page(moves: Sequence[Description]) -> str:
    """The page as a text in Markdown."""
    rows = [f"| {_linked(move)} | {' '.join(move.summary.split())} | {move.term or '-'} |\n" for move in moves]
    return _HEAD + "".join(rows) + "".join(part for move in moves for part in _shown(move))


def _linked(move: Description) -> str:
    return f"[{move.name}](#{move.name})" if move.make is not None else f"{move.name} (in the course of a build)"


def _shown(move: Description) -> Iterator[str]:
    """A move's command, and its example before and after."""
    example = move.example
    if move.make is None or example is None:
        return
    words, script = f" {example.words}" if example.words else "", list(example.after)[-1]
    yield f"\n## {move.name}\n\n{move.help}\n\n```\n$ aedifex step {move.name} {script}{words}\n```\n\nbefore:\n\n"
    yield _code(example.language, example.before)
    for name, text in example.beside.items():
        yield f"\n{name} before:\n\n{_code(example.language, text)}"
    for name, text in example.after.items():
        yield f"\n{name} after:\n\n{_code(example.language, text)}"


def _code(language: str, text: str) -> str:
    return f"```{language}\n{text}```\n"
