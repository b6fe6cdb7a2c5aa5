"""What `survey` says of kinds: how many things there are of one shape, how they are stored, and what hinders."""

from __future__ import annotations

from dataclasses import dataclass

from aedifex.program.model.module import Module
from aedifex.program.structure.obstacles import Obstacle
from aedifex.survey.kinds.columns import ColumnKind, column_kinds
from aedifex.survey.kinds.handed_lists import ListKind, list_kinds
from aedifex.survey.kinds.held import HeldKind, held_kinds
from aedifex.survey.kinds.records import RecordKind, record_kinds
from aedifex.survey.kinds.row_names import row_names
from aedifex.survey.kinds.rows import RowKind, row_kinds
from aedifex.survey.kinds.set_ups import SetUpKind, SetUps
from aedifex.survey.kinds.twins import TwinKind, twin_kinds


@dataclass(frozen=True)
class KindFact:
    """Things of one shape: how they are stored, where they begin, what each has, and by what they are known.

    `count` is how many there are, where the text tells; `hindrance` why they cannot become a class, with its line.
    """

    store: str
    line: int
    shape: tuple[str, ...]
    known_by: tuple[str, ...]
    count: int | None = None
    hindrance: str = ""
    hindrance_line: int | None = None


def kind_facts(module: Module) -> tuple[KindFact, ...]:
    """The kinds of a file, in the order of the text."""
    found = [_of_twins(kind) for kind in twin_kinds(module)]
    found += [_of_set_ups(kind) for kind in SetUps.of(module).kinds]
    found += [_of_columns(kind) for kind in column_kinds(module)]
    found += [_of_records(kind) for kind in record_kinds(module)]
    found += [_of_rows(kind) for kind in row_kinds(module) if any(row_names(kind))]
    found += [_of_held(kind) for kind in held_kinds(module)]
    found += [_of_lists(kind) for kind in list_kinds(module)]
    return tuple(sorted(found, key=lambda fact: fact.line))


def _of_twins(kind: TwinKind) -> KindFact:
    names = tuple(symbol.name for symbol in kind.variables)
    line = min(_line(kind.module, symbol.references[0].start) for symbol in kind.variables)
    shape = tuple(attribute or symbols[0].name for attribute, symbols in kind.fields.items())
    return KindFact("copies", line, shape, names, len(kind.marks), *_hindrance(kind.module, kind.obstacles))


def _of_set_ups(kind: SetUpKind) -> KindFact:
    first = kind.set_ups[0]
    holders = tuple(dict.fromkeys(made.symbol.name for made in kind.set_ups))
    return KindFact("objects", _line(kind.module, first.making.start), tuple(first.members), holders)


def _of_columns(kind: ColumnKind) -> KindFact:
    line = _line(kind.module, kind.columns[0].references[0].start)
    starts = kind.uses.starts
    count = len(next(iter(starts[0].parts.values())).parts) if starts and not kind.uses.additions else None
    names = tuple(kind.names)
    return KindFact("columns", line, names, names, count, *_hindrance(kind.module, kind.obstacles))


def _of_records(kind: RecordKind) -> KindFact:
    line = _line(kind.module, kind.makings[0].table.start)
    return KindFact("records", line, kind.keys, tuple(kind.holders), None, *_hindrance(kind.module, kind.obstacles))


def _of_rows(kind: RowKind) -> KindFact:
    shape = tuple(name or str(number) for number, name in enumerate(row_names(kind)))
    return KindFact("rows", _line(kind.module, kind.rows[0].start), shape, tuple(kind.holders))


def _of_held(kind: HeldKind) -> KindFact:
    return KindFact("held", _line(kind.module, kind.holder.references[0].start), (kind.key,), tuple(kind.holders))


def _of_lists(kind: ListKind) -> KindFact:
    return KindFact("lists", _line(kind.module, kind.made[0].start), (kind.key,), tuple(kind.holders))


def _line(module: Module, offset: int) -> int:
    return module.source.line_of(offset)


def _hindrance(module: Module, obstacles: list[Obstacle] | tuple[Obstacle, ...]) -> tuple[str, int | None]:
    return (obstacles[0].reason, _line(module, obstacles[0].offset)) if obstacles else ("", None)
