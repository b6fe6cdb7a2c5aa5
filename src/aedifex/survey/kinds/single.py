"""Single things: an object of a library that is set up in several steps, with variables that go by its name."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Kind, Statement, final_name
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
    known = sorted(state(module), key=lambda symbol: symbol.references[0].start)
    things = [symbol for symbol in known if _is_thing(module, symbol)]
    for symbol in things:
        others = [other for other in known if other not in things and _whose(module, things, other) is symbol]
        fields: dict[str, tuple[Symbol, ...]] = {"": (symbol,)}
        fields |= {name: (other,) for name, other in _companions(module, others, symbol).items()}
        kind = TwinKind(module, symbol.name, _ALONE, fields, {})
        runs = kind.beginning.runs if kind.beginning is not None else ()
        is_set_up = any(len(run) >= _FEWEST_STEPS and any(s.kind is Kind.EXPRESSION for s in run) for run in runs)
        if len(fields) > 1 and is_set_up:
            yield kind


def _is_thing(module: Module, symbol: Symbol) -> bool:
    """Whether a variable always holds one object of a class of a library."""
    maker = library_maker(module, symbol)
    return maker is not None and final_name(maker)[:1].isupper()


def _whose(module: Module, things: Sequence[Symbol], symbol: Symbol) -> Symbol | None:
    """The thing with the longest name that a variable's name goes on from."""
    joined = module.dialect.naming.joined
    near = [thing for thing in things if symbol.name.startswith(joined(thing.name, ""))]
    return max(near, key=lambda thing: len(thing.name), default=None)


def _companions(module: Module, others: Sequence[Symbol], symbol: Symbol) -> dict[str, Symbol]:
    """Those of some variables that are first set where the thing is set up, by what their names have beside its own."""
    begins = module.dialect.naming.joined(symbol.name, "")
    named = {other.name.removeprefix(begins): other for other in others}
    own, setup = {symbol, *named.values()}, set[Statement | None]()
    first = symbol.references[0].statement
    for statement in module.block.statements[first.index :] if first is not None else []:
        if own.isdisjoint(r.symbol for r in module.references_within(statement.span)):
            break
        setup.add(statement)
    return {name: other for name, other in named.items() if other.references[0].statement in setup}
