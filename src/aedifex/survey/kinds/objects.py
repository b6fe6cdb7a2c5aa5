"""Functions that are given an object of a class of the script, and their calls."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.holding.absence import Absence
from aedifex.program.analysis.holding.holding import Holding, Whole
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.parameter_passing import why_not_passed
from aedifex.program.analysis.values import is_settled, value_of
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.statements import Argument, Call, Function, Parameter, ParameterKind
from aedifex.program.structure.first_runs import is_given_first
from aedifex.program.structure.obstacles import Obstacle
from aedifex.program.structure.record_classes import record_fields
from aedifex.source.text import Span

_ADVICE = "Leave it a function."
_OBJECT = 2
"""Where what a function is bound to stands among the parts of the expression that binds it."""
_STILL = frozenset({Sense.NAME, Sense.CONSTANT, Sense.NOTHING})


class MemberNames(set[str]):
    """The names of all members that objects of a class have, with those that it may inherit from a library."""

    def __init__(self, names: Iterable[str], inherits: Callable[[str], bool]) -> None:
        super().__init__(names)
        self._inherits = inherits

    def __contains__(self, name: object) -> bool:
        return super().__contains__(name) or (isinstance(name, str) and self._inherits(name))


def member_names(module: Module, scope: Scope) -> MemberNames:
    """The names of all members that objects of a class have, by what the program does with them."""
    holdings = Holdings.of(module)
    statement = next((s for s in module.walk() if s.defines is scope), None)
    library, folder = module.dialect.library, module.path.parent
    bases = [r for r in statement.references if r.mode.reads and r.symbol.imported] if statement is not None else []
    is_record = statement is not None and record_fields(module, statement) is not None
    return MemberNames(
        {*scope.symbols, *holdings.members_of(holdings.instance_of(scope))},
        lambda name: any(
            library.is_member_of_record(name) if is_record else library.may_inherit_member(base, name, folder)
            for base in bases
        ),
    )


def object_parameter(module: Module, function: Function, scope: Scope) -> Parameter | None:
    """The first parameter that is always an object of a class, and means nothing else in the function."""
    holdings = Holdings.of(module)
    for parameter in function.parameters:
        symbol = parameter.reference.symbol
        is_plain = parameter.kind in (ParameterKind.PLAIN, ParameterKind.POSITIONAL_ONLY) and parameter.default is None
        if is_plain and len(symbol.bindings) == 1 and is_object(holdings, holdings.of_symbol(symbol), scope):
            return parameter
    return None


def object_used(module: Module, function: Function, scope: Scope) -> Symbol | None:
    """The one variable of the main code that a function uses and that always holds the same object of a class."""
    return _one_used(module, function, scope, is_kept_object)


def object_lent(module: Module, function: Function, scope: Scope) -> Symbol | None:
    """The one variable of the main code that a function uses, and that has an object of a class, be it not always one.

    The function could be given what it holds when it is called.
    """
    known = _one_used(module, function, scope, always_has_object)
    return known if known is not None and why_not_passed(Effects.of(module), function, known) is None else None


def _one_used(
    module: Module, function: Function, scope: Scope, has_object: Callable[[Module, Symbol, Scope], bool]
) -> Symbol | None:
    """The one variable of the main code that a function asks for members, and that has an object of a class."""
    used = {use.symbol for inner in function.scope.walk() for use in inner.uses if use.path}
    known = [symbol for symbol in used if symbol.is_module_level and has_object(module, symbol, scope)]
    return known[0] if len(known) == 1 else None


def object_of(module: Module, function: Function, scope: Scope) -> Symbol | None:
    """What holds the object of a class that a function is about: a parameter, or else a variable of the main code."""
    parameter = object_parameter(module, function, scope)
    return parameter.reference.symbol if parameter is not None else object_used(module, function, scope)


def is_kept_object(module: Module, symbol: Symbol, scope: Scope) -> bool:
    """Whether a variable of the main code always holds the same object of a class."""
    holdings = Holdings.of(module)
    is_own = symbol.is_module_level and not module.is_known_outside(symbol.name)
    is_own = is_own and (is_settled(symbol) or is_given_first(module, symbol))
    return is_own and is_object(holdings, holdings.of_symbol(symbol), scope)


def always_has_object(module: Module, symbol: Symbol, scope: Scope) -> bool:
    """Whether a variable of the main code has an object of a class from its first value on, be it another one later."""
    if is_kept_object(module, symbol, scope):
        return True
    holdings, first = Holdings.of(module), symbol.references[0]
    is_own = symbol.is_module_level and not module.is_known_outside(symbol.name)
    is_given = first.binds and first.scope is module.scope and value_of(first) is not None
    is_given = is_given and symbol not in Absence.of(module).symbols
    return is_own and is_given and is_object(holdings, holdings.of_symbol(symbol), scope)


def is_object(holdings: Holdings, holding: object, scope: Scope) -> bool:
    """Whether a holding stands for objects of one class, and for nothing else."""
    instance = holdings.instance_of(scope)
    if holding is not instance or set(instance.classes) != {scope}:
        return False
    return not (instance.tables or instance.rows or instance.element or instance.is_table or instance.foreign)


def class_of_objects(holdings: Holdings, holding: Holding) -> Scope | None:
    """The one class of the script of which a holding stands for objects, and for nothing else."""
    scope = next(iter(holding.classes), None)
    return scope if scope is not None and is_object(holdings, holding, scope) else None


class ObjectCalls(Analysis):
    """The calls of functions, and what stands against an argument in them becoming the receiver."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.holdings = Holdings.of(module)
        self.calls: dict[Function, list[Expression]] = {}
        self.bindings: dict[Function, list[Expression]] = {}
        self.others: dict[Function, list[int]] = {}
        self._by_place: dict[tuple[int, int], Call] = {
            (call.start, call.end): call for statement in module.walk() for call in statement.calls
        }
        named = {function.symbol: function for function in module.functions}
        called: set[int] = set()
        for tree in self.holdings.trees:
            for expression in tree.walk():
                callee = expression.parts[0].reference if expression.sense is Sense.CALL else None
                if callee is not None and callee.symbol in named and expression.parts[0].sense is Sense.NAME:
                    self.calls.setdefault(named[callee.symbol], []).append(expression)
                    called.add(callee.start)
                bound = self._bound_in(expression)
                if bound is not None and bound.symbol in named:
                    self.bindings.setdefault(named[bound.symbol], []).append(expression)
                    called.add(bound.start)
        for symbol, function in named.items():
            self.others[function] = [r.start for r in symbol.references if r.mode.reads and r.start not in called]

    def of_function(self, function: Function) -> list[Expression]:
        """All calls of a function."""
        return self.calls.get(function, [])

    def are_known_of(self, function: Function) -> bool:
        """Whether a function is called anywhere, or bound to something for others to call."""
        return bool(self.of_function(function) or self.bindings_of(function))

    def bindings_of(self, function: Function) -> list[Expression]:
        """All places where a function is bound to what it is given first, for others to call."""
        return self.bindings.get(function, [])

    def _bound_in(self, call: Expression) -> Reference | None:
        """The name of what an expression binds to an argument that is given by itself, if that is what it does."""
        if call.sense is not Sense.CALL or len(call.parts) <= _OBJECT or any(call.names[:_OBJECT]):
            return None
        binder, bound = call.parts[0].reference, call.parts[1]
        if binder is None or binder.symbol.imported is None or bound.sense is not Sense.NAME:
            return None
        last = binder.path[-1].name if binder.path else binder.symbol.imported.name
        binds = self.module.dialect.library.handling_by_function(last or "") is Handling.BINDS
        return bound.reference if binds else None

    def argument_spans(self, call: Expression) -> list[Span]:
        """Where the arguments of a call stand, with their keywords and parentheses."""
        return [argument.span for argument in self._arguments(call)]

    def inside(self, call: Expression) -> Span:
        """What stands between the parentheses of a call."""
        inside = self._by_place[call.start, call.end].inside
        assert inside is not None
        return inside

    def _arguments(self, call: Expression) -> tuple[Argument, ...]:
        return self._by_place[call.start, call.end].arguments

    def argument_of(self, call: Expression, function: Function, parameter: Parameter) -> int | None:
        """Which argument of a call is the one for a parameter."""
        at = function.parameters.index(parameter)
        if parameter.name in call.names:
            return call.names.index(parameter.name)
        is_given = at < len(call.names) and not any(call.names[: at + 1])
        return at if is_given else None

    def obstacles(self, function: Function, parameter: Parameter) -> Iterator[Obstacle]:
        """Why calls of a function cannot tell the object that they hand over."""
        for offset in self.others.get(function, ()):
            yield Obstacle(offset, f"`{function.name}` is used as a value here", _ADVICE)
        symbol = parameter.reference.symbol
        if any(p.kind is ParameterKind.POSITIONAL_ONLY for p in function.parameters):
            yield Obstacle(function.scope.start, f"`{function.name}` has parameters without names", _ADVICE)
        may_be_absent = symbol in Absence.of(self.module).symbols
        for whole, place in self.holdings.of_symbol(symbol).wholes:
            if may_be_absent and whole is Whole.TRUTH and place.reference and place.reference.symbol is symbol:
                yield Obstacle(place.start, f"`{parameter.name}` may be nothing at all here", _ADVICE)
        if self.module.dialect.rules.keys_are_members and self._is_asked_for(symbol, set()):
            reason = f"whether there is a `{parameter.name}` is asked, and what has no such part gives nothing"
            yield Obstacle(function.scope.start, reason, _ADVICE)
        for call in self.of_function(function):
            yield from self._call_obstacles(call, function, parameter)
        for call in self.bindings_of(function):
            given = call.parts[_OBJECT]
            if function.parameters[0] is not parameter:
                yield Obstacle(call.start, f"`{function.name}` is bound to something else here", _ADVICE)
            if Absence.of(self.module).may_be_absent(given):
                yield Obstacle(given.start, f"what `{function.name}` is bound to may be nothing at all", _ADVICE)

    def _is_asked_for(self, symbol: Symbol, seen: set[Symbol]) -> bool:
        """Whether a function, or one that it hands its parameter to, asks whether there is anything."""
        seen.add(symbol)
        asked = (place for whole, place in self.holdings.of_symbol(symbol).wholes if whole is Whole.TRUTH)
        if any(place.reference is not None and place.reference.symbol is symbol for place in asked):
            return True
        handed = (
            function.parameters[number].reference.symbol
            for function, calls in self.calls.items()
            for call in calls
            for number, given in enumerate(call.parts[1 : 1 + len(function.parameters)])
            if is_named(given, symbol)
        )
        return any(self._is_asked_for(other, seen) for other in handed if other not in seen)

    def _call_obstacles(self, call: Expression, function: Function, parameter: Parameter) -> Iterator[Obstacle]:
        known = self._by_place.get((call.start, call.end))
        if known is None or known.inside is None:
            yield Obstacle(call.start, f"this call of `{function.name}` cannot be followed", _ADVICE)
            return
        number = self.argument_of(call, function, parameter)
        if number is None or any(name in ("*", "**") for name in call.names):
            yield Obstacle(call.start, f"`{parameter.name}` is not given to `{function.name}` by itself here", _ADVICE)
            return
        given = call.parts[1 + number]
        if Absence.of(self.module).may_be_absent(given):
            yield Obstacle(given.start, f"what `{function.name}` is given here may be nothing at all", _ADVICE)
        before = call.parts[1 : 1 + number]
        is_steady = self._is_steady(given) or self._stays_until(given)
        if not all(part.sense in _STILL for part in before) and not is_steady:
            text = self.module.source.slice(given.span)
            yield Obstacle(given.start, f"what is worked out before may decide which object `{text}` is", _ADVICE)

    def _stays_until(self, given: Expression) -> bool:
        """Whether nothing that its statement works out before a name, or in it, gives that another object."""
        reference, statement = given.reference, given.statement
        if reference is None or statement is None:
            return False
        effects, symbol = Effects.of(self.module), reference.symbol
        is_set = any(r.symbol is symbol and r.mode.writes for r in statement.references)
        return not is_set and not any(
            symbol in effects.transitive[routine].rebinds for routine in effects.run_until(statement, given.start)
        )

    @staticmethod
    def _is_steady(given: Expression) -> bool:
        """Whether no code but that around it can give a name another object."""
        reference = given.reference
        if reference is None:
            return False
        scope = reference.symbol.scope
        is_own = scope.frame.kind in (ScopeKind.ROUTINE, ScopeKind.COMPREHENSION, ScopeKind.LAMBDA)
        return (is_own and len({r.scope.holder for r in reference.symbol.references}) == 1) or (
            len(reference.symbol.bindings) == 1
        )
