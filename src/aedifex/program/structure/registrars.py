"""Functions of a script that, as decorators, only note what they decorate in a container and give it back."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Function, Kind, Statement
from aedifex.program.structure.state import is_state
from aedifex.source.text import Span

_HELD = frozenset({Sense.LIST, Sense.TUPLE, Sense.TABLE})


class Registrars(Analysis):
    """Which functions do, called with the function itself, or with arguments for what then is."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.surroundings = Surroundings.of(module)
        own = [f for f in module.functions if not f.statement.decorators and len(f.symbol.bindings) == 1]
        self.plain: Collection[Symbol] = {function.symbol for function in own if self._notes(function)}
        self.called: Collection[Symbol] = {function.symbol for function in own if self._makes_one(function)}

    def _makes_one(self, function: Function) -> bool:
        """Whether a function only defines one that notes what it is given, and gives that back."""
        body = self._body(function)
        inner = body[0].routine if len(body) == 2 else None
        if inner is None or inner.statement.decorators:
            return False
        return self._gives_back(body[1], inner.symbol) and self._notes(inner)

    def _notes(self, function: Function) -> bool:
        """Whether a function notes the one thing that it is given, does nothing else with it, and gives it back."""
        if len(function.parameters) != 1 or function.is_async or function.is_generator:
            return False
        noted, body = function.parameters[0].reference.symbol, self._body(function)
        is_plain = len(noted.bindings) == 1 and all(r.scope is function.scope for r in noted.references)
        if not is_plain or len(body) < 2 or not self._gives_back(body[-1], noted):
            return False
        return all(self._keeps(statement, noted) for statement in body[:-1])

    def _body(self, function: Function) -> Sequence[Statement]:
        return [statement for statement in function.body.statements if not statement.is_text]

    def _gives_back(self, statement: Statement, symbol: Symbol) -> bool:
        trees = self.surroundings.by_statement[statement]
        return [is_named(t.parts[0], symbol) for t in trees if t.sense is Sense.RETURN and t.parts] == [True]

    def _keeps(self, statement: Statement, noted: Symbol) -> bool:
        """Whether a statement puts what is noted into a container, under a key or behind the rest."""
        trees = self.surroundings.by_statement[statement]
        if statement.kind not in (Kind.ASSIGN, Kind.EXPRESSION) or len(trees) != 1:
            return False
        tree = trees[0]
        if tree.sense is Sense.SET and len(tree.parts) == 2 and tree.parts[0].sense is Sense.PART:
            container, key = tree.parts[0].parts
            return container.sense is Sense.NAME and self._is_quiet(key, noted) and self._holds(tree.parts[1], noted)
        call = tree.parts[0] if tree.sense is Sense.ALONE else tree
        if call.sense is not Sense.CALL or call.parts[0].sense is not Sense.MEMBER or len(call.parts) != 2:
            return False
        handling = self.module.dialect.library.handling_by_method(call.parts[0].name or "")
        is_named = call.parts[0].parts[0].sense is Sense.NAME and not any(call.names)
        return is_named and handling is Handling.ADDS and self._holds(call.parts[1], noted)

    def _holds(self, expression: Expression, noted: Symbol) -> bool:
        """Whether a value is what is noted, or written out and has that in it."""
        if expression.sense in _HELD:
            return all(self._holds(part, noted) for part in expression.parts)
        return is_named(expression, noted) or self._is_quiet(expression, noted)

    def _is_quiet(self, expression: Expression, noted: Symbol) -> bool:
        """Whether a value is a constant, another name, or the name of what is noted."""
        if expression.sense is Sense.MEMBER:
            is_name = expression.name == self.module.dialect.rules.name_attribute
            return is_name and is_named(expression.parts[0], noted)
        return expression.sense in (Sense.CONSTANT, Sense.NAME) and not is_named(expression, noted)

    def only_notes(self, statement: Statement, decorator: Span) -> bool:
        """Whether a decorator is such a function, is given constants alone, and some that it notes use state."""
        return self._noting(statement, decorator) in self._wanted

    @cached_property
    def _wanted(self) -> Collection[Symbol]:
        """The functions that note some which use state; the others may stay decorators."""
        found: set[Symbol] = set()
        for function in self.module.functions:
            noting = {self._noting(function.statement, span) for span in function.statement.decorators}
            touched = Effects.of(self.module).transitive[function].touches
            if any(is_state(symbol) and symbol.is_module_level for symbol in touched):
                found |= {symbol for symbol in noting if symbol is not None}
        return found

    def _noting(self, statement: Statement, decorator: Span) -> Symbol | None:
        """The function that a decorator is, or calls, where that only notes what it decorates."""
        inside = self.module.references_within(decorator)
        calls = [call for call in statement.calls if decorator.start <= call.start < decorator.end]
        if len(inside) != 1 or inside[0].path or len(calls) > 1:
            return None
        is_known = inside[0].symbol in (self.called if calls else self.plain)
        return inside[0].symbol if is_known else None
