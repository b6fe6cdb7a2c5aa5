"""Which statements stand in several places word for word, and deserve to stand in one."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from aedifex.design.dividing.names_from_calls import only_says
from aedifex.program.analysis.flow import leaves
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Block, Function, Kind, Statement
from aedifex.program.structure.blocks import plain_blocks
from aedifex.program.structure.plain_text import PlainText
from aedifex.program.structure.run_shapes import Outline, RunShapes, ShapeOf
from aedifex.source.text import Span

_LONGEST = 12
_FEWEST_LINES = 3
_FEWEST_TIMES = 3
_MOST_VALUES = 4
_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.IMPORT, Kind.DECLARE, Kind.NOTHING, Kind.ALIAS})


@dataclass(frozen=True)
class Occurrence:
    """Statements side by side, in a routine or, where that is None, in the main code."""

    routine: Function | None
    run: Sequence[Statement]

    def lies_across(self, other: Occurrence) -> bool:
        """Whether two have a statement in common."""
        return self.run[-1].end > other.run[0].start and self.run[0].start < other.run[-1].end


@dataclass(frozen=True)
class Repeat:
    """Runs that stand in several places word for word, or but for values, for which there are `holes`.

    A hole is the numbers, among the `values` of each run, of those that always have the same text.
    """

    occurrences: Sequence[Occurrence]
    holes: Sequence[Sequence[int]] = ()
    values: Sequence[Sequence[Span]] = ()


def stretches(module: Module, block: Block) -> Iterator[list[Statement]]:
    """Statements side by side that may be repeated: none defines or leaves, no blank line or comment parts them."""
    lines_of = module.source.lines_of
    stretch: list[Statement] = []
    for statement in block.statements:
        is_apart = bool(stretch) and lines_of(stretch[-1].span)[1] + 1 != lines_of(statement.span)[0]
        is_unfit = statement.kind in _DEFINING or bool(leaves([statement]))
        if is_apart or is_unfit:
            yield stretch
            stretch = []
        if not is_unfit:
            stretch.append(statement)
    yield stretch


def repeats(module: Module) -> list[Repeat]:
    """What stands in several places: the longest first, and none that lie across; what is the same to the word first.

    Three lines in two places are enough, or two in three; where values differ, only what calls something twice. The
    values are those that are written out, and in a last look all arguments that could as well be passed in.
    """
    found: list[Repeat] = []
    taken: set[Statement] = set()
    finder = _Finder(module)
    for shape_of in (None, finder.shapes.shape_of, finder.shapes.wide_shape_of):
        for length in range(_LONGEST, 0, -1):
            for occurrences in finder.of_length(length, shape_of):
                free = [one for one in occurrences if taken.isdisjoint(one.run)]
                if not finder.is_worth_it(free):
                    continue
                shapes = [shape for one in free if shape_of is not None and (shape := shape_of(one.run)) is not None]
                holes = finder.shapes.holes(shapes) if shapes else []
                if shape_of is None or finder.is_handy(free, holes):
                    taken.update(statement for one in free for statement in one.run)
                    found.append(Repeat(free, holes, [shape.values for shape in shapes]))
    return found


class _Finder:
    def __init__(self, module: Module) -> None:
        self.module = module
        self.text = PlainText.of(module)
        self.shapes = RunShapes.of(module)
        self.stretches = [
            (routine, stretch) for routine, block in plain_blocks(module) for stretch in stretches(module, block)
        ]

    def words(self, run: Sequence[Statement]) -> tuple[str, ...]:
        """The text of a run, to the word."""
        return tuple(self.text.of_statement(statement) for statement in run)

    def shape(self, run: Sequence[Statement], shape_of: ShapeOf) -> tuple[str, ...]:
        """The text of a run but for values; empty for one that has no shape, or calls less than two things."""
        calls = sum(bool(inner.calls) for statement in run for inner in statement.walk())
        shape = shape_of(run) if len(run) > 1 and calls > 1 else None
        return shape.text if shape is not None else ()

    def is_handy(self, occurrences: Sequence[Occurrence], holes: Sequence[Sequence[int]]) -> bool:
        """Whether runs do more than to tell something, and differ in few values."""
        only_tells = all(only_says(self.module, statement) for statement in occurrences[0].run)
        return 0 < len(holes) <= _MOST_VALUES and not only_tells

    def of_length(self, length: int, shape_of: ShapeOf | None) -> list[list[Occurrence]]:
        """All runs of so many statements, those with the same words or shape together; they do not overlap."""
        runs = [
            Occurrence(routine, stretch[first : first + length])
            for routine, stretch in self.stretches
            for first in range(len(stretch) - length + 1)
        ]
        outlines = [tuple(self.outline(statement, shape_of) for statement in one.run) for one in runs]
        often = Counter(outlines)
        by_text: dict[tuple[str, ...], list[Occurrence]] = defaultdict(list)
        for one in (one for one, outline in zip(runs, outlines, strict=True) if often[outline] > 1):
            key = self.shape(one.run, shape_of) if shape_of is not None else self.words(one.run)
            if key and not any(other.lies_across(one) for other in by_text[key]):
                by_text[key].append(one)
        return [occurrences for occurrences in by_text.values() if len(occurrences) > 1]

    def outline(self, statement: Statement, shape_of: ShapeOf | None) -> Outline:
        """What two statements certainly have alike that are the same but for values."""
        kinds, names, values = self.shapes.outline(statement)
        return (kinds, 0, 0) if shape_of == self.shapes.wide_shape_of else (kinds, names, values)

    def is_worth_it(self, occurrences: Sequence[Occurrence]) -> bool:
        """Whether one method in place of all of them shortens the script enough to be worth reading."""
        if len(occurrences) < 2:
            return False
        lines = sum(self.text.of_statement(statement).count("\n") + 1 for statement in occurrences[0].run)
        return lines >= _FEWEST_LINES or (lines == _FEWEST_LINES - 1 and len(occurrences) >= _FEWEST_TIMES)
