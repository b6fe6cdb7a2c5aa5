"""What functions hand to one another: the same values, from where they are set to all who need them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.values import first_value
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Reference, Symbol
from aedifex.program.model.statements import Call, Function, Kind, Shape, Sort, Statement, call_of
from aedifex.program.structure.obstacles import function_obstacles
from aedifex.program.structure.state import Constants, is_used_in_routine
from aedifex.survey.kinds.objects import class_of_objects
from aedifex.survey.kinds.resources import Passing

_FEWEST_FUNCTIONS = 3
_FEWEST_SHARED = 2
_MOST_VALUES = 5
_CONTAINERS = frozenset({Sort.LIST, Sort.TABLE})


@dataclass(eq=False)
class Bundle:
    """Values that one routine, or the main code, sets once and hands to several functions.

    `symbols` are the variables that hold them first, in the order of the text; `parameters` tells which of them each
    parameter always holds.
    """

    module: Module
    routine: Function | None
    symbols: tuple[Symbol, ...]
    parameters: dict[Symbol, Symbol]

    @cached_property
    def functions(self) -> dict[Function, list[Symbol]]:
        """The functions that are handed some of them, with the parameters that are."""
        found: dict[Function, list[Symbol]] = {}
        for function in self.module.functions:
            own = [p.reference.symbol for p in function.parameters if p.reference.symbol in self.parameters]
            if own:
                found[function] = own
        return found

    @property
    def is_single(self) -> bool:
        """Whether it is one value only."""
        return len(self.symbols) == 1

    @property
    def last(self) -> Statement:
        """The statement behind which all have their values."""
        statement = self.symbols[-1].bindings[0].statement
        assert statement is not None
        return statement

    @cached_property
    def calls(self) -> list[Call]:
        """The calls that hand them over."""
        names = [r for function in self.functions for r in function.symbol.references if r.mode is Mode.CALL]
        return [call for name in names if (call := call_of(name)) is not None]

    @cached_property
    def given(self) -> set[Reference]:
        """The names that are only handed over."""
        places = Passing.of(self.module).places
        return {name for name, parameter in places.items() if parameter in self.parameters}


def bundles(module: Module) -> Iterator[Bundle]:
    """The values that could be kept by one object, which functions would then be methods of."""
    if module.hindrances:
        return
    finder = _Finder(module)
    for routine in (None, *module.functions):
        found = finder.of(routine)
        if found is not None:
            yield found


class _Finder:
    def __init__(self, module: Module) -> None:
        self.module = module
        self.passing = Passing.of(module)
        self.holdings = Holdings.of(module)
        self.constants = Constants.of(module)
        self.by_parameter = {p.reference.symbol: f for f in module.functions for p in f.parameters}

    def of(self, routine: Function | None) -> Bundle | None:
        """The values that a routine sets and hands on."""
        held = {symbol: self.passing.holders(symbol) for symbol in self.set_once(routine)}
        reached = {s: {self.by_parameter[p] for p in parameters} for s, parameters in held.items() if parameters}
        reached = {s: functions for s, functions in reached.items() if all(map(self.is_fit, functions))}
        if not reached:
            return None
        first = max(reached, key=lambda s: (len(reached[s]), -s.bindings[0].start))
        shared = [s for s, fs in reached.items() if fs <= reached[first] and len(fs) >= _FEWEST_SHARED]
        chosen = tuple(sorted(shared, key=lambda s: s.bindings[0].start))
        if len(reached[first]) < _FEWEST_FUNCTIONS or first not in chosen or len(chosen) > _MOST_VALUES:
            return None
        if len(chosen) == 1 and not self.is_worth_a_class(chosen[0]):
            return None
        bundle = Bundle(self.module, routine, chosen, {p: s for s in chosen for p in held[s]})
        return bundle if self.is_sound(bundle) else None

    def set_once(self, routine: Function | None) -> Iterator[Symbol]:
        """The variables of a routine that get their one value in its own block, for the routine alone to know."""
        scope = routine.scope if routine is not None else self.module.scope
        block = routine.body if routine is not None else self.module.block
        for symbol in scope.symbols.values():
            statement = symbol.bindings[0].statement if len(symbol.bindings) == 1 else None
            if statement is None or statement.block is not block or statement.kind is not Kind.ASSIGN:
                continue
            is_kept = not any(r.mode is Mode.DELETE for r in symbol.references)
            is_own = routine is not None or not (
                is_used_in_routine(symbol) or self.module.is_known_outside(symbol.name)
            )
            is_plain = class_of_objects(self.holdings, self.holdings.of_symbol(symbol)) is None
            is_told = first_value(symbol) is not None
            if is_kept and is_told and is_own and is_plain and not self.constants.settles(symbol):
                yield symbol

    def is_fit(self, function: Function) -> bool:
        """Whether a function could be a method: it needs no state but what it is given."""
        touched = Effects.of(self.module).transitive[function].touches
        needs = any(symbol.is_module_level for symbol in self.constants.changing(touched))
        return not needs and not function_obstacles(self.module, function) and not function.is_postponed

    def is_worth_a_class(self, symbol: Symbol) -> bool:
        """Whether one value alone is a thing: a container, or what a function of the script makes."""
        value = first_value(symbol)
        if value is None or value.sort in _CONTAINERS:
            return value is not None
        statement = symbol.bindings[0].statement
        makers = [c.callee for c in (statement.calls if statement is not None else ()) if c.span == value.span]
        own = {function.symbol for function in self.module.functions}
        return value.shape is Shape.CALL and any(m is not None and m.symbol in own and not m.path for m in makers)

    def is_sound(self, bundle: Bundle) -> bool:
        """Whether all is set before the first of the functions is called, and each of these is handed it as it is."""
        last, fit = bundle.last, set(bundle.functions)
        inside: Sequence[Function | None] = (bundle.routine, *fit)
        for call in bundle.calls:
            around = self.holdings.routine_around(call.start)
            if around not in inside or (around is bundle.routine and call.start < last.end):
                return False
        return True
