"""Kinds that are stored as rows: lists or tuples of one length, of which each place means one thing."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.flow import Flow
from aedifex.program.analysis.holding.holding import Holding, Whole
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import is_settled, only_value
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, ScopeKind
from aedifex.program.model.statements import Function, Kind, Shape, Statement
from aedifex.program.structure.layout import Layout
from aedifex.survey.kinds.records import containers_of, holders_of
from aedifex.survey.kinds.walks import is_place

_FEWEST, _MOST = 2, 8
_ROWS = frozenset({Sense.LIST, Sense.TUPLE})
_HOLDING = frozenset({Sense.LIST, Sense.TUPLE, Sense.EACH})
_PASSING = frozenset({Sense.ALONE, Sense.RETURN, Sense.CHOICE, Sense.EITHER, Sense.NOT, Sense.TEST, Sense.SAME})
_TAKING = frozenset({Handling.ADDS, Handling.INSERTS, Handling.COMPARES})


@dataclass(frozen=True)
class RowKind:
    """Things of one shape that are kept as rows: where they are written out, and where places of them are asked for.

    Where one is `unpacked`, all its places get a name at once.
    """

    module: Module
    holding: Holding
    rows: tuple[Expression, ...]
    asked: tuple[Expression, ...]
    unpacked: tuple[Expression, ...] = ()

    @property
    def length(self) -> int:
        """How many places a row has."""
        return len(self.rows[0].parts)

    def place(self, asked: Expression) -> int:
        """The number of the place that one of those expressions asks for."""
        number = _place(self.module, asked, self.length)
        if number is None:
            raise ValueError(f"no place of a row: {self.module.source.slice(asked.span)}")
        return number

    @property
    def begin(self) -> int:
        """Where the first row, or the first that is asked of one, stands in the text."""
        return min(part.start for part in (*self.rows, *self.asked))

    @property
    def holders(self) -> list[str]:
        """Names by which the kind can be found again."""
        return holders_of(self.module, self.holding)


def row_kinds(module: Module) -> list[RowKind]:
    """The kinds that a file keeps as rows and only asks for their places, in the order in which they are first made."""
    return _RowKinds.of(module).kinds


class _RowKinds(Analysis):
    """The kinds of one file, for all who ask for them."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        holdings = Holdings.of(module)
        everything = holdings.everything() if not module.hindrances else []
        found = [kind for h in everything if h.rows and (kind := _kind(module, holdings, h)) is not None]
        self.kinds = sorted(found, key=lambda kind: kind.rows[0].start)


def _kind(module: Module, holdings: Holdings, holding: Holding) -> RowKind | None:
    rows = sorted(holding.rows, key=lambda row: row.start)
    length = len(rows[0].parts)
    is_strange = holding.lost or holding.foreign or holding.tables or holding.classes or holding.is_table
    if is_strange or any(len(row.parts) != length for row in rows) or not _FEWEST <= length <= _MOST:
        return None
    if not all(map(_is_plain_row, rows)) or not any(containers_of(module, holding)):
        return None
    if any(symbol.scope.kind is ScopeKind.CLASS for symbol in holding.symbols):
        return None
    uses = _Uses(module, holdings, holding, length)
    if not uses.are_plain or not (uses.asked or uses.are_unpacked_apart):
        return None
    if length == _FEWEST and not uses.are_changed:
        return None
    kind = RowKind(module, holding, tuple(rows), tuple(uses.asked), tuple(uses.unpacked))
    return kind if all(_stands_before(kind.begin, part.parts[1]) for part in kind.asked) else None


def _stands_before(begin: int, key: Expression) -> bool:
    """Whether the name of a number has its value before anything is asked with it."""
    given = only_value(key.reference.symbol) if key.reference is not None else None
    return given is None or given.statement.end <= begin


def _place(module: Module, asked: Expression, length: int) -> int | None:
    """The place that a number asks for: one that is written out, or that has been given its only name by then."""
    key = asked.parts[1]
    span = key.span
    if key.sense is Sense.NAME and key.reference is not None:
        given = only_value(key.reference.symbol)
        if given is None or not is_settled(key.reference.symbol) or given.value.shape is not Shape.LITERAL:
            return None
        span = given.value.span
    return module.dialect.rules.place_asked(module.source.slice(span), length)


def _is_plain_row(row: Expression) -> bool:
    return row.sense in _ROWS and all(part.sense is not Sense.SPREAD for part in row.parts)


@dataclass(frozen=True)
class Unpacking:
    """A place where a row gives its places to several names: the row has a name there, or a loop goes over many."""

    surroundings: Surroundings
    target: Expression

    @property
    def row(self) -> Expression | None:
        """The name of the row, in an assignment."""
        around = self.surroundings.around(self.target)
        is_set = around is not None and around.sense is Sense.SET and len(around.parts) == 2
        value = around.parts[1] if around is not None and is_set else None
        return value if value is not None and value.sense is Sense.NAME else None

    @property
    def loop(self) -> Statement | None:
        """The statement that loops over rows, or over rows with their numbers."""
        around = self.surroundings.around(self.target)
        if around is not None and around.sense is Sense.TUPLE:
            around = self.surroundings.around(around)
        if around is None or around.sense is not Sense.WALK or self.surroundings.around(around) is not None:
            return None
        return around.statement if around.statement is not None and around.statement.kind is Kind.EACH else None

    @property
    def each(self) -> Expression | None:
        """The container made from others of which the loop is a part."""
        around = self.surroundings.around(self.target)
        outer = self.surroundings.around(around) if around is not None and around.sense is Sense.WALK else None
        return outer if outer is not None and outer.sense is Sense.EACH else None

    @property
    def names(self) -> list[Reference]:
        """The names that its places get."""
        return [part.reference for part in self.target.parts if part.reference is not None]

    @property
    def uses(self) -> list[Reference] | None:
        """Where the names are used, if the row itself could as well be asked for its places there.

        In the loop nothing changes them, or runs code of the script that might.
        """
        loop, each = self.loop, self.each
        region = loop.span if loop is not None else each.span if each is not None else None
        module = self.surroundings.module
        everywhere = [r for name in self.names for r in name.symbol.references if r is not name]
        found = [r for r in everywhere if region is not None and region.holds(r.span)]
        if region is None or any(r.mode.writes for r in found):
            return None
        if len(found) < len(everywhere) and (loop is None or self.live_behind(loop)):
            return None
        if any(r.scope.is_apart_from(name.symbol.scope) for name in self.names for r in name.symbol.references):
            return None
        inside = module.references_within(region)
        own = {f.name for f in module.all_functions if f.is_method}
        for reference in inside:
            is_own = not {Form.ROUTINE, Form.CLASS}.isdisjoint(reference.symbol.forms)
            is_method = any(step.name in own for step in reference.path)
            is_changed = reference.path_mode is not None and reference.path_mode.writes
            if is_own or is_method or is_changed or module.echo_at(reference.start) is not None:
                return None
        return found

    def live_behind(self, loop: Statement) -> bool:
        """Whether anything looks at one of the names once a loop is over."""
        routine = self.names[0].scope.home.routine
        flow = Flow(self.surroundings.module, routine if isinstance(routine, Function) else None)
        live = flow.live_after(loop)
        return any(name.symbol in live for name in self.names)

    @property
    def is_plain(self) -> bool:
        """Whether a row has a name there, or could get one, on lines of its own or in place of the names."""
        if self.row is not None or self.uses is not None:
            return True
        loop = self.loop
        if loop is None or not loop.blocks or not loop.blocks[0].statements:
            return False
        return Layout.of(self.surroundings.module).stands_alone(loop.blocks[0].statements[0])


class _Uses:
    """All that is done with rows of a kind: they are handed round, and asked for their places by plain numbers."""

    def __init__(self, module: Module, holdings: Holdings, holding: Holding, length: int) -> None:
        self.module = module
        self.holdings = holdings
        self.holding = holding
        self.length = length
        self.surroundings = Surroundings.of(module)
        self.asked: list[Expression] = []
        self.unpacked: list[Expression] = []
        uses = [e for e, h in holdings.known.items() if h.now is holding]
        is_whole = any(whole not in (Whole.EQUALITY, Whole.TRUTH) for whole, _ in holding.wholes)
        self.are_plain = not is_whole and all(map(self.is_plain, uses)) and not any(self.orderings())
        self.asked.sort(key=lambda part: part.start)

    @property
    def are_changed(self) -> bool:
        """Whether a place of a row, or a member of what stands there, is given another value."""
        around = (self.surroundings.around(part) for part in self.asked)
        members = [a for a in around if a is not None and a.sense is Sense.MEMBER]
        return any(is_place(self.surroundings, part) for part in (*self.asked, *members))

    @property
    def are_unpacked_apart(self) -> bool:
        """Whether several routines unpack rows, so that each gives the places names of its own."""
        return len({part.reference.scope.home for t in self.unpacked for part in t.parts[:1] if part.reference}) > 1

    def is_plain(self, use: Expression) -> bool:
        """Whether a row is only handed on at a place, asked for one of its own places, or unpacked.

        What looks like a row and is none gives its places to several names at once.
        """
        around = self.surroundings.around(use)
        if use.sense in _ROWS and not any(use is row for row in self.holding.rows):
            return self.is_unpacked(use)
        if around is None or around.sense in _PASSING or around.sense in _HOLDING:
            return use.sense is not Sense.SLICE
        if around.sense is Sense.PART:
            return around.parts[0] is use and self.asks_for_place(around)
        if around.sense is Sense.SET:
            return True
        if around.sense is Sense.WALK:
            return around.parts[0] is use
        if around.sense is Sense.WITHIN:
            return around.parts[0] is use
        if around.sense is Sense.EQUAL:
            return all(self.is_row(part) for part in around.parts)
        if around.sense is Sense.TABLE:
            return use in around.parts[1::2]
        return around.sense is Sense.CALL and self.is_handed_on(around, use)

    def is_unpacked(self, target: Expression) -> bool:
        """Whether each place of a row gets a plain name, where the row has one itself, or could get one."""
        names = [part.reference for part in target.parts if part.sense is Sense.NAME and part.reference is not None]
        if len(names) != self.length or len({r.symbol for r in names}) != self.length:
            return False
        if not Unpacking(self.surroundings, target).is_plain:
            return False
        self.unpacked.append(target)
        return True

    def is_row(self, expression: Expression) -> bool:
        """Whether an expression gives such a row."""
        held = self.holdings.known.get(expression)
        return expression.sense is Sense.NOTHING or (held is not None and held.now is self.holding)

    def asks_for_place(self, part: Expression) -> bool:
        """Whether a row is asked for a place that it has, by a number that is written out."""
        around = self.surroundings.around(part)
        is_there = _place(self.module, part, self.length) is not None
        is_there = is_there and (around is None or around.sense is not Sense.DELETE)
        if is_there and self.module.echo_at(part.start) is None:
            self.asked.append(part)
            return True
        return False

    def is_handed_on(self, call: Expression, use: Expression) -> bool:
        """Whether a call only puts a row into a container, looks for it there, or gives it to the script's own code."""
        callee = call.parts[0]
        if callee is use:
            return False
        held = self.holdings.known.get(callee)
        if held is not None and held.now.routines and not held.now.foreign:
            return True
        is_method = callee.sense is Sense.MEMBER and callee.name is not None
        return is_method and self.module.dialect.library.handling_by_method(callee.name or "") in _TAKING

    def orderings(self) -> Iterator[Expression]:
        """Where rows are put in order by what is in them: the smallest is asked for, by no other key."""
        library = self.module.dialect.library
        for call in (inner for tree in self.holdings.trees for inner in tree.walk() if inner.sense is Sense.CALL):
            callee = call.parts[0]
            name = callee.name or (callee.reference.name if callee.reference is not None else "")
            if not library.puts_in_order(name) or any(library.calls_back(word) for word in call.names):
                continue
            subjects = [*call.parts[1:], *(callee.parts[:1] if callee.sense is Sense.MEMBER else [])]
            held = [h.now for s in subjects if (h := self.holdings.known.get(s)) is not None and not h.now.is_table]
            elements = [h.element.now for h in held if h.element is not None]
            if self.holding in held or self.holding in elements:
                yield call
