"""What one value may be, as far as its program tells: where it is made, what is in it, who else gets hold of it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from enum import Enum

from aedifex.program.model.expressions import Expression
from aedifex.program.model.names import Scope, Symbol
from aedifex.program.model.statements import Routine


class Whole(Enum):
    """What is done with an object as a whole."""

    EQUALITY = "is compared with others by its value"
    COPY = "is copied"
    TRUTH = "is asked for its truth"
    LOOKUP = "is looked up in with a default"
    LOOK = "is counted, or asked what it has"
    WRITTEN = "is written down"


@dataclass(frozen=True, slots=True)
class Trace:
    """A place in the text, and what happens there, in words."""

    offset: int
    reason: str


@dataclass(eq=False, slots=True)
class Holding:
    """The values that may stand in one set of places: all that flow into one another share one holding.

    `parts` are what it holds under plain keys, at positions and under members, by a mark and a name; `element` what it
    holds under any other key, `key` those keys. `tables`, `rows` and `classes` tell what makes such values: tables
    written out, lists and tuples, the script's classes; `routines` and `makers` what happens when they are called: the
    routines that they are, the classes of what they make. `lost` is where it gets to be known to code that no one can
    see, `foreign` where such values may come from elsewhere; `is_table` tells that a walk over such values gives their
    keys, or where it `gives_pairs`, pairs of a key and what is held under it.
    """

    parts: dict[str, Holding] = field(default_factory=dict)
    element: Holding | None = None
    key: Holding | None = None
    tables: list[Expression] = field(default_factory=list)
    rows: list[Expression] = field(default_factory=list)
    classes: dict[Scope, None] = field(default_factory=dict)
    routines: dict[Routine, None] = field(default_factory=dict)
    makers: dict[Scope, None] = field(default_factory=dict)
    symbols: dict[Symbol, None] = field(default_factory=dict)
    accesses: list[Expression] = field(default_factory=list)
    wholes: list[tuple[Whole, Expression]] = field(default_factory=list)
    lost: Trace | None = None
    foreign: Trace | None = None
    is_table: bool = False
    gives_pairs: bool = False
    leads_to: Holding | None = None

    @property
    def now(self) -> Holding:
        """The holding that this one has become part of."""
        found = self
        while found.leads_to is not None:
            found = found.leads_to
        while self.leads_to is not None and self.leads_to is not found:
            self.leads_to, self = found, self.leads_to
        return found

    def part(self, name: str) -> Holding:
        """What is held under a name; one that any key may reach is like all other elements."""
        this = self.now
        if this.element is not None and not name.startswith("."):
            return this.element.now
        if name not in this.parts:
            this.parts[name] = Holding()
        return this.parts[name].now

    def any_element(self) -> Holding:
        """What is held under keys that are not written out: then all that it holds is alike."""
        this = self.now
        if this.element is None:
            this.element = Holding()
            for name in [name for name in this.parts if not name.startswith(".")]:
                join(this.element, this.parts.pop(name))
        return this.now.element.now if this.now.element is not None else this.element.now

    def any_key(self) -> Holding:
        """The keys that are not written out."""
        this = self.now
        if this.key is None:
            this.key = Holding()
        return this.key.now


def join(one: Holding, other: Holding) -> None:
    """Let two holdings be one, and what they hold as well."""
    waiting = [(one, other)]
    while waiting:
        left, right = (side.now for side in waiting.pop())
        if left is right:
            continue
        right.leads_to = left
        for names in ("tables", "rows", "accesses", "wholes"):
            getattr(left, names).extend(getattr(right, names))
        left.classes |= right.classes
        left.routines |= right.routines
        left.makers |= right.makers
        left.symbols |= right.symbols
        left.lost = left.lost or right.lost
        left.foreign = left.foreign or right.foreign
        left.is_table |= right.is_table
        left.gives_pairs |= right.gives_pairs
        for name, part in right.parts.items():
            if name in left.parts:
                waiting.append((left.parts[name], part))
            else:
                left.parts[name] = part
        if left.element is not None and right.element is not None:
            waiting.append((left.element, right.element))
        left.element = left.element or right.element
        if left.key is not None and right.key is not None:
            waiting.append((left.key, right.key))
        left.key = left.key or right.key
        if left.element is not None:
            for name in [name for name in left.parts if not name.startswith(".")]:
                waiting.append((left.element, left.parts.pop(name)))


def lose(holding: Holding, trace: Trace) -> None:
    """Note that code which no one can see gets hold of such values."""
    holding = holding.now
    holding.lost = holding.lost or trace


def give_away(holding: Holding, trace: Trace) -> None:
    """Note that such values are lost, and that others may come in their place."""
    lose(holding, trace)
    holding.now.foreign = holding.now.foreign or trace


def reach(holding: Holding) -> Iterator[Holding]:
    """A holding and all that is held in it, each once."""
    waiting, seen = [holding.now], set[int]()
    while waiting:
        found = waiting.pop()
        if id(found) in seen:
            continue
        seen.add(id(found))
        yield found
        waiting += [part.now for part in found.parts.values()]
        waiting += [found.element.now] if found.element is not None else []


def spread(holdings: list[Holding]) -> None:
    """Let what is lost, or comes from elsewhere, be so with all that it holds."""
    waiting = [h.now for h in holdings if h.now.lost or h.now.foreign]
    seen: set[tuple[int, bool, bool]] = set()
    while waiting:
        holding = waiting.pop().now
        mark = (id(holding), holding.lost is not None, holding.foreign is not None)
        if mark in seen:
            continue
        seen.add(mark)
        inner = [*holding.parts.values(), *([holding.element] if holding.element else [])]
        for part in (p.now for p in inner):
            part.lost = part.lost or holding.lost
            part.foreign = part.foreign or holding.foreign
            waiting.append(part)
