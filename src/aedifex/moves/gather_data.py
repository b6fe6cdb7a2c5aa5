"""gather_data: records that are written out become a class that has them all, and finds one by its key."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of, symbol_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Renamed, Rewriting
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import OnlyValue, only_value
from aedifex.program.dialect.handling import Handling
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.expressions import Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Leave, Statement
from aedifex.program.structure.obstacles import variable_obstacles
from aedifex.source.text import Span
from aedifex.survey.kinds.walks import is_named
from aedifex.survey.lookups import Deed, Lookup, askings, deeds, kept_name, lists_of_records, lookups, tables_of_records
from aedifex.survey.words import singular, words_of

_ALL, _FIND = "all", "find"
_DEEDS = {Handling.ADDS: "add", Handling.COMPARES: "remove"}
_SHORTEST_NAME = 3


@dataclass(frozen=True)
class GatherData:
    """Make a class of a list of records, or of a table of them by key."""

    name: ClassVar[str] = "gather_data"

    path: Path
    variable: str
    class_name: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: it is no list or table of records that is set once, or nothing looks one up.
        """
        module = module_of(program, self.path)
        symbol = symbol_of(module, self.variable)
        is_table = symbol in tables_of_records(module)
        return (_GatheringTable if is_table else _GatheringList)(self, module, symbol).plan()


class _Gathering(Planner):
    """Writes the class, and lets everybody ask it for all records who does not look for one."""

    def __init__(self, move: GatherData, module: Module, symbol: Symbol) -> None:
        super().__init__(module)
        self.move = move
        self.symbol = symbol

    def find_objections(self) -> None:
        at = self.symbol.references[0].start
        for obstacle in variable_obstacles(self.module, self.symbol):
            self.object(*obstacle)
        if self.move.class_name in self.module.names_in_use:
            self.object(at, f"the name `{self.move.class_name}` is in use already", "Choose another.")
        only = only_value(self.symbol)
        if only is not None and not self.layout.stands_alone(only.statement):
            self.object(at, "this shares its line with another statement", "Break the line.")

    @property
    def given(self) -> OnlyValue:
        """The records as they are written out."""
        only = only_value(self.symbol)
        assert only is not None  # else it is objected to
        return only

    @property
    def field(self) -> str:
        """The field that has the records."""
        return self.writer.member(self.writer.receiver, self.dialect.naming.sealed(self.symbol.name))

    @property
    def parameter(self) -> str:
        """What is looked for."""
        raise NotImplementedError

    @property
    def found(self) -> str:
        """The expression that looks for it."""
        raise NotImplementedError

    def ask(self) -> list[Reference]:
        """Let those who look for a record ask for it, and tell where they named the variable."""
        raise NotImplementedError

    def write(self) -> None:
        statement, value = self.given.statement, self.given.value
        lines = self.layout.lines(statement)
        asked = [*self.ask(), *self.do()]
        others = [r for r in self.symbol.references if not r.mode.writes and r not in asked]
        records = self.rewriter.taken(value.span, indent=self.layout.indent * 2)
        pieces = self.class_text(records, has_all=bool(others))
        target = self.rewriter.taken(Span(lines.start, self.symbol.bindings[0].end))
        made = [*self.writer.assignment("", [self.writer.call(self.move.class_name, [])])[1:-1]]
        behind = [*self.rewriter.comment_behind(statement), "\n"]
        whole = [self.layout.gap_before(lines.start), *pieces, self.layout.gap, target, *made, *behind]
        self.rewriting.changes.replace(self.module.path, lines, *whole)
        for reference in others:
            everything = self.writer.call(self.writer.member(reference.name, _ALL), [])
            self.rewriter.replace(reference, everything, Renamed(reference.name))

    @property
    def deeds(self) -> Sequence[Deed]:
        """The statements that put one record in, or take one out."""
        return ()

    @property
    def item(self) -> str:
        """One of the records."""
        raise NotImplementedError

    def do(self) -> list[Reference]:
        """Let those who put a record in or take one out say so, and tell where they named the variable."""
        done: list[Reference] = []
        for deed in self.deeds:
            reference, name = deed.container.reference, _DEEDS[deed.handling]
            assert reference is not None
            changes = self.rewriting.changes
            changes.replace(self.module.path, Span(deed.container.end, deed.method.end), self.writer.member("", name))
            self.rewriting.paths[reference] = (name,)
            done.append(reference)
        return done

    def deed_texts(self) -> Iterator[Piece]:
        """The methods that put one record in and take one out, as far as somebody does."""
        unit, writer = self.layout.indent, self.writer
        for handling, method in {deed.handling: deed.method.name or "" for deed in self.deeds}.items():
            frame = writer.method_frame(_DEEDS[handling], [self.item], unit, unit)
            done = writer.call(writer.member(self.field, method), [self.item])
            yield from ("\n", frame.head, unit * 2, done, "\n", frame.tail)

    def class_text(self, records: Piece, *, has_all: bool) -> list[Piece]:
        """The class: the records, one of them, and all where somebody asks for them."""
        unit, writer = self.layout.indent, self.writer
        made = writer.constructor_frame([], unit, unit)
        everything, giving = writer.method_frame(_ALL, [], unit, unit), writer.returning([self.field])
        one = writer.method_frame(_FIND, [self.parameter], unit, unit)
        whole = writer.class_frame(self.move.class_name, "", unit)
        return [
            whole.head,
            *(made.head, unit * 2, *writer.assignment(self.field, [records]), made.tail, "\n"),
            *((everything.head, unit * 2, *giving, "\n", everything.tail, "\n") if has_all else ()),
            *(one.head, unit * 2, *writer.returning([self.found]), "\n", one.tail),
            *(*self.deed_texts(), whole.tail),
        ]


class _GatheringList(_Gathering):
    """Loops that look for a record ask for it."""

    def __init__(self, move: GatherData, module: Module, symbol: Symbol) -> None:
        super().__init__(move, module, symbol)
        self.lookups = lookups(module, self.symbol)

    @cached_property
    def deeds(self) -> Sequence[Deed]:
        """The statements of functions that append a record, or remove one."""
        return deeds(self.module, self.symbol)

    def find_objections(self) -> None:
        at, name = self.symbol.references[0].start, self.symbol.name
        if self.symbol not in lists_of_records(self.module):
            reason = f"`{name}` is no list of records, or table of them, that is written out, and set once"
            self.object(at, reason, "Leave it a variable.")
        elif not self.lookups:
            reason = f"no loop of a function looks for one record of `{name}` by a value that it is given"
            self.object(at, reason, "Leave it a list.")
        super().find_objections()

    @property
    def found(self) -> str:
        """The first record that has the value."""
        first, writer = self.lookups[0], self.writer
        asked, wanted = f"{self.item}{first.key}", self.parameter
        condition = writer.are_equal(asked, wanted) if first.is_first else writer.are_equal(wanted, asked)
        return writer.first_where(self.item, self.field, condition)

    @property
    def parameter(self) -> str:
        """What is looked for, as most of those call it who do."""
        own = {singular(self.symbol.name), self.symbol.name}
        names = [r.name for one in self.lookups if (r := one.wanted.reference) is not None and r.name not in own]
        key = self.dialect.naming.joined(*words_of(self.lookups[0].key))
        if self.dialect.rules.is_taken(key):
            key = self.dialect.naming.joined("the", key)
        return max(names, key=names.count) if names else key

    @property
    def item(self) -> str:
        """One of the records."""
        word = singular(self.symbol.name)
        name = word if word != self.symbol.name else self.dialect.naming.joined("one", word)
        return name if name != self.parameter else self.dialect.naming.joined("one", name)

    def ask(self) -> list[Reference]:
        """Loops that look for a record become questions."""
        for lookup in self.lookups:
            self.rewrite(lookup)
        return [one.container.reference for one in self.lookups if one.container.reference is not None]

    def rewrite(self, lookup: Lookup) -> None:
        """A loop that looks for a record becomes a question for it, and what is done where it is there."""
        margin, unit = self.layout.margin(lookup.loop), self.layout.indent
        item, container = lookup.item.reference, lookup.container.reference
        assert item is not None and container is not None
        wanted = self.rewriter.taken(lookup.wanted.span)
        asked: list[Piece] = [self.rewriter.taken(container.span), f".{_FIND}(", wanted, ")"]
        first, last = lookup.found[0], lookup.found[-1]
        if (behind := self.is_whole(lookup)) is not None:
            end = self.layout.own_lines(behind).end
            whole = Span(lookup.loop.start, end)
            self.rewriting.changes.replace(self.module.path, whole, *self.writer.returning(asked), "\n")
            self.rewriting.paths[container] = (_FIND,)
            self.rewriter.drop(
                r
                for r in self.module.references_within(whole)
                if r is not container and not (lookup.wanted.span.start <= r.start < lookup.wanted.span.end)
            )
            return
        if (above := self.kept_by(lookup)) is not None:
            whole = Span(above.start, self.layout.own_lines(last).end)
            name = next(r for r in above.references if r.mode.writes)
            self.rewriting.changes.replace(
                self.module.path, whole, self.rewriter.taken(name.span), *self.writer.assignment("", asked)[1:]
            )
            self.rewriting.paths[container] = (_FIND,)
            kept = {name, container, lookup.wanted.reference}
            self.rewriter.drop(r for r in self.module.references_within(whole) if r not in kept)
            return
        begin, end = self.layout.lines(first).start, self.layout.own_lines(last).end
        body_end = self.layout.lines(last).start if Leave.BREAK in last.leaves else end
        self.rewriting.changes.replace(
            self.module.path,
            Span(lookup.loop.start, end),
            self.rewriter.taken(item.span),
            *self.writer.assignment("", asked)[1:],
            self.writer.when_there(item.name, margin),
            self.rewriter.taken(Span(begin, body_end), dedent=unit),
        )
        self.rewriting.paths[container] = (_FIND,)
        self.rewriter.drop(self.module.references_within(lookup.asked.span))

    def kept_by(self, lookup: Lookup) -> Statement | None:
        """The statement above a lookup which only gives the record a name, or none; no comment stands in the two."""
        above = kept_name(self.module, lookup)
        if above is None or not self.layout.stands_alone(above):
            return None
        whole = Span(above.start, self.layout.own_lines(lookup.found[-1]).end)
        return None if any(whole.start <= c.start < whole.end for c in self.module.comments) else above

    def is_whole(self, lookup: Lookup) -> Statement | None:
        """The last statement of what only hands a record back, or nothing where it is not there."""
        item, behind = lookup.item.reference, lookup.next
        assert item is not None
        trees = Surroundings.of(self.module).by_statement
        given = [tree.parts[0] for tree in trees[lookup.found[0]] if tree.sense is Sense.RETURN and tree.parts]
        is_given = len(lookup.found) == 1 and any(is_named(each, item.symbol) for each in given)
        if not is_given or lookup.loop.block is not lookup.routine.body:
            return None
        end = lookup.loop if behind is None else behind
        whole = Span(lookup.loop.start, self.layout.own_lines(end).end)
        if any(whole.start <= comment.start < whole.end for comment in self.module.comments):
            return None
        if behind is None:
            return lookup.loop
        rest = [tree.parts[0] for tree in trees[behind] if tree.sense is Sense.RETURN and tree.parts]
        return behind if [each.sense for each in rest] == [Sense.NOTHING] else None


class _GatheringTable(_Gathering):
    """Who asks the table for what is under a key asks for a record; one that is not there is missed as before."""

    def __init__(self, move: GatherData, module: Module, symbol: Symbol) -> None:
        super().__init__(move, module, symbol)
        self.askings = askings(module, symbol)

    def find_objections(self) -> None:
        if not self.askings:
            at, name = self.symbol.references[0].start, self.symbol.name
            self.object(at, f"no function asks `{name}` for a record by a key that it is given", "Leave it a table.")
        super().find_objections()

    @property
    def parameter(self) -> str:
        """The key, as most of those call it who ask."""
        names = [key.reference.name for key in (a.parts[1] for a in self.askings) if key.reference is not None]
        own = {singular(self.symbol.name), self.symbol.name}
        known = [name for name in names if len(name) >= _SHORTEST_NAME and name not in own]
        return max(known, key=known.count) if known else "key"

    @property
    def found(self) -> str:
        """What is under the key, asked for as everybody did."""
        method = self.askings[0].parts[0].name if self.askings[0].sense is Sense.CALL else None
        if method is not None:
            return self.writer.call(self.writer.member(self.field, method), [self.parameter])
        return self.writer.element(self.field, self.parameter)

    def ask(self) -> list[Reference]:
        """What stands between the signs for an element becomes an argument; a method has another name."""
        asked: list[Reference] = []
        call = self.writer.call(self.writer.member("", _FIND), [""])
        for asking in self.askings:
            is_call = asking.sense is Sense.CALL
            container, key = asking.parts[0].parts[0] if is_call else asking.parts[0], asking.parts[1]
            reference = container.reference
            assert reference is not None
            self.rewriting.changes.replace(self.module.path, Span(container.end, key.start), call[:-1])
            self.rewriting.changes.replace(self.module.path, Span(key.end, asking.end), call[-1:])
            self.rewriting.paths[reference] = (_FIND,)
            asked.append(reference)
        return asked


def _by_hand(program: Program, script: Path, given: Given) -> list[GatherData]:
    class_name = given["class"] or program.dialect.naming.class_name(words_of(given["list"]))
    return [GatherData(script, given["list"], class_name)]


MOVE = Description(
    name="gather_data",
    place=11,
    summary=(
        "A list or table of records becomes a class that has all, and finds one by its key.\n"
        "Loops that look for a record ask for it. Refused where nothing looks one up."
    ),
    term="Encapsulate Collection",
    help=(
        "Make a class of a list or table of records: `all()` gives them, `find()` the one that is looked for, "
        "`add()` and `remove()` let one come and go."
    ),
    parameters=(
        StepParameter("list", Takes.ONE, "LIST"),
        StepParameter("class", Takes.OPTION, "NAME", "The class; after the list unless given."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="trams",
        before="""\
trams = [
    {"line": 7, "place": "quay"},
    {"line": 9, "place": "lock"},
]


def place(line):
    for tram in trams:
        if tram["line"] == line:
            return tram["place"]
    return "nowhere"


print(place(9), place(8), len(trams))
""",
        after={
            "harbour.py": """\
class Trams:
    def __init__(self):
        self._trams = [
            {"line": 7, "place": "quay"},
            {"line": 9, "place": "lock"},
        ]

    def all(self):
        return self._trams

    def find(self, line):
        return next((tram for tram in self._trams if tram["line"] == line), None)


trams = Trams()


def place(line):
    tram = trams.find(line)
    if tram is not None:
        return tram["place"]
    return "nowhere"


print(place(9), place(8), len(trams.all()))
""",
        },
    ),
)
