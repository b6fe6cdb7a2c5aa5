"""label: rows of one length become tables, with a key for each place."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.member_access import MemberAccess
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import only_value, plainly_given
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.kinds.loop_names import item_name
from aedifex.survey.kinds.records import container_of
from aedifex.survey.kinds.rows import RowKind, Unpacking, row_kinds


@dataclass(frozen=True)
class Label:
    """Make tables of the rows that `holder` holds, with `keys` for their places in order."""

    name: ClassVar[str] = "label"

    path: Path
    holder: str
    keys: tuple[str, ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: nothing of that name holds rows that are only asked for their places.
        """
        module = module_of(program, self.path)
        kinds = row_kinds(module)
        kind = next((kind for kind in kinds if self.holder in kind.holders), None)
        if kind is None:
            held = ", ".join(f"`{kind.holders[0]}`" for kind in kinds if kind.holders)
            raise RefusedError(
                f"{module.path.name} has no rows that `{self.holder}` holds and only asks for their places",
                advice=f"Rows are held by {held}." if held else "There are none in it.",
            )
        return _Labelling(self, module, kind).plan()


class _Labelling(Planner):
    def __init__(self, move: Label, module: Module, kind: RowKind) -> None:
        super().__init__(module)
        self.move = move
        self.kind = kind
        self.access = MemberAccess(self.rewriter)
        self.surroundings = Surroundings.of(module)

    def find_objections(self) -> None:
        at = self.kind.rows[0].start
        if len(set(self.move.keys)) != self.kind.length:
            self.object(at, f"these rows have {self.kind.length} places", "Give each place a name of its own.")
        for row in self.kind.rows:
            if row.sense is Sense.TUPLE and self.module.source.slice(row.span)[:1] != "(":
                self.object(row.start, "this row stands without brackets", "Put it into brackets.")

    def write(self) -> None:
        for row in self.kind.rows:
            self.write_row(row)
        for part in self.kind.asked:
            name = self.move.keys[self.kind.place(part)]
            self.replace(part.parts[1].span, self.writer.plain_text(name))
            self.access.tell(part, name)
        for target in self.kind.unpacked:
            self.write_unpacked(Unpacking(self.surroundings, target))
        self.drop_numbers()

    def drop_numbers(self) -> None:
        """Names of numbers that only rows were asked with go, with the statements that give them."""
        asked = {name for part in self.kind.asked if (name := part.parts[1].reference) is not None}
        self.rewriter.drop(asked)
        settled = [value for name in asked if (value := only_value(name.symbol)) is not None]
        for statement in {value.statement for value in settled}:
            given = plainly_given(statement)
            elsewhere = {r for symbol in given for r in symbol.references if r.statement is not statement} - asked
            is_known = any(self.module.is_known_outside(symbol.name) for symbol in given)
            if given and not elsewhere and not is_known and self.layout.stands_alone(statement):
                self.rewriter.drop(statement.references)
                self.rewriter.remove(self.layout.lines(statement))

    def write_unpacked(self, unpacking: Unpacking) -> None:
        """Each name gets what stands under its key; in a loop that is asked for in its place, or above it all."""
        row, loop, target, uses = unpacking.row, unpacking.loop, unpacking.target, unpacking.uses
        if row is not None and row.reference is not None:
            first, *others = (self.element(row.reference.name, key) for key in self.move.keys)
            self.rewriter.insert(row.end, first.removeprefix(row.reference.name), *(f", {other}" for other in others))
            self.rewriting.paths[row.reference] = (self.move.keys[0],)
            return
        item = item_name(self.module, unpacking.names[0].scope, container_of(self.move.holder).rpartition(".")[2])
        self.replace(target.span, item)
        self.rewriter.drop(unpacking.names)
        if uses is not None:
            keys = dict(zip((name.symbol for name in unpacking.names), self.move.keys, strict=True))
            for use in uses:
                self.replace(use.span, self.element(item, keys[use.symbol]))
            self.rewriter.drop(uses)
        elif loop is not None:
            inner = loop.blocks[0].statements[0]
            values = ", ".join(self.element(item, key) for key in self.move.keys)
            line = self.writer.variable(", ".join(name.name for name in unpacking.names), [values])
            self.rewriter.insert(self.layout.lines(inner).start, self.layout.margin(inner), *line)

    def element(self, row: str, key: str) -> str:
        return self.writer.element(row, self.writer.plain_text(key))

    def replace(self, span: Span, text: str) -> None:
        self.rewriting.changes.replace(self.module.path, span, text)

    def write_row(self, row: Expression) -> None:
        """The values stay where they are, each behind its key."""
        frame = self.writer.table_frame()
        self.replace(Span(row.start, row.start + 1), frame.head)
        self.replace(Span(row.end - 1, row.end), frame.tail)
        for name, value in zip(self.move.keys, row.parts, strict=True):
            self.rewriter.insert(value.start, self.writer.under_key(self.writer.plain_text(name)))


def _by_hand(program: Program, script: Path, given: Given) -> list[Label]:
    return [Label(script, given["holder"], tuple(given["keys"]))]


MOVE = Description(
    name="label",
    place=4,
    summary=(
        "Rows of one length become tables, with a key for each place.\n"
        "Refused where a row is counted or shown, or asked by a number that varies."
    ),
    term="Replace Array with Object",
    help="Make tables of rows that are asked for their places by plain numbers, so that `records` understands them.",
    parameters=(
        StepParameter("keys", Takes.MANY, "KEY..."),
        StepParameter("holder", Takes.NEEDED, "NAME", "What holds them, as kite or kites[]."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="x height --holder kites[]",
        before="""\
kites = [[3, 10], [5, 2]]

for kite in kites:
    kite[1] += 1
    print(kite[0], kite[1])
""",
        after={
            "harbour.py": """\
kites = [{"x": 3, "height": 10}, {"x": 5, "height": 2}]

for kite in kites:
    kite["height"] += 1
    print(kite["x"], kite["height"])
""",
        },
    ),
)
