"""What runs of statements have alike that differ in plain values and in the names of their own variables."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.steady_values import SteadyValues, is_plain_value
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import is_settled, only_value
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Symbol
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.plain_text import PlainText
from aedifex.source.text import Span

_OPAQUE = frozenset({Kind.CHOICE, Kind.ROUTINE, Kind.CLASS, Kind.IMPORT, Kind.DECLARE})
_VALUE, _NAME = "\0", "\1"


Outline = tuple[tuple[Kind, ...], int, int]
"""The kinds of a statement and of those in it, and how many names and plain values stand in them."""


@dataclass(frozen=True)
class RunShape:
    """The text of a run with marks for its plain values and for its own variables, and those values in their order."""

    text: tuple[str, ...]
    values: tuple[Span, ...]


ShapeOf = Callable[[Sequence[Statement]], RunShape | None]
"""What tells the shape of a run, where it has one."""


class RunShapes(Analysis):
    """Tells the shapes of runs of one file: runs of one shape do the same with other values.

    The values are those that are written out, or all arguments that could as well be passed in: a wide shape. Or they
    are those that are written out, and the objects of the script's classes that variables always hold.
    """

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.plain = PlainText.of(module)
        self._outlines: dict[Statement, Outline] = {}
        self._values: dict[Statement, list[Expression]] = {}
        for tree in Surroundings.of(module).trees:
            for expression in _plain_values(tree):
                if expression.statement is not None:
                    self._values.setdefault(expression.statement, []).append(expression)

    def outline(self, statement: Statement) -> Outline:
        """What two statements of one shape certainly have alike, and what is soon told."""
        if statement not in self._outlines:
            inner = tuple(inner.kind for inner in statement.walk())
            named = len(self.module.references_within(statement.span))
            self._outlines[statement] = (inner, named, len(self._values_in(statement)))
        return self._outlines[statement]

    def _values_in(self, statement: Statement) -> list[Span]:
        return [e.span for inner in statement.walk() for e in self._values.get(inner, ())]

    def wide_shape_of(self, run: Sequence[Statement]) -> RunShape | None:
        """The shape of statements of which all arguments that can be passed in count as values; None for others."""
        steady = SteadyValues.of(self.module).in_run(run)
        return self._shaped(run, [expression.span for expression in steady]) if steady is not None else None

    def shape_of(self, run: Sequence[Statement]) -> RunShape | None:
        """The shape of some statements side by side; None for those that define something or share their lines."""
        return self._shaped(run, [span for statement in run for span in self._values_in(statement)])

    def object_shape_of(self, run: Sequence[Statement]) -> RunShape | None:
        """The shape of statements of which the objects count as values, and what is new in them as their own."""
        places = [span for statement in run for span in self._values_in(statement)]
        used = [r for statement in run for r in self.module.references_within(statement.span)]
        return self._shaped(run, [*places, *(r.span for r in used if r.symbol in self._objects)], self._begun(run))

    @cached_property
    def _objects(self) -> set[Symbol]:
        """The variables of the module that always hold the same object of a class of the script."""
        found: set[Symbol] = set()
        for symbol in self.module.scope.symbols.values():
            only = only_value(symbol) if is_settled(symbol) else None
            call = only.call if only is not None else None
            if call is not None and call.callee is not None and call.callee.symbol.forms == {Form.CLASS}:
                found.add(symbol)
        return found

    def _begun(self, run: Sequence[Statement]) -> dict[Symbol, int]:
        """The variables that a run begins, and nothing before it knows, numbered in the order of the text."""
        found: dict[Symbol, int] = {}
        for reference in (r for statement in run for r in self.module.references_within(statement.span)):
            symbol = reference.symbol
            is_new = symbol not in found and symbol.references[0] is reference and reference.mode is Mode.WRITE
            if is_new and not reference.path:
                found[symbol] = len(found)
        return found

    def _shaped(
        self, run: Sequence[Statement], places: Sequence[Span], begun: Mapping[Symbol, int] | None = None
    ) -> RunShape | None:
        if any(inner.kind in _OPAQUE for statement in run for inner in statement.walk()):
            return None
        numbers = begun if begun is not None else self._own(run)
        texts: list[str] = []
        values: list[Span] = []
        for statement in run:
            inside = [span for span in places if statement.start <= span.start < statement.end]
            named = [r for r in self.module.references_within(statement.span) if r.symbol in numbers]
            named = [r for r in named if not any(span.holds(r.span) for span in inside)]
            marks = [(reference.span, f"{_NAME}{numbers[reference.symbol]}") for reference in named]
            marks += [(span, _VALUE) for span in inside]
            text = self.plain.with_marks(statement, sorted(marks))
            if not text:
                return None
            texts.append(text)
            values += sorted(inside)
        return RunShape(tuple(texts), tuple(values))

    def _own(self, run: Sequence[Statement]) -> dict[Symbol, int]:
        """The variables that only the run knows, numbered in the order of the text."""
        found: dict[Symbol, int] = {}
        start, end = run[0].start, run[-1].end
        for statement in run:
            for reference in self.module.references_within(statement.span):
                symbol = reference.symbol
                if symbol not in found and all(start <= r.start < end for r in symbol.references):
                    found[symbol] = len(found)
        return found

    def holes(self, shapes: Sequence[RunShape]) -> list[list[int]]:
        """The places at which runs of one shape have different values, those that always have the same together."""
        slice_of = self.module.source.slice
        by_texts: dict[tuple[str, ...], list[int]] = {}
        for place in range(len(shapes[0].values)):
            texts = tuple(slice_of(shape.values[place]) for shape in shapes)
            if len(set(texts)) > 1:
                by_texts.setdefault(texts, []).append(place)
        return list(by_texts.values())


def _plain_values(tree: Expression) -> Iterator[Expression]:
    """The plain values of an expression that stand in no template."""
    waiting = [tree]
    while waiting:
        expression = waiting.pop()
        if is_plain_value(expression):
            yield expression
        elif expression.sense is not Sense.TEXT:
            waiting += expression.parts
