"""Functions that are given the number of an element and mean the element."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import is_settled, only_value
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Operator, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Origin, Reference, Symbol
from aedifex.program.model.statements import Function, Kind, Parameter, ParameterKind
from aedifex.program.structure.obstacles import function_obstacles
from aedifex.survey.kinds.objects import ObjectCalls
from aedifex.survey.kinds.picks import changes
from aedifex.survey.kinds.walks import counted_loops, is_place, only_looks, over_numbers

_STILL = frozenset({Sense.NAME, Sense.CONSTANT, Sense.NOTHING})
_PLAIN = frozenset({Kind.UPDATE, Kind.BRANCH, Kind.EXPRESSION, Kind.ASSIGN, Kind.LEAVE})
_GROWING = frozenset({Handling.ADDS, Handling.INSERTS, Handling.ADDS_ALL})


@dataclass(frozen=True)
class Pointed:
    """A function, its parameter that is a number, the elements in it under that, and the arguments of its calls."""

    function: Function
    parameter: Parameter
    elements: tuple[Expression, ...]
    arguments: tuple[Expression, ...]


def pointed(module: Module, container: Symbol, item: str) -> Iterator[Pointed]:
    """The functions that could be given an element of a list, called `item`, in place of its number.

    An element is then asked for when the call begins. That is the same where the list stays what it is until the
    function has asked for it, and where there is such an element, or the function asks before it does anything else.
    """
    if not is_settled(container) or len(Holdings.of(module).of_symbol(container).symbols) > 1:
        return
    finder = _Finder(module, container)
    for function in module.functions:
        for parameter in function.parameters:
            found = finder.found(function, parameter)
            own = parameter.reference.symbol
            if found is not None and all(scope.find(item) in (None, own) for scope in function.scope.walk()):
                yield found


class _Finder:
    def __init__(self, module: Module, container: Symbol) -> None:
        self.module = module
        self.container = container
        self.surroundings = Surroundings.of(module)
        self.calls = ObjectCalls.of(module)
        self.effects = Effects.of(module)

    def found(self, function: Function, parameter: Parameter) -> Pointed | None:
        """What is pointed at by a parameter of a function, if that could be handed over itself."""
        elements = self.elements(function, parameter)
        if not elements or function.is_postponed or function_obstacles(self.module, function):
            return None
        if self.module.is_known_outside(function.name) or self.calls.others.get(function) or self.may_change(function):
            return None
        arguments = [self.argument(call, function, parameter) for call in self.calls.of_function(function)]
        if not arguments or any(argument is None for argument in arguments):
            return None
        given = [argument for argument in arguments if argument is not None]
        if not all(map(self.knows_container, given)):
            return None
        own = frozenset({parameter.reference.symbol})
        if self.module.dialect.rules.ends_silently:  # what is not there is missed where it is used, as before
            return Pointed(function, parameter, tuple(elements), tuple(given))
        if not self.is_asked_first(function, elements[0]) and not all(self.is_there(a, own) for a in given):
            return None
        return Pointed(function, parameter, tuple(elements), tuple(given))

    def elements(self, function: Function, parameter: Parameter) -> list[Expression]:
        """The elements under the number that a parameter is; none where it serves for anything else."""
        symbol = parameter.reference.symbol
        is_plain = parameter.kind in (ParameterKind.PLAIN, ParameterKind.POSITIONAL_ONLY) and parameter.default is None
        if not is_plain or len(symbol.bindings) != 1:
            return []
        found: list[Expression] = []
        for reference in symbol.references:
            if reference is parameter.reference:
                continue
            part = self.part_under(reference)
            if part is None or reference.scope.is_apart_from(function.scope):
                return []
            found.append(part)
        return sorted(found, key=lambda part: part.start)

    def part_under(self, reference: Reference) -> Expression | None:
        """The element of the list of which a name is the number, and that is not given another value itself."""
        name = self.surroundings.of_reference(reference)
        part = self.surroundings.around(name) if name is not None else None
        if part is None or part.sense is not Sense.PART or part.parts[1] is not name:
            return None
        return part if is_named(part.parts[0], self.container) and not is_place(self.surroundings, part) else None

    @staticmethod
    def is_asked_first(function: Function, element: Expression) -> bool:
        """Whether a function asks for an element before it does anything else."""
        first = next((s for s in function.body.statements if not s.is_text), None)
        if (
            first is None
            or first.kind not in _PLAIN
            or not first.start <= element.start < (first.header_end or first.end)
        ):
            return False
        before = [r for r in first.references if r.start < element.start]
        is_idle = all(r.symbol.origin is Origin.BUILTIN and r.mode is Mode.CALL for r in before)
        return is_idle and not any(call.end <= element.start for call in first.calls)

    def may_change(self, function: Function) -> bool:
        """Whether the list may become another, or other things be in it, while a function runs."""
        run = {function, *self.effects.reached_from([function])}
        return any(changes(self.surroundings, self.container, r.scope) for r in run if r is not None)

    def argument(self, call: Expression, function: Function, parameter: Parameter) -> Expression | None:
        """The number that a call gives, if nothing is worked out beside it."""
        number = self.calls.argument_of(call, function, parameter)
        if number is None or any(call.names):
            return None
        others = [part for at, part in enumerate(call.parts[1:]) if at != number]
        return call.parts[1 + number] if all(part.sense in _STILL for part in others) else None

    def knows_container(self, argument: Expression) -> bool:
        """Whether the list has its name where a call stands."""
        call = self.surroundings.around(argument)
        callee = call.parts[0].reference if call is not None else None
        return callee is not None and callee.scope.find(self.container.name) is self.container

    # -- whether there is such an element

    def is_there(self, number: Expression, seen: frozenset[Symbol]) -> bool:
        """Whether the list certainly has an element under a number."""
        if not self.only_grows:
            return False
        text = self.module.source.slice(number.span)
        if number.sense is Sense.CONSTANT:
            return text.isdigit() and int(text) < self.begins_with_how_many
        if number.operator is Operator.MINUS and len(number.parts) == 2:
            is_last = self.module.source.slice(number.parts[1].span) == "1"
            return is_last and self.is_count(number.parts[0]) and self.begins_with_how_many > 0
        symbol = number.reference.symbol if number.sense is Sense.NAME and number.reference is not None else None
        return symbol is not None and (self.is_counted(number, symbol) or self.is_given(symbol, seen))

    def is_count(self, expression: Expression) -> bool:
        """Whether an expression is the number of elements."""
        library = self.module.dialect.library
        callee = (
            expression.parts[0].reference if expression.sense is Sense.CALL and len(expression.parts) == 2 else None
        )
        counts = callee is not None and library.handling_by_function(callee.name) is Handling.COUNTS
        return counts and is_named(expression.parts[1], self.container)

    def is_counted(self, number: Expression, symbol: Symbol) -> bool:
        """Whether a name is that of a loop that counts the elements, and the number stands in that loop."""
        if any(r.form is Form.DECLARATION for r in symbol.references):
            return False
        headers = [over_numbers(self.surroundings, name) for name in self.names_of_container]
        headers += [header for _, header in counted_loops(self.module, self.surroundings, self.container)]
        for header in (header for header in headers if header is not None):
            loop = header.statement
            if loop is not None and loop.kind is Kind.EACH and loop.start <= number.start < loop.end:
                inside = [r for r in symbol.bindings if loop.start <= r.start < loop.end]
                if inside == [header.parts[0].reference]:
                    return True
        return False

    def is_given(self, symbol: Symbol, seen: frozenset[Symbol]) -> bool:
        """Whether a name is a parameter that only stands for numbers under which there is an element."""
        if symbol in seen or len(symbol.bindings) != 1:
            return False
        for function in self.module.functions:
            for parameter in function.parameters:
                if parameter.reference.symbol is not symbol:
                    continue
                calls = self.calls.of_function(function)
                arguments = [self.argument(call, function, parameter) for call in calls]
                is_called_only = not self.calls.others.get(function) and not self.module.is_known_outside(function.name)
                return (
                    is_called_only
                    and bool(arguments)
                    and parameter.default is None
                    and all(a is not None and self.is_there(a, seen | {symbol}) for a in arguments)
                )
        return False

    @cached_property
    def names_of_container(self) -> list[Expression]:
        """All places that name the list."""
        found = (self.surroundings.of_reference(reference) for reference in self.container.references)
        return [name for name in found if name is not None]

    @cached_property
    def begins_with_how_many(self) -> int:
        """How many elements are written out where the list gets its value."""
        only = only_value(self.container)
        made = self.surroundings.by_span.get(only.value.span) if only is not None else None
        if made is None or made.sense is not Sense.LIST:
            return 0
        return sum(part.sense is not Sense.SPREAD for part in made.parts)

    @cached_property
    def only_grows(self) -> bool:
        """Whether nothing ever goes out of the list."""
        return all(self.may_not_shrink(r) for r in self.container.references if r.form is not Form.DECLARATION)

    def may_not_shrink(self, reference: Reference) -> bool:
        if reference.binds or only_looks(self.surroundings, reference):
            return True
        name = self.surroundings.of_reference(reference)
        member = self.surroundings.around(name) if name is not None else None
        call = self.surroundings.around(member) if member is not None else None
        if member is None or call is None or member.sense is not Sense.MEMBER or call.sense is not Sense.CALL:
            return False
        handling = self.module.dialect.library.handling_by_method(member.name or "")
        return call.parts[0] is member and handling in _GROWING
