"""What a move would do: the changes, and where each reference leads afterwards."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path

from aedifex.program.model.names import Reference, Symbol
from aedifex.source.edits import Changes
from aedifex.source.text import Span


@dataclass(frozen=True, slots=True)
class Member:
    """Where a symbol went: it is now a member of a class, reached through an object of it."""

    class_name: str
    name: str


@dataclass(frozen=True, slots=True)
class Receiver:
    """Where a reference went: it is now the receiver in a method of a class."""

    class_name: str


@dataclass(frozen=True, slots=True)
class Parameter:
    """Where a reference went: it is now a parameter of a routine."""

    routine: str
    name: str


@dataclass(frozen=True, slots=True)
class Local:
    """Where a reference went: it is now a variable of a routine's, or a loop's, own, which `home` tells apart."""

    name: str
    home: object


@dataclass(frozen=True, slots=True)
class Renamed:
    """Where a reference went: it means the same thing under this name now."""

    name: str


@dataclass(frozen=True, slots=True)
class Entry:
    """Where a reference of another file went: it starts the program by what stands under this name now."""

    name: str


@dataclass(frozen=True, slots=True)
class Awaited:
    """Where a reference went: to nothing yet, until a later move makes something of this name again."""

    name: str


@dataclass(frozen=True, slots=True)
class Variable:
    """Where a part of an object went: it is now a variable of the module."""

    name: str


@dataclass(frozen=True, slots=True)
class Instead:
    """Where a reference went: in its place stands what means another symbol of the program as it was.

    That may have another `name` now.
    """

    symbol: Symbol
    name: str = ""


Destination = Member | Receiver | Parameter | Local | Renamed | Variable | Entry | Awaited | Instead


@dataclass(slots=True)
class Rewriting:
    """What a move would do: the changes, and what must be true afterwards.

    `destinations` says where references lead now, per reference. `dropped` holds the references that go away with the
    text they stood in. Every other reference must still mean what it meant, and lead on as it did; `paths` names the
    steps of those whose access paths change. `beside` are files of data that come with it.
    """

    changes: Changes = field(default_factory=Changes)
    destinations: dict[Reference, Destination] = field(default_factory=dict)
    spans: dict[Reference, Span] = field(default_factory=dict)
    dropped: set[Reference] = field(default_factory=set)
    paths: dict[Reference, tuple[str | None, ...]] = field(default_factory=dict)
    beside: dict[Path, bytes] = field(default_factory=dict)


def merged(rewritings: Sequence[Rewriting]) -> Rewriting | None:
    """Several rewritings of one program as one; None where two of them want the same text or reference."""
    whole = Rewriting()
    taken: set[tuple[Path, int, int]] = set()
    for one in rewritings:
        places = {(e.path, e.start, e.end) for e in one.changes.edits if e.start < e.end}
        known = whole.destinations.keys() | whole.dropped | whole.paths.keys()
        if places & taken or known & (one.destinations.keys() | one.dropped | one.paths.keys()):
            return None
        if whole.changes.created.keys() & one.changes.created.keys():
            return None
        taken |= places
        whole.changes.edits += one.changes.edits
        whole.changes.created |= one.changes.created
        whole.changes.deleted |= one.changes.deleted
        whole.changes.around |= one.changes.around
        whole.destinations |= one.destinations
        whole.spans |= one.spans
        whole.dropped |= one.dropped
        whole.paths |= one.paths
        whole.beside |= one.beside
    return whole
