"""Tables and lists that several functions write out again, each for itself."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from aedifex.program.analysis.holding.reading import is_only_read
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import only_value
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, ScopeKind, Symbol
from aedifex.program.model.statements import Kind, Statement

_FEWEST_ENTRIES = 3
_WRITTEN = frozenset({Sense.TABLE, Sense.LIST, Sense.TUPLE, Sense.CONSTANT, Sense.NOTHING})


@dataclass(frozen=True)
class Writing:
    """A variable that is given a table or list, written out, by a statement, and nothing else."""

    symbol: Symbol
    statement: Statement
    value: Expression


def repeated_data(module: Module) -> Iterator[Sequence[Writing]]:
    """The variables that begin with the same data and stay as they are; one of the module itself comes first.

    All others are of functions, and there are two or more in all.
    """
    if module.hindrances:
        return
    alike: dict[object, list[Writing]] = defaultdict(list)
    for tree in Surroundings.of(module).trees:
        writing = _writing(module, tree)
        if writing is not None:
            alike[_meaning(module, writing.value)].append(writing)
    for found in alike.values():
        ordered = sorted(found, key=lambda w: not w.symbol.is_module_level)
        ordered = [writing for writing in ordered if is_only_read(module, writing.symbol)]
        shared = sum(writing.symbol.is_module_level for writing in ordered)
        if len(ordered) > 1 and shared < 2:
            yield ordered


@dataclass(frozen=True)
class Excerpt:
    """A table that only says again what the records of another, of the module, have under one key.

    `key` is that key as it stands there, `asked` are the places that ask the table for something.
    """

    writing: Writing
    table: Writing
    key: Expression
    asked: tuple[Expression, ...]


def excerpts(module: Module) -> Iterator[Excerpt]:
    """The tables of functions that are excerpts of a table of the module, and are only asked for what they hold."""
    if module.hindrances:
        return
    written = [w for t in Surroundings.of(module).trees if (w := _writing(module, t)) is not None]
    tables = [w for w in written if w.value.sense is Sense.TABLE]
    whole = [w for w in tables if w.symbol.is_module_level and _has_records(w.value)]
    for writing in (w for w in tables if not w.symbol.is_module_level):
        for table in whole:
            key = _key_of(module, writing.value, table.value)
            asked = _asked(module, writing.symbol) if key is not None else None
            if key is not None and asked and is_only_read(module, table.symbol):
                yield Excerpt(writing, table, key, tuple(asked))
                break


def _has_records(table: Expression) -> bool:
    return {record.sense for record in table.parts[1::2]} == {Sense.TABLE}


def _key_of(module: Module, excerpt: Expression, table: Expression) -> Expression | None:
    """The key under which all records of a table have what another table says under the records' keys."""
    keys = [[_meaning(module, key) for key in one.parts[::2]] for one in (excerpt, table)]
    if keys[0] != keys[1]:
        return None
    said = [_meaning(module, value) for value in excerpt.parts[1::2]]
    records = [dict(zip(_keys(module, r), r.parts[1::2], strict=True)) for r in table.parts[1::2]]
    for key, name in zip(table.parts[1].parts[::2], records[0], strict=False):
        values = [record.get(name) for record in records]
        if [_meaning(module, value) if value is not None else None for value in values] == said:
            return key
    return None


def _keys(module: Module, record: Expression) -> list[object]:
    return [_meaning(module, key) for key in record.parts[::2]]


def _asked(module: Module, symbol: Symbol) -> list[Expression] | None:
    """The places that ask a table for what is under a key; None where anything else is done with it."""
    surroundings = Surroundings.of(module)
    found: list[Expression] = []
    for reference in symbol.references:
        name = surroundings.of_reference(reference)
        around = surroundings.around(name) if name is not None else None
        if reference.mode is not Mode.READ:
            continue
        if (
            around is None
            or around.sense is not Sense.PART
            or around.parts[0] is not name
            or reference.path_mode is not Mode.READ
        ):
            return None
        found.append(around)
    return found


def _writing(module: Module, tree: Expression) -> Writing | None:
    statement = tree.statement
    if tree.sense is not Sense.SET or len(tree.parts) != 2 or statement is None or statement.kind is not Kind.ASSIGN:
        return None
    target, value = tree.parts
    if target.reference is None or target.sense is not Sense.NAME or not _is_written_out(value):
        return None
    symbol = target.reference.symbol
    is_of_module = symbol.is_module_level and only_value(symbol) is not None
    is_of_function = symbol.scope.kind is ScopeKind.ROUTINE and statement.block.routine is not None
    is_set_once = [r for r in symbol.references if r.mode is not Mode.READ] == [target.reference]
    is_plain = is_set_once and all(r.start >= statement.start for r in symbol.references)
    is_plain = is_plain and not any(r.form is Form.DECLARATION for r in symbol.references)
    return Writing(symbol, statement, value) if is_plain and (is_of_module or is_of_function) else None


def _is_written_out(value: Expression) -> bool:
    """Whether a value is a table or list with enough in it, all of it plain."""
    entries = len(value.parts) // 2 if value.sense is Sense.TABLE else len(value.parts)
    is_large = value.sense in (Sense.TABLE, Sense.LIST) and entries >= _FEWEST_ENTRIES
    return is_large and all(part.sense in _WRITTEN for part in value.walk())


def _meaning(module: Module, value: Expression) -> object:
    """What a value says, however it is spread over lines."""
    if value.parts or value.sense in (Sense.TABLE, Sense.LIST, Sense.TUPLE):
        return (value.sense, tuple(_meaning(module, part) for part in value.parts))
    text = module.source.slice(value.span)
    said = module.dialect.writer.text_value(text)
    return (Sense.TEXT, said) if said is not None else text
