"""Single things: an object of a library that is set up in several steps, with variables that go by its name."""

from __future__ import annotations

from collections.abc import Iterator

from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Statement, final_name
from aedifex.program.structure.state import state
from aedifex.survey.kinds.carried import library_maker
from aedifex.survey.kinds.twins import TwinKind

_FEWEST_STEPS = 3
_ALONE = ("",)
"""What tells the one copy from others."""


def single_kinds(module: Module) -> Iterator[TwinKind]:
    """The objects of a library with variables of their own, each as the one copy of a kind, as the text has them."""
    if module.hindrances:
        return
    known = state(module)
    taken: set[Symbol] = set()
    for symbol in sorted(known, key=lambda symbol: symbol.references[0].start):
        maker = library_maker(module, symbol)
        if symbol in taken or maker is None or not final_name(maker)[:1].isupper():
            continue
        fields: dict[str, tuple[Symbol, ...]] = {"": (symbol,)}
        fields |= {name: (other,) for name, other in _companions(module, known, symbol).items()}
        kind = TwinKind(module, symbol.name, _ALONE, fields, {})
        runs = kind.beginning.runs if kind.beginning is not None else ()
        if len(fields) > 1 and runs and len(runs[0]) >= _FEWEST_STEPS:
            taken |= set(kind.variables)
            yield kind


def _companions(module: Module, known: list[Symbol], symbol: Symbol) -> dict[str, Symbol]:
    """The variables whose names go on from that of another, and that are first set where it is set up, by the rest."""
    begins = module.dialect.naming.joined(symbol.name, "")
    named = {other.name.removeprefix(begins): other for other in known if other.name.startswith(begins)}
    own, setup = {symbol, *named.values()}, set[Statement | None]()
    first = symbol.references[0].statement
    for statement in module.block.statements[first.index :] if first is not None else []:
        if own.isdisjoint(r.symbol for r in module.references_within(statement.span)):
            break
        setup.add(statement)
    return {name: other for name, other in named.items() if other.references[0].statement in setup}
