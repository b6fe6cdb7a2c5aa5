"""gather_data: a list of records that is written out becomes a class that has them all, and finds one by its key."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of, symbol_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Renamed, Rewriting
from aedifex.program.analysis.values import OnlyValue, only_value
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Leave
from aedifex.program.structure.obstacles import variable_obstacles
from aedifex.source.text import Span
from aedifex.survey.lookups import Lookup, lists_of_records, lookups
from aedifex.survey.words import singular, words_of

_ALL, _FIND = "all", "find"


@dataclass(frozen=True)
class GatherData:
    """Make a class of a list of records."""

    name: ClassVar[str] = "gather_data"

    path: Path
    variable: str
    class_name: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: it is no list of records that is set once, or nothing looks one up.
        """
        return _Gathering(self, module_of(program, self.path)).plan()


class _Gathering(Planner):
    def __init__(self, move: GatherData, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.symbol = symbol_of(module, move.variable)
        self.lookups = lookups(module, self.symbol)

    def find_objections(self) -> None:
        at, name = self.symbol.references[0].start, self.symbol.name
        if self.symbol not in lists_of_records(self.module):
            self.object(at, f"`{name}` is no list of records that is written out, and set once", "Leave it a variable.")
        elif not self.lookups:
            reason = f"no loop of a function looks for one record of `{name}` by a value that it is given"
            self.object(at, reason, "Leave it a list.")
        for obstacle in variable_obstacles(self.module, self.symbol):
            self.object(*obstacle)
        if self.move.class_name in self.module.names_in_use:
            self.object(at, f"the name `{self.move.class_name}` is in use already", "Choose another.")
        only = only_value(self.symbol)
        if only is not None and not self.layout.stands_alone(only.statement):
            self.object(at, "this shares its line with another statement", "Break the line.")

    @property
    def given(self) -> OnlyValue:
        only = only_value(self.symbol)
        assert only is not None  # else it is objected to
        return only

    @property
    def field(self) -> str:
        """The field that has the records."""
        return self.writer.member(self.writer.receiver, self.dialect.naming.sealed(self.symbol.name))

    def write(self) -> None:
        statement, value = self.given.statement, self.given.value
        lines = self.layout.lines(statement)
        pieces = self.class_text(self.rewriter.taken(value.span, indent=self.layout.indent * 2))
        target = self.rewriter.taken(Span(lines.start, self.symbol.bindings[0].end))
        made = [*self.writer.assignment("", [self.writer.call(self.move.class_name, [])])[1:-1]]
        behind = [*self.rewriter.comment_behind(statement), "\n"]
        whole = [self.layout.gap_before(lines.start), *pieces, self.layout.gap, target, *made, *behind]
        self.rewriting.changes.replace(self.module.path, lines, *whole)
        for lookup in self.lookups:
            self.rewrite(lookup)
        done = {id(lookup.container.reference) for lookup in self.lookups}
        for reference in self.symbol.references:
            if not reference.mode.writes and id(reference) not in done:
                everything = self.writer.call(self.writer.member(reference.name, _ALL), [])
                self.rewriter.replace(reference, everything, Renamed(reference.name))

    def class_text(self, records: Piece) -> list[Piece]:
        """The class: the records, all of them, one of them."""
        unit, writer, first = self.layout.indent, self.writer, self.lookups[0]
        made = writer.constructor_frame([], unit, unit)
        everything = writer.method_frame(_ALL, [], unit, unit)
        one = writer.method_frame(_FIND, [self.parameter], unit, unit)
        item = self.item
        asked, wanted = f"{item}{first.key}", self.parameter
        condition = writer.are_equal(asked, wanted) if first.is_first else writer.are_equal(wanted, asked)
        found = writer.first_where(item, self.field, condition)
        whole = writer.class_frame(self.move.class_name, "", unit)
        return [
            whole.head,
            *(made.head, unit * 2, *writer.assignment(self.field, [records]), made.tail, "\n"),
            *(everything.head, unit * 2, *writer.returning([self.field]), "\n", everything.tail, "\n"),
            *(one.head, unit * 2, *writer.returning([found]), "\n", one.tail, whole.tail),
        ]

    @property
    def parameter(self) -> str:
        """What is looked for, as most of those call it who do."""
        names = [one.wanted.reference.name for one in self.lookups if one.wanted.reference is not None]
        key = words_of(self.lookups[0].key)
        return max(names, key=names.count) if names else self.dialect.naming.joined("the", *key)

    @property
    def item(self) -> str:
        """One of the records."""
        word = singular(self.symbol.name)
        name = word if word != self.symbol.name else self.dialect.naming.joined("one", word)
        return name if name != self.parameter else self.dialect.naming.joined("one", name)

    def rewrite(self, lookup: Lookup) -> None:
        """A loop that looks for a record becomes a question for it, and what is done where it is there."""
        margin, unit = self.layout.margin(lookup.loop), self.layout.indent
        item, container = lookup.item.reference, lookup.container.reference
        assert item is not None and container is not None
        wanted = self.rewriter.taken(lookup.wanted.span)
        asked: list[Piece] = [self.rewriter.taken(container.span), f".{_FIND}(", wanted, ")"]
        first, last = lookup.found[0], lookup.found[-1]
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


def _by_hand(program: Program, script: Path, given: Given) -> list[GatherData]:
    class_name = given["class"] or program.dialect.naming.class_name(words_of(given["list"]))
    return [GatherData(script, given["list"], class_name)]


MOVE = Description(
    name="gather_data",
    place=11,
    summary=(
        "A list of records becomes a class that has them all, and finds one by its key.\n"
        "Loops that look for a record ask for it. Refused where nothing looks one up."
    ),
    term="Encapsulate Collection",
    help="Make a class of a list of records: `all()` gives them, `find()` the one that loops look for.",
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
