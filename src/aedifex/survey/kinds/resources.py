"""What a script holds of a library, and calls again and again: a window, a connection."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.dialect.library import Resource
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Form, Mode, Reference, Symbol
from aedifex.program.model.statements import Call, Function, ParameterKind, Statement, Value, call_of
from aedifex.program.structure.obstacles import Obstacle
from aedifex.source.text import Span

_FEWEST_CALLS = 6
_MANY_CALLS = 12
_ADVICE = "Leave the calls of the library where they are."


@dataclass(frozen=True)
class Derived:
    """A variable of the module that the `statement` right behind the making of a thing gives what its method makes."""

    symbol: Symbol
    statement: Statement
    method: str


@dataclass(eq=False)
class ResourceKind:
    """A thing of a library, and the names that always hold it.

    `symbol` is what holds it first: a parameter of the `routine` that is handed it, or else a variable of the module
    that is given the `value`. `holders` are the parameters that it is passed on to. What is `derived` from it, as a
    cursor is from a connection, belongs to it.
    """

    module: Module
    resource: Resource
    symbol: Symbol
    routine: Function | None
    value: Value | None
    holders: frozenset[Symbol]
    derived: Derived | None = None

    @cached_property
    def uses(self) -> list[Reference]:
        """Where the thing itself is used; where it is only passed on to a holder is left out."""
        passed = Passing.of(self.module).places
        found = (r for symbol in (self.symbol, *self.holders) for r in symbol.references if not r.mode.writes)
        uses = [r for r in found if r.form is not Form.DECLARATION and passed.get(r) not in self.holders]
        return sorted(uses, key=lambda reference: reference.start)

    @property
    def calls(self) -> list[Reference]:
        """The calls of its methods, and of those of what is derived from it."""
        uses = [*self.uses, *(self.derived.symbol.references if self.derived is not None else ())]
        return [use for use in uses if use.path and use.path_mode is Mode.CALL and use.path[0].name is not None]

    @property
    def obstacles(self) -> list[Obstacle]:
        """What stands against a class around it."""
        found = [Obstacle(b.start, f"`{b.name}` gets another value here", _ADVICE) for b in self.symbol.bindings[1:]]
        others = self.routine.symbol.references if self.routine is not None else ()
        calls = (call_of(reference) for reference in others)
        found += [
            Obstacle(call.start, f"`{self.routine.name}` is called here, too", _ADVICE)
            for call in calls
            if call is not None and self.routine is not None
        ]
        deleted = (r for r in self.symbol.references if r.mode is Mode.DELETE)
        return found + [Obstacle(r.start, f"`{r.name}` is deleted here", _ADVICE) for r in deleted]


def resource_kinds(module: Module) -> list[ResourceKind]:
    """The things of libraries that a script has one of, and calls in several places, or again and again in one."""
    found = [kind for statement in module.walk() for call in statement.calls for kind in _made(module, statement, call)]
    worth = (kind for kind in found if len(kind.calls) >= _FEWEST_CALLS)
    return [k for k in worth if len({use.scope.home for use in k.calls}) > 1 or len(k.calls) >= _MANY_CALLS]


class Passing(Analysis):
    """Tells which parameters names are passed to as they are; `places` has the parameters by the names passed."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.places: dict[Reference, Symbol] = {}
        self._given: dict[Symbol, list[Reference | None]] = {}
        at = {reference.span: reference for reference in module.references}
        for function in module.functions:
            calls = self._calls(function)
            for number, parameter in enumerate(function.parameters if calls else ()):
                if parameter.kind is not ParameterKind.PLAIN or parameter.default is not None:
                    break
                symbol = parameter.reference.symbol
                given = [self._argument(call, number) for call in calls or ()]
                names = [at.get(span) if span is not None else None for span in given]
                if len(symbol.bindings) == 1:
                    self._given[symbol] = names
                    self.places.update((name, symbol) for name in names if name is not None)

    def holders(self, symbol: Symbol) -> frozenset[Symbol]:
        """The parameters that always hold what a name holds."""
        found = {parameter for parameter, names in self._given.items() if names and None not in names}
        while True:
            known = {symbol, *found}
            unfit = {p for p in found if any(name is None or name.symbol not in known for name in self._given[p])}
            if not unfit:
                return frozenset(self._reached(symbol, found))
            found -= unfit

    def _reached(self, symbol: Symbol, among: set[Symbol]) -> set[Symbol]:
        """The parameters among some that a name comes to."""
        reached = {symbol}
        while True:
            more = {p for p in among if any(n is not None and n.symbol in reached for n in self._given[p])} - reached
            if not more:
                return reached - {symbol}
            reached |= more

    def _calls(self, function: Function) -> list[Call] | None:
        """All calls of a function; None where it is used in another way too."""
        uses = [r for r in function.symbol.references if not r.mode.writes]
        calls = [call for use in uses if (call := call_of(use)) is not None and not use.path]
        is_plain = len(calls) == len(uses) and len(function.symbol.bindings) == 1 and not function.statement.decorators
        return calls if is_plain else None

    def _argument(self, call: Call, number: int) -> Span | None:
        """Where the argument of a number stands."""
        if number >= len(call.arguments) or any(a.keyword or a.stars for a in call.arguments[: number + 1]):
            return None
        return call.arguments[number].span


def _made(module: Module, statement: Statement, call: Call) -> Iterator[ResourceKind]:
    """What a call makes, or hands on."""
    resource = module.dialect.library.resource_of(full_name(call))
    if resource is None:
        return
    if resource.is_handed:
        function = _given_routine(module, call)
        first = function.parameters[0] if function is not None and function.parameters else None
        if first is not None and first.kind is ParameterKind.PLAIN and first.default is None:
            symbol = first.reference.symbol
            yield ResourceKind(module, resource, symbol, function, None, Passing.of(module).holders(symbol))
        return
    pairs = statement.assignment.pairs if statement.assignment is not None else ()
    pair = next((p for p in pairs if (p.value.start, p.value.end) == (call.start, call.end)), None)
    if pair is not None and pair.target.symbol.is_module_level and statement.block.owner is None:
        symbol, holders = pair.target.symbol, Passing.of(module).holders(pair.target.symbol)
        yield ResourceKind(module, resource, symbol, None, pair.value, holders, _derived(statement, symbol))


def _derived(making: Statement, symbol: Symbol) -> Derived | None:
    """What is made, for good, of a thing right behind it."""
    behind = making.block.statements[making.index + 1 :][:1]
    pairs = behind[0].assignment.pairs if behind and behind[0].assignment is not None else ()
    if len(pairs) != 1 or len(behind[0].calls) != 1:
        return None
    target, call = pairs[0].target, behind[0].calls[0]
    is_whole = (pairs[0].value.start, pairs[0].value.end) == (call.start, call.end) and not call.arguments
    callee = call.callee
    if not is_whole or callee is None or callee.symbol is not symbol or len(callee.path) != 1:
        return None
    uses = [r for r in target.symbol.references if r is not target]
    is_settled = target.symbol.is_module_level and not target.path and not any(r.mode.writes for r in uses)
    is_plain = is_settled and all(r.form is not Form.DECLARATION for r in uses)
    return Derived(target.symbol, behind[0], callee.path[0].name or "") if is_plain else None


def full_name(call: Call) -> str:
    """The name of an imported function, with its module's; empty for another."""
    callee = call.callee
    if callee is None or callee.symbol.imported is None:
        return ""
    imported = callee.symbol.imported
    steps = [step.name or "" for step in callee.path if step.kind is AccessKind.ATTRIBUTE]
    return ".".join([imported.module, *([imported.name] if imported.name else []), *steps])


def _given_routine(module: Module, call: Call) -> Function | None:
    """The function of the script that is the first argument of a call."""
    if not call.arguments:
        return None
    reference = module.reference_at.get(call.arguments[0].start)
    is_whole = reference is not None and reference.span == call.arguments[0].span
    found = module.function(reference.name) if reference is not None and is_whole else None
    return found if found is not None and reference is not None and found.symbol is reference.symbol else None
