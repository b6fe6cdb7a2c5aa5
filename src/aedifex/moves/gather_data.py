"""gather_data: records that are written out become a class that has them all, and finds one by its key."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.data_class import FIND, REQUIRE, DataClass, name_of
from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of, symbol_of
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Search
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.expressions import Expression, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Leave, Statement
from aedifex.source.errors import UsageError
from aedifex.source.text import Span
from aedifex.survey.lookups import (
    Askers,
    Lookup,
    askings,
    finds_nothing,
    lists_of_records,
    lone_kept_name,
    tables_of_records,
)
from aedifex.survey.missing_records import NOT_FOUND
from aedifex.survey.record_questions import RecordQuestion
from aedifex.survey.words import singular, words_of

_WITH, _BY = "with", "by"
_BY_MAIN_KEY = {Search.FIRST: (FIND,), Search.PLACE: ("index", "of"), Search.ANY: ("has",)}
_SHORTEST_NAME = 3


@dataclass(frozen=True)
class GatherData:
    """Make a class of a list of records, or of a table of them by key.

    Where `missing` is a status, handlers of requests that would fail without a record answer with that.
    """

    name: ClassVar[str] = "gather_data"

    path: Path
    variable: str
    class_name: str
    missing: str = ""

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: it is no list or table of records that is set once, or nothing looks one up.
        """
        module = module_of(program, self.path)
        symbol = symbol_of(module, self.variable)
        is_table = symbol in tables_of_records(module)
        gathering = _GatheringTable if is_table else _GatheringList
        return gathering(module, symbol, self.class_name, has_status=bool(self.missing)).plan()


class _GatheringList(DataClass):
    """Loops that look for a record ask for it."""

    is_list = True

    def __init__(self, module: Module, symbol: Symbol, class_name: str, *, has_status: bool) -> None:
        super().__init__(module, symbol, class_name, has_status=has_status)
        self.askers = Askers.of_list(module, symbol)

    def find_objections(self) -> None:
        at, name = self.symbol.references[0].start, self.symbol.name
        if self.symbol not in lists_of_records(self.module):
            reason = f"`{name}` is no list of records, or table of them, that is written out, and set once"
            self.object(at, reason, "Leave it a variable.")
        elif not self.askers.is_asked_within:
            reason = f"no function looks for records of `{name}` by a value that it is given"
            self.object(at, reason, "Leave it a list.")
        super().find_objections()

    @property
    def main_key(self) -> str:
        """The key by which most look for one record."""
        return self.askers.key

    def answers(self) -> Iterator[tuple[str, str, str]]:
        """The first record that has a value, all that have one, and the like."""
        for name, asking in self.groups.items():
            parameter, first = self.parameter_of(asking), asking[0]
            search = first.search if isinstance(first, RecordQuestion) else Search.FIRST
            yield name, parameter, self.searched(first, search, parameter)

    @cached_property
    def groups(self) -> dict[str, list[Lookup | RecordQuestion]]:
        """Those who look for records, by the method that they call; not those who require one."""
        loops, wholes = {missed.loop for missed in self.missed}, {missed.whole for missed in self.missed}
        required = {missed.container for missed in self.missed}
        found: dict[str, list[Lookup | RecordQuestion]] = {}
        if kept := [lookup for lookup in self.askers.loops if lookup.loop not in loops]:
            found[FIND] = [*kept]
        for search in Search:
            for one in (one for one in self.askers.questions if one.search is search):
                if one.whole not in wholes and one.container not in required:
                    found.setdefault(self.name_for(search, one.key), []).append(one)
        return found

    @property
    def finders(self) -> list[Lookup | RecordQuestion]:
        """Those who look for one record by the key of the most; not those who require it."""
        return self.groups.get(FIND, [])

    def name_for(self, search: Search, key: str) -> str:
        """What answers who looks for records is called after what is looked for, and the key where it is another."""
        words, joined = words_of(key), self.dialect.naming.joined
        if search is Search.ALL:
            return joined(_WITH, *words)
        if key == self.main_key:
            return joined(*_BY_MAIN_KEY[search])
        return joined(*_BY_MAIN_KEY[search], *([_BY] if search is Search.FIRST else []), *words)

    def looked_up(self, parameter: str) -> str:
        """The first record that has the value."""
        if self.finders:
            return self.writer.call(self.writer.member(self.writer.receiver, FIND), [parameter])
        ways: list[Lookup | RecordQuestion] = [*self.askers.loops, *self.askers.firsts, *self.askers.for_all]
        return self.searched(ways[0], Search.FIRST, parameter)

    def ask(self) -> list[Reference]:
        """Who looks for a record asks for it, and who looks for all of a sort for these."""
        for lookup in self.askers.loops:
            self.rewrite(lookup)
        for method, asking in self.groups.items():
            for question in (one for one in asking if isinstance(one, RecordQuestion)):
                self.put_call(question.whole.span, question.container, method, question.wanted.span)
        asked = [lookup.container for lookup in self.askers.loops]
        asked += [question.container for question in self.askers.questions]
        return [container.reference for container in asked if container.reference is not None]

    def rewrite(self, lookup: Lookup) -> None:
        """A loop that looks for a record becomes a question for it, and what is done where it is there."""
        margin, unit = self.layout.margin(lookup.loop), self.layout.indent
        item, container = lookup.item.reference, lookup.container.reference
        assert item is not None and container is not None
        wanted = self.rewriter.taken(lookup.wanted.span)
        method = FIND if lookup in self.finders else REQUIRE
        asked: list[Piece] = [self.rewriter.taken(container.span), f".{method}(", wanted, ")"]
        if (behind := self.is_whole(lookup)) is not None:
            end = self.layout.own_lines(behind).end
            whole = Span(lookup.loop.start, end)
            if (nothing := self.own_nothing(behind)) is not None:
                asked = self.writer.or_else(asked, self.module.source.slice(nothing.span))
            self.rewriting.changes.replace(self.module.path, whole, *self.writer.returning(asked), "\n")
            self.rewriting.paths[container] = (FIND,)
            self.rewriter.drop(
                r
                for r in self.module.references_within(whole)
                if r is not container and not (lookup.wanted.span.start <= r.start < lookup.wanted.span.end)
            )
            return
        if (above := lone_kept_name(self.module, lookup)) is not None:
            name = next(r for r in above.references if r.mode.writes)
            whole = Span(name.end, self.layout.own_lines(lookup.loop).end)
            self.rewriting.changes.replace(self.module.path, whole, *self.writer.assignment("", asked)[1:])
            self.rewriting.paths[container] = (method,)
            kept = {container, lookup.wanted.reference}
            self.rewriter.drop(r for r in self.module.references_within(whole) if r not in kept)
            return
        end = self.layout.own_lines(lookup.loop).end
        branch = self.writer.block_frame(self.writer.when_there(item.name), margin)
        declared = self.module.source.slice(Span(lookup.loop.start, item.start)).partition("(")[2]
        self.rewriting.changes.replace(
            self.module.path,
            Span(lookup.loop.start, end),
            declared,
            self.rewriter.taken(item.span),
            *self.writer.assignment("", asked)[1:],
            branch.head,
            *self.body_of(lookup, margin + unit),
            branch.tail,
        )
        self.rewriting.paths[container] = (FIND,)
        self.rewriter.drop(self.module.references_within(lookup.asked.span))

    def body_of(self, lookup: Lookup, margin: str) -> list[Piece]:
        """What is done with a record, in lines of its own."""
        first, last, unit = lookup.found[0], lookup.found[-1], self.layout.indent
        is_broken_off = Leave.BREAK in last.leaves
        if not self.layout.stands_alone(first):
            done = lookup.found[:-1] if is_broken_off else lookup.found
            return [piece for one in done for piece in (margin, self.rewriter.taken(one.span), "\n")]
        begin = self.layout.lines(first).start
        end = self.layout.lines(last).start if is_broken_off else self.layout.own_lines(last).end
        is_deeper = self.layout.margin(first) == margin + unit
        return [self.rewriter.taken(Span(begin, end), dedent=unit if is_deeper else "")]

    def own_nothing(self, behind: Statement) -> Expression | None:
        """The value that is given back where no record is found, if it is another than that of a search."""
        given = [t.parts[0] for t in Surroundings.of(self.module).by_statement[behind] if t.sense is Sense.RETURN]
        own = [value for value in given if value.sense is Sense.NOTHING and not finds_nothing(self.module, value)]
        return own[0] if own else None

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
        return behind if len(rest) == 1 and rest[0].sense is Sense.NOTHING else None


class _GatheringTable(DataClass):
    """Who asks the table for what is under a key asks for a record; one that is not there is missed as before."""

    def __init__(self, module: Module, symbol: Symbol, class_name: str, *, has_status: bool) -> None:
        super().__init__(module, symbol, class_name, has_status=has_status)
        self.askings = askings(module, symbol)

    def find_objections(self) -> None:
        if not self.askings:
            at, name = self.symbol.references[0].start, self.symbol.name
            self.object(at, f"no function asks `{name}` for a record by a key that it is given", "Leave it a table.")
        super().find_objections()

    @property
    def parameter(self) -> str:
        """The key, as most of those call it who ask."""
        names = [name for asking in self.askings if (name := name_of(asking.parts[1]))]
        own = {singular(self.own_name), self.own_name}
        known = [name for name in names if len(name) >= _SHORTEST_NAME and name not in own]
        return max(known, key=known.count) if known else "key"

    def answers(self) -> Iterator[tuple[str, str, str]]:
        """What is under a key, asked for as everybody did."""
        method = self.askings[0].parts[0].name if self.askings[0].sense is Sense.CALL else None
        if method is not None:
            found = self.writer.call(self.writer.member(self.field, method), [self.parameter])
        else:
            found = self.writer.element(self.field, self.parameter)
        if len(self.askings) > len(self.missed):
            yield FIND, self.parameter, found

    def looked_up(self, parameter: str) -> str:
        """What is under the key, or nothing."""
        return self.writer.looked_up(self.field, parameter)

    def ask(self) -> list[Reference]:
        """What stands between the signs for an element becomes an argument; a method has another name."""
        asked: list[Reference] = []
        call = self.writer.call(self.writer.member("", FIND), [""])
        required = {missed.whole for missed in self.missed}
        for asking in (asking for asking in self.askings if asking not in required):
            is_call = asking.sense is Sense.CALL
            container, key = asking.parts[0].parts[0] if is_call else asking.parts[0], asking.parts[1]
            reference = container.reference
            assert reference is not None
            self.rewriting.changes.replace(self.module.path, Span(container.end, key.start), call[:-1])
            self.rewriting.changes.replace(self.module.path, Span(key.end, asking.end), call[-1:])
            self.rewriting.paths[reference] = (FIND,)
            asked.append(reference)
        return asked


def _by_hand(program: Program, script: Path, given: Given) -> list[GatherData]:
    class_name = given["class"] or program.dialect.naming.class_name(words_of(given["list"]))
    if given["missing"] not in ("", None, NOT_FOUND):
        raise UsageError(f"what is missing can be answered with {NOT_FOUND} only")
    return [GatherData(script, given["list"], class_name, given["missing"] or "")]


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
        StepParameter("missing", Takes.OPTION, "404", "How handlers answer that would fail without a record."),
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
