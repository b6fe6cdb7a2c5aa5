"""All that a name is ever given, where the whole program tells."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import value_of
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Function, Kind, Parameter
from aedifex.survey.kinds.objects import ObjectCalls

_FOLLOWED = frozenset({ScopeKind.MODULE, ScopeKind.ROUTINE})
_SPREAD = frozenset({"*", "**"})


@dataclass(frozen=True)
class Giving:
    """A value that a name is given; where it `is_walked`, what is in the value, one by one."""

    value: Expression
    is_walked: bool = False


class Givings(Analysis):
    """Finds the values of assignments, loops and arguments."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self._surroundings = Surroundings.of(module)
        self._calls = ObjectCalls.of(module)
        self._found: dict[Symbol, list[Giving] | None] = {}
        self._parameters: dict[Symbol, tuple[Function, Parameter]] = {
            parameter.reference.symbol: (function, parameter)
            for function in module.functions
            for parameter in function.parameters
        }

    def of_symbol(self, symbol: Symbol) -> list[Giving] | None:
        """Everything that a name is given; None where there may be more."""
        if symbol not in self._found:
            is_followed = symbol.scope.kind in _FOLLOWED and not self.module.is_known_outside(symbol.name)
            givings = [giving for reference in symbol.references for giving in self._at(reference)]
            known = [giving for giving in givings if giving is not None]
            self._found[symbol] = known if is_followed and known and len(known) == len(givings) else None
        return self._found[symbol]

    def _at(self, reference: Reference) -> Iterator[Giving | None]:
        """What one mention of a name gives it: None for what is not known, nothing where it is only read."""
        if reference.mode is Mode.DELETE:
            yield None
        elif reference.form is Form.PARAMETER:
            yield from self._of_parameter(reference.symbol)
        elif reference.binds:
            yield self._of_binding(reference)

    def _of_binding(self, reference: Reference) -> Giving | None:
        statement, value = reference.statement, value_of(reference)
        if statement is None:
            return None
        if reference.form is Form.LOOP and statement.kind is Kind.EACH:
            name = self._surroundings.of_reference(reference)
            header = self._surroundings.around(name) if name is not None else None
            is_plain = header is not None and header.sense is Sense.WALK and header.parts[0] is name
            return Giving(header.parts[1], is_walked=True) if header is not None and is_plain else None
        found = self._surroundings.by_span.get(value.span) if value is not None else None
        return Giving(found) if found is not None and statement.kind is Kind.ASSIGN else None

    def _of_parameter(self, symbol: Symbol) -> Iterator[Giving | None]:
        if symbol not in self._parameters:
            yield None
            return
        function, parameter = self._parameters[symbol]
        calls = self._calls.of_function(function)
        is_only_called = not self._calls.others.get(function) and not self._calls.bindings_of(function)
        if (
            not is_only_called
            or not calls
            or parameter.default is not None
            or self.module.is_known_outside(function.name)
        ):
            yield None
            return
        for call in calls:
            number = self._calls.argument_of(call, function, parameter)
            is_spread = any(name in _SPREAD for name in call.names)
            yield Giving(call.parts[1 + number]) if number is not None and not is_spread else None
