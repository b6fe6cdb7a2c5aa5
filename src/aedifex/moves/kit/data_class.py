"""The class that a list or table of records becomes: it has them all, and answers who asks for some."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cached_property

from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Renamed
from aedifex.moves.kit.top_of_file import TopOfFile
from aedifex.program.analysis.values import OnlyValue, only_value
from aedifex.program.dialect.handling import Handling
from aedifex.program.dialect.library import Refusal
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.structure.obstacles import variable_obstacles
from aedifex.source.text import Span
from aedifex.survey.lookups import Deed
from aedifex.survey.missing_records import missed_records
from aedifex.survey.words import singular

ALL, FIND, REQUIRE = "all", "find", "require"
_KEY = "key"
_DEEDS = {Handling.ADDS: "add", Handling.COMPARES: "remove"}


class DataClass(Planner):
    """Writes the class, and lets everybody ask it for all records who does not look for one."""

    def __init__(self, module: Module, symbol: Symbol, class_name: str, *, has_status: bool = False) -> None:
        super().__init__(module)
        self.symbol = symbol
        self.class_name = class_name
        self.has_status = has_status
        self.missed = missed_records(module, symbol) if has_status else []

    def find_objections(self) -> None:
        """Object to what cannot be a class of data."""
        at = self.symbol.references[0].start
        for obstacle in variable_obstacles(self.module, self.symbol):
            self.object(*obstacle)
        if self.class_name in self.module.names_in_use:
            self.object(at, f"the name `{self.class_name}` is in use already", "Choose another.")
        if self.has_status and (not self.missed or self.refusal is None):
            reason = f"no handler of requests fails where `{self.symbol.name}` does not have what it asks for"
            self.object(at, reason, "Take `missing` out.")
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
        return self.writer.member(self.writer.receiver, self.dialect.naming.sealed(self.own_name))

    @property
    def own_name(self) -> str:
        """The variable's name, as those of fields are spelled."""
        return self.dialect.naming.as_field(self.symbol.name)

    @cached_property
    def refusal(self) -> Refusal | None:
        """How a handler answers that there is no such record."""
        return self.dialect.library.says_not_found(self.module.imported)

    def looked_up(self, parameter: str) -> str:
        """The expression that gives a record, or no value."""
        raise NotImplementedError

    def answers(self) -> Iterator[tuple[str, str, str]]:
        """The methods that answer who looks for records: the name, the parameter, and the expression given back."""
        raise NotImplementedError

    def ask(self) -> list[Reference]:
        """Let those who look for a record ask for it, and tell where they named the variable."""
        raise NotImplementedError

    def write(self) -> None:
        """Put the class where the records are written out, and let everybody ask it."""
        statement, value = self.given.statement, self.given.value
        lines = self.layout.lines(statement)
        asked = [*self.require(), *self.ask(), *self.do()]
        if self.missed and self.refusal is not None:
            TopOfFile(self.module, self.rewriter).bring(self.refusal.imported)
        others = [r for r in self.symbol.references if not r.mode.writes and r not in asked]
        records = self.rewriter.taken(value.span, indent=self.layout.indent * 2)
        pieces = self.class_text(records, has_all=bool(others))
        target = self.rewriter.taken(Span(lines.start, self.symbol.bindings[0].end))
        made = [*self.writer.assignment("", [self.writer.call(self.class_name, [])])[1:-1]]
        behind = [*self.rewriter.comment_behind(statement), "\n"]
        whole = [self.layout.gap_before(lines.start), *pieces, self.layout.gap, target, *made, *behind]
        self.rewriting.changes.replace(self.module.path, lines, *whole)
        for reference in others:
            everything = self.writer.call(self.writer.member(reference.name, ALL), [])
            self.rewriter.replace(reference, everything, Renamed(reference.name))

    @property
    def deeds(self) -> Sequence[Deed]:
        """The statements that put one record in, or take one out."""
        return ()

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

    def require(self) -> list[Reference]:
        """Let handlers that fail without a record require it, and tell where they named the variable."""
        done: list[Reference] = []
        call = self.writer.call(self.writer.member("", REQUIRE), [""])
        for missed in (missed for missed in self.missed if missed.loop is None):
            container = missed.container.reference
            assert container is not None
            taken, wanted = self.rewriter.taken(missed.container.span), self.rewriter.taken(missed.wanted.span)
            self.rewriting.changes.replace(self.module.path, missed.whole.span, taken, call[:-1], wanted, call[-1:])
            self.rewriting.paths[container] = (REQUIRE,)
            inside = self.module.references_within(missed.wanted.span)
            gone = self.module.references_within(missed.whole.span)
            self.rewriter.drop(r for r in gone if r is not container and r not in inside)
            done.append(container)
        return done

    def requiring(self) -> Iterator[Piece]:
        """The method that gives a record, or ends the request where there is none."""
        if not self.missed or self.refusal is None:
            return
        unit, writer, parameter = self.layout.indent, self.writer, self.required_name
        frame, item = writer.method_frame(REQUIRE, [parameter], unit, unit), self.item_beside(parameter)
        yield from ("\n", frame.head, unit * 2, *writer.assignment(item, [self.looked_up(parameter)]))
        yield from (writer.when_missing(item, unit * 2), unit * 3, self.refusal.statement, "\n")
        yield from (unit * 2, *writer.returning([item]), "\n", frame.tail)

    @property
    def required_name(self) -> str:
        """What handlers call the record that they require."""
        names = [m.wanted.reference.name for m in self.missed if m.wanted.reference is not None]
        own = {singular(self.own_name), self.own_name}
        return next((name for name in names if name not in own), _KEY)

    @property
    def item(self) -> str:
        """One of the records."""
        word = singular(self.own_name)
        return word if word != self.own_name else self.dialect.naming.joined("one", word)

    def item_beside(self, parameter: str) -> str:
        """One of the records, where a parameter has a name."""
        return self.item if self.item != parameter else self.dialect.naming.joined("one", self.item)

    def class_text(self, records: Piece, *, has_all: bool) -> list[Piece]:
        """The class: the records, all of them where somebody asks for that, and the answers."""
        unit, writer = self.layout.indent, self.writer
        made = writer.constructor_frame([], unit, unit)
        everything, giving = writer.method_frame(ALL, [], unit, unit), writer.returning([self.field])
        answers: list[Piece] = []
        for name, parameter, found in self.answers():
            frame = writer.method_frame(name, [parameter], unit, unit)
            answers += ["\n", frame.head, unit * 2, *writer.returning([found]), "\n", frame.tail]
        whole = writer.class_frame(self.class_name, "", unit)
        return [
            whole.head,
            *(made.head, unit * 2, *writer.assignment(self.field, [records]), made.tail),
            *(("\n", everything.head, unit * 2, *giving, "\n", everything.tail) if has_all else ()),
            *(*answers, *self.requiring(), *self.deed_texts(), whole.tail),
        ]
