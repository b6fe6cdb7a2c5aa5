"""What puts records into a class of data, and takes them out."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cached_property
from typing import TYPE_CHECKING

from aedifex.program.dialect.handling import Handling, Search
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.names import Reference
from aedifex.source.text import Span
from aedifex.survey.record_deeds import FIRST, ONE, Cut, Deed, Removal, cuts, deeds, removals
from aedifex.survey.words import words_of

if TYPE_CHECKING:
    from aedifex.moves.kit.data_class import DataClass

ADD, REMOVE, _AT, _BY = "add", "remove", "at", "by"
_PLACE = "index"
_DEEDS = {Handling.ADDS: ADD, Handling.COMPARES: REMOVE}


class DataChanges:
    """Those who put a record in or take one out say so; and the methods that do it."""

    def __init__(self, data: DataClass) -> None:
        self.data = data
        self.module, self.rewriter, self.writer = data.module, data.rewriter, data.writer
        self.naming = data.dialect.naming

    @cached_property
    def deeds(self) -> Sequence[Deed]:
        """The statements that put one record in, or take one out that is given."""
        return deeds(self.module, self.data.symbol) if self.data.is_list else ()

    @cached_property
    def removals(self) -> Sequence[Removal]:
        """The statements that let go what has a value."""
        return removals(self.module, self.data.symbol) if self.data.is_list else ()

    @cached_property
    def cuts(self) -> Sequence[Cut]:
        """The calls that take a record out by its place."""
        return [*cuts(self.module, self.data.symbol)] if self.data.is_list else ()

    def rewrite(self) -> list[Reference]:
        """Let all of them say so, and tell where they named the variable."""
        done = [self.do(deed) for deed in self.deeds]
        done += [self.remove(removal) for removal in self.removals]
        return done + [self.cut(cut) for cut in self.cuts]

    def do(self, deed: Deed) -> Reference:
        """Another method is called."""
        reference, name = deed.container.reference, _DEEDS[deed.handling]
        assert reference is not None
        change = self.data.rewriting.changes.replace
        change(self.module.path, Span(deed.container.end, deed.method.end), self.writer.member("", name))
        self.data.rewriting.paths[reference] = (name,)
        return reference

    def remove(self, removal: Removal) -> Reference:
        """A statement that binds the variable again becomes a call."""
        question = removal.question
        return self.data.put_call(removal.statement.span, question.container, self.removing, question.wanted.span)

    def cut(self, cut: Cut) -> Reference:
        """The number of records goes without saying."""
        whole = cut.whole if self.gives_record else cut.call
        return self.data.put_call(whole.span, cut.container, self.cutting, cut.place.span)

    @property
    def removing(self) -> str:
        """The method that lets go what has a value."""
        key = self.removals[0].question.key
        is_taken = any(deed.handling is Handling.COMPARES for deed in self.deeds)
        is_main = key == self.data.main_key or not self.data.main_key
        return REMOVE if is_main and not is_taken else self.naming.joined(REMOVE, _BY, *words_of(key))

    @property
    def cutting(self) -> str:
        """The method that takes out what is at a place."""
        return self.naming.joined(REMOVE, _AT)

    @property
    def gives_record(self) -> bool:
        """Whether all who want something of the method want the record itself."""
        return any(cut.is_used for cut in self.cuts) and all(cut.gives_record for cut in self.cuts if cut.is_used)

    def methods(self) -> Iterator[Piece]:
        """The methods, as far as somebody needs them."""
        item, field, writer = self.data.item, self.data.field, self.writer
        for handling, method in {deed.handling: deed.method.name or "" for deed in self.deeds}.items():
            yield from self.method(
                _DEEDS[handling], item, [writer.ended(writer.call(writer.member(field, method), [item])), "\n"]
            )
        if self.removals:
            question = self.removals[0].question
            asked = self.data.parameter_of([removal.question for removal in self.removals])
            left = self.data.searched(question, Search.ALL, asked)
            yield from self.method(self.removing, asked, writer.assignment(field, [left]))
        if self.cuts:
            yield from self.cutting_method()

    def cutting_method(self) -> Iterator[Piece]:
        """The method that takes out what is at a place."""
        named = [cut.place.reference.name for cut in self.cuts if cut.place.reference is not None]
        place, method = max(named, key=named.count) if named else _PLACE, self.cuts[0].method.name or ""
        taken = self.writer.call(self.writer.member(self.data.field, method), [place, ONE])
        given = self.writer.element(taken, FIRST) if self.gives_record else taken
        is_used = any(cut.is_used for cut in self.cuts)
        done = self.writer.returning([given]) if is_used else [self.writer.ended(taken)]
        yield from self.method(self.cutting, place, [*done, "\n"])

    def method(self, name: str, parameter: str, body: Sequence[Piece]) -> Iterator[Piece]:
        """A method that does one thing."""
        unit = self.data.layout.indent
        frame = self.writer.method_frame(name, [parameter], unit, unit)
        yield from ("\n", frame.head, unit * 2, *body, frame.tail)
