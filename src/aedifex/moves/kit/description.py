"""What a move says of itself: for the list of moves, for the command that makes one by hand, and for the docs."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from enum import Enum
from pathlib import Path
from typing import Any

from aedifex.moves.kit.move import Move
from aedifex.program.model.program import Program
from aedifex.source.errors import UsageError

Given = Mapping[str, Any]
"""What was said for each parameter, by its name: a text, a tuple of texts, or None."""

MakeMoves = Callable[[Program, Path, Given], Sequence[Move]]


class Takes(Enum):
    """How a parameter is given on the command line."""

    ONE = "one argument"
    MANY = "one argument or more"
    ANY = "any number of arguments"
    OPTION = "an option"
    OPTIONS = "an option that may be repeated"
    NEEDED = "an option that must be there"


@dataclass(frozen=True, slots=True)
class StepParameter:
    """One thing that a move made by hand is told: its name, how it is given, how help shows it, and what it is."""

    name: str
    takes: Takes
    shown: str
    what: str = ""


@dataclass(frozen=True)
class Example:
    """A script of a language, the words behind `aedifex step NAME FILE`, and the files that come of it.

    `beside` are other files that the script needs before.
    """

    language: str
    words: str
    before: str
    after: Mapping[str, str]
    beside: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Description:
    """A move in words.

    `summary` says in two lines what it does and where it is refused, `term` is the textbook's name for it, `help` what
    it is made by hand for, and `place` puts the moves in the order in which people make them. `make` turns what was
    said for its parameters into moves; a move without it is only made in the course of a build.
    """

    name: str
    place: int
    summary: str
    term: str
    help: str = ""
    parameters: tuple[StepParameter, ...] = ()
    make: MakeMoves | None = None
    example: Example | None = None


def named(text: str) -> tuple[str, str]:
    """`OLD=NEW` in two; the same twice where no new name is given.

    Raises:
        UsageError: it is neither.
    """
    old, equals, new = text.partition("=")
    if not old or (equals and not new):
        raise UsageError(f"`{text}` is not NAME or NAME=NEW_NAME")
    return old, new or old
