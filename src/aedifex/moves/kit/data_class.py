"""The class that a list or table of records becomes: it has them all, and answers who asks for some."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cached_property

from aedifex.moves.kit.data_changes import DataChanges
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Renamed
from aedifex.moves.kit.top_of_file import TopOfFile
from aedifex.program.analysis.values import OnlyValue
from aedifex.program.dialect.handling import Search
from aedifex.program.dialect.library import Refusal
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.structure.obstacles import variable_obstacles
from aedifex.source.text import Span
from aedifex.survey.lookups import Lookup
from aedifex.survey.missing_records import missed_records
from aedifex.survey.record_deeds import kept_value
from aedifex.survey.record_questions import RecordQuestion
from aedifex.survey.words import singular, words_of

ALL, FIND, REQUIRE = "all", "find", "require"
_KEY = "key"
_NOT_FOUND = "Not Found"


class DataClass(Planner):
    """Writes the class, and lets everybody ask it for all records who does not look for one."""

    is_list = False

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
        only = self.only
        if only is not None and not self.layout.stands_alone(only.statement):
            self.object(at, "this shares its line with another statement", "Break the line.")

    @property
    def given(self) -> OnlyValue:
        """The records as they are written out."""
        assert self.only is not None  # else it is objected to
        return self.only

    @cached_property
    def only(self) -> OnlyValue | None:
        """Where the variable is set, if it keeps what it is given."""
        return kept_value(self.module, self.symbol)

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

    @property
    def main_key(self) -> str:
        """The key by which most look for a record of a list."""
        return ""

    def parameter_of(self, asking: Sequence[Lookup | RecordQuestion]) -> str:
        """What is looked for, as most of those call it who do."""
        own = {singular(self.own_name), self.own_name, self.symbol.name}
        names = [name for one in asking if (name := name_of(one.wanted)) and name not in own]
        key = self.dialect.naming.joined(*words_of(asking[0].key))
        if self.dialect.rules.is_taken(key):
            key = self.dialect.naming.joined("the", key)
        return max(names, key=names.count) if names else key

    def searched(self, asking: Lookup | RecordQuestion, search: Search, parameter: str) -> str:
        """What is found of the records by comparing each with a value, as somebody does."""
        item = self.item_beside(parameter)
        asked = f"{item}{asking.key}"
        left, right = (asked, parameter) if asking.is_first else (parameter, asked)
        return self.writer.searched(search, item, self.field, f"{left} {asking.sign} {right}")

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
        asked = [*self.require(), *self.ask(), *self.changes.rewrite()]
        if self.missed and self.refusal is not None:
            if self.refusal.imported is not None:
                TopOfFile(self.module, self.rewriter).bring(self.refusal.imported)
        others = [r for r in self.symbol.references if not r.mode.writes and r not in asked]
        records = self.rewriter.taken(value.span, indent=self.layout.indent * 2)
        pieces = self.class_text(records, has_all=bool(others))
        target = self.rewriter.taken(Span(lines.start, self.given.pair.target.end))
        made = [*self.writer.assignment("", self.writer.creation(self.class_name, []))[1:-1]]
        behind = [*self.rewriter.comment_behind(statement), "\n"]
        whole = [self.layout.gap_before(lines.start), *pieces, self.layout.gap, target, *made, *behind]
        self.rewriting.changes.replace(self.module.path, lines, *whole)
        for reference in others:
            everything = self.writer.call(self.writer.member(reference.name, ALL), [])
            self.rewriter.replace(reference, everything, Renamed(reference.name))

    @cached_property
    def changes(self) -> DataChanges:
        """What puts records in, or takes them out, and the methods for that."""
        return DataChanges(self)

    def require(self) -> list[Reference]:
        """Let handlers that fail without a record require it, and tell where they named the variable."""
        asking = (missed for missed in self.missed if missed.loop is None)
        return [self.put_call(m.whole.span, m.container, REQUIRE, m.wanted.span) for m in asking]

    def put_call(self, whole: Span, container: Expression, method: str, given: Span) -> Reference:
        """Put a call of a method in the place of some text, and tell where it names the variable.

        What it is given stands in that text, as does the variable; all other names in it go.
        """
        reference, taken = container.reference, self.rewriter.taken
        assert reference is not None
        call = self.writer.call(self.writer.member("", method), [""])
        pieces = (taken(container.span), call[:-1], taken(given), call[-1:])
        self.rewriting.changes.replace(self.module.path, whole, *pieces)
        self.rewriting.paths[reference] = (method,)
        kept = {reference, *self.module.references_within(given)}
        self.rewriter.drop(r for r in self.module.references_within(whole) if r not in kept)
        return reference

    def requiring(self) -> Iterator[Piece]:
        """The method that gives a record, or ends the request where there is none."""
        if not self.missed or self.refusal is None:
            return
        unit, writer, parameter = self.layout.indent, self.writer, self.required_name
        frame, item = writer.method_frame(REQUIRE, [parameter], unit, unit), self.item_beside(parameter)
        yield from ("\n", frame.head, unit * 2, *writer.variable(item, [self.looked_up(parameter)]))
        missing = writer.block_frame(writer.when_missing(item), unit * 2)
        said = writer.ended(self.refusal.statement.format(text=writer.plain_text(_NOT_FOUND)))
        yield from (missing.head, unit * 3, said, "\n", missing.tail)
        yield from (unit * 2, *writer.returning([item]), "\n", frame.tail)

    @property
    def required_name(self) -> str:
        """What handlers call the record that they require."""
        names = [name for missed in self.missed if (name := name_of(missed.wanted))]
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
        whole, name = writer.class_frame(self.class_name, "", unit), self.dialect.naming.sealed(self.own_name)
        declared = (unit, writer.field_declared(name), "\n\n") if self.dialect.naming.is_declared(name) else ()
        return [
            *(whole.head, *declared),
            *(made.head, unit * 2, *writer.assignment(self.field, [records]), made.tail),
            *(("\n", everything.head, unit * 2, *giving, "\n", everything.tail) if has_all else ()),
            *(*answers, *self.requiring(), *self.changes.methods(), whole.tail),
        ]


def name_of(value: Expression) -> str:
    """What a value is called, if it is that of a variable or a member; empty for any other."""
    if value.sense is Sense.MEMBER:
        return value.name or ""
    return value.reference.name if value.sense is Sense.NAME and value.reference is not None else ""
