"""Which statements stand once for each of several objects of a class, and deserve to be a method of it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from aedifex.design.dividing.loop_body import DRAWING, only_draws
from aedifex.design.dividing.names_for_values import ValueNames
from aedifex.design.dividing.names_from_calls import only_says
from aedifex.design.dividing.object_blocks import ObjectBlock
from aedifex.design.dividing.object_names import ObjectNames
from aedifex.design.dividing.repeats import Occurrence, stretches
from aedifex.program.analysis.flow import writes
from aedifex.program.model.module import Module
from aedifex.program.model.names import MAIN, Mode, Scope, Symbol
from aedifex.program.model.statements import Function, Kind, Statement
from aedifex.program.structure.blocks import plain_blocks
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.run_shapes import RunShape, RunShapes
from aedifex.program.structure.state import is_state
from aedifex.source.text import Span
from aedifex.survey.kinds.objects import is_kept_object
from aedifex.survey.words import words_of

_LONGEST = 8
_FEWEST_USES = 2
_MOST_VALUES = 2


@dataclass(frozen=True)
class _Occurrence(Occurrence):
    symbol: Symbol
    shape: RunShape


def object_repeats(module: Module, scope: Scope) -> list[ObjectBlock]:
    """The runs of statements outside of a class that do with one object of it what others do with another.

    They may differ in a few plain values. The longest come first.
    """
    return list(_Finder(module, scope).find())


class _Finder:
    def __init__(self, module: Module, scope: Scope) -> None:
        self.module = module
        self.scope = scope
        self.shapes = RunShapes.of(module)
        self.layout = Layout.of(module)
        self.names = ObjectNames(module, scope)
        symbols = module.scope.symbols.values()
        self.kept = {s for s in symbols if is_kept_object(module, s, scope)}

    def find(self) -> Iterator[ObjectBlock]:
        if len(self.kept) < 2:
            return
        found = [
            (routine, run) for routine, block in plain_blocks(self.module) for run in stretches(self.module, block)
        ]
        taken: list[_Occurrence] = []
        for length in range(_LONGEST, 0, -1):
            by_text: dict[tuple[str, ...], list[_Occurrence]] = defaultdict(list)
            for one in self.of_length(length, found):
                alike = by_text[one.shape.text]
                if not any(other.lies_across(one) for other in [*alike, *taken]):
                    alike.append(one)
            for alike in by_text.values():
                if len({one.symbol for one in alike}) > 1:
                    taken += alike
                    yield from self.as_block(alike)

    def of_length(
        self, length: int, found: Sequence[tuple[Function | None, Sequence[Statement]]]
    ) -> Iterator[_Occurrence]:
        """The runs of so many statements about one object that could be a method."""
        for routine, stretch in found:
            for first in range(len(stretch) - length + 1):
                run = stretch[first : first + length]
                symbol = self.object_of(run) if all(map(self.layout.stands_alone, run)) else None
                shape = self.shapes.object_shape_of(run) if symbol is not None else None
                if symbol is not None and shape is not None:
                    yield _Occurrence(routine, run, symbol, shape)

    def object_of(self, run: Sequence[Statement]) -> Symbol | None:
        """The one object that each statement of a run is about, if the run does enough and changes no state beside."""
        used = [[r for r in self.module.references_within(s.span) if r.symbol in self.kept] for s in run]
        symbols = {r.symbol for uses in used for r in uses}
        fields = [r for uses in used for r in uses if r.path and r.path[0].name not in self.scope.symbols]
        is_enough = len(fields) >= _FEWEST_USES and len(fields) == sum(map(len, used))
        if len(symbols) != 1 or not used[0] or not (used[-1] or only_draws(self.module, run)) or not is_enough:
            return None
        is_changing = any(
            symbol.is_module_level and is_state(symbol) for symbol in writes(run) if symbol not in symbols
        )
        is_telling = all(only_says(self.module, statement) for statement in run)
        return next(iter(symbols)) if not is_changing and not is_telling else None

    def as_block(self, alike: Sequence[_Occurrence]) -> Iterator[ObjectBlock]:
        first = alike[0]
        values = self.values(alike)
        names = tuple(self.names.of(first.routine, first.run[0].block, first.run, first.symbol, has_reason=True))
        names = ("draw", *names) if self.is_drawing(first) and "draw" not in self.names.members else names
        if values:
            routine = first.routine.qualified_name if first.routine is not None else MAIN
            begin = self.module.source.line_of(first.run[0].start)
            end = self.module.source.lines_of(first.run[-1].span)[1]
            yield ObjectBlock(routine, begin, end, names, values)

    def is_drawing(self, one: _Occurrence) -> bool:
        """Whether a run of a routine that draws only tells others what there is of the object."""
        words = words_of(one.routine.name) if one.routine is not None else []
        told = (r.path_mode for s in one.run for r in self.module.references_within(s.span) if r.symbol is one.symbol)
        is_told = all(s.kind is Kind.EXPRESSION for s in one.run) and all(mode is Mode.READ for mode in told)
        return not DRAWING.isdisjoint(words) and is_told

    def values(self, alike: Sequence[_Occurrence]) -> tuple[str, ...]:
        """Names for the object and for what differs beside it; none where these cannot be named."""
        first, holes = alike[0], self.shapes.holes([one.shape for one in alike])
        slice_of = self.module.source.slice
        others = [hole for hole in holes if slice_of(first.shape.values[hole[0]]) != first.symbol.name]
        own = self.module.dialect.naming.member_name(words_of(self.scope.name))
        named = self.value_names(first, others)
        if len(others) > _MOST_VALUES or len(named) != len(others) or own in named:
            return ()
        wishes = iter(named)
        return tuple(next(wishes) if hole in others else own for hole in holes)

    def value_names(self, one: _Occurrence, holes: Sequence[Sequence[int]]) -> tuple[str, ...]:
        values: Sequence[Span] = one.shape.values
        return ValueNames(self.module).of(one.run, values, holes) if holes else ()
