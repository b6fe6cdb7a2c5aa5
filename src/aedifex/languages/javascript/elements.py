"""What is certainly an element of the page, the page itself, or its window."""

from __future__ import annotations

import re
from functools import cached_property

from aedifex.languages.javascript.library import facts
from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Lambda
from aedifex.source.text import Span

_PAGES = frozenset({"document", "window"})
_OF_PAGE = frozenset({"body", "documentElement", "head"})
_ONE = facts.FINDING_ONE | {"createElement", "closest", "cloneNode"}
_MANY = facts.FINDING - _ONE
_EACH = "forEach"
_ASKED_BY = frozenset({"$", "jQuery"})
_SELECTING = re.compile(r"""["'`]\s*[#.\[]""")


class Elements(Analysis):
    """Tells of expressions of one file whether they give an element, or several."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self._surroundings = Surroundings.of(module)
        self._lambdas = {
            parameter.reference: (routine, number)
            for routine in module.routines
            if isinstance(routine, Lambda)
            for number, parameter in enumerate(routine.parameters)
        }
        self._asked: set[Symbol] = set()

    def is_one(self, expression: Expression) -> bool:
        """Whether it gives one, wherever it gives anything."""
        sense, parts = expression.sense, expression.parts
        if sense is Sense.NAME and expression.reference is not None:
            symbol = expression.reference.symbol
            is_page = symbol.scope.kind is ScopeKind.OUTSIDE and symbol.name in _PAGES
            return is_page or self._always(symbol, is_many=False)
        if sense is Sense.MEMBER:
            return expression.name in _OF_PAGE and self.is_one(parts[0])
        if sense is Sense.PART:
            return self.are_several(parts[0])
        if sense is Sense.CALL:
            return parts[0].sense is Sense.MEMBER and parts[0].name in _ONE and self.is_one(parts[0].parts[0])
        return False

    def are_several(self, expression: Expression) -> bool:
        """Whether it gives a list of such."""
        sense, parts = expression.sense, expression.parts
        if sense is Sense.NAME and expression.reference is not None:
            return self._always(expression.reference.symbol, is_many=True)
        if sense is Sense.LIST:
            return all(self.are_several(p.parts[0]) if p.sense is Sense.SPREAD else self.is_one(p) for p in parts)
        if sense is Sense.CALL and parts[0].sense is Sense.MEMBER:
            if parts[0].name == "from" and len(parts) == 2 and parts[0].parts[0].sense is Sense.NAME:
                return self.are_several(parts[1])  # there is nothing but `Array` that has it and takes such lists
            return parts[0].name in _MANY and self.is_one(parts[0].parts[0])
        return False

    def are_asked_for(self, expression: Expression) -> bool:
        """Whether it gives what the usual library for pages asks for by a selector, or makes of a part of the page.

        What its methods give are such, too, where they are told of listeners.
        """
        sense, parts = expression.sense, expression.parts
        if sense is Sense.NAME and expression.reference is not None:
            return self._is_always_asked_for(expression.reference.symbol)
        if sense is Sense.CALL and parts[0].sense is Sense.MEMBER:
            return self.are_asked_for(parts[0].parts[0])
        return self._asks(expression) and self._is_usual_library and self._is_asked_for(parts[1])

    @cached_property
    def members_asked_for(self) -> set[str]:
        """The members that something asks for, or calls, and not only sets, be it by a text: `button["onclick"]()`."""
        found: set[str] = set()
        for expression in (e for tree in self._surroundings.trees for e in tree.walk()):
            by_text = expression.parts[1].name if expression.sense is Sense.PART else None
            name = expression.name if expression.sense is Sense.MEMBER else by_text
            around = self._surroundings.around(expression) if name else None
            is_set = around is not None and around.sense is Sense.SET and around.parts[0] is expression
            found |= {name} if name and not is_set else set()
        return found

    def _is_always_asked_for(self, symbol: Symbol) -> bool:
        """Whether the only thing that a name is ever given is such."""
        if symbol in self._asked or len(symbol.bindings) != 1:
            return False
        self._asked.add(symbol)
        try:
            given = self._given(symbol.bindings[0])
            return given is not None and self.are_asked_for(given)
        finally:
            self._asked.discard(symbol)

    def _asks(self, expression: Expression) -> bool:
        """Whether it calls what the usual library for pages is called."""
        called = expression.parts[0].reference if expression.sense is Sense.CALL and len(expression.parts) > 1 else None
        is_outside = called is not None and called.symbol.scope.kind is ScopeKind.OUTSIDE and not called.path
        return called is not None and is_outside and called.name in _ASKED_BY

    def _is_asked_for(self, given: Expression) -> bool:
        """Whether it is a text that selects elements, or a part of the page."""
        text = self.module.dialect.writer.text_value(self.module.source.slice(given.span)) or ""
        return (bool(text) and not text.lstrip().startswith("<")) or self.is_one(given)

    @cached_property
    def _is_usual_library(self) -> bool:
        """Whether the script asks by its name for what only that library gives: for all of a class, or the page."""
        asked = [e.parts[1] for tree in self._surroundings.trees for e in tree.walk() if self._asks(e)]
        return any(self.is_one(e) or _SELECTING.match(self.module.source.slice(e.span)) for e in asked)

    def _given(self, binding: Reference) -> Expression | None:
        """The value that a name gets in an assignment."""
        target = self._surroundings.of_reference(binding)
        around = self._surroundings.around(target) if target is not None else None
        is_set = around is not None and around.sense is Sense.SET and len(around.parts) == 2
        return around.parts[1] if around is not None and is_set and around.parts[0] is target else None

    def _always(self, symbol: Symbol, *, is_many: bool) -> bool:
        """Whether all that a name is ever given is one, or are several; nothing at all does not count."""
        is_elsewhere = symbol.is_module_level and symbol.name in self.module.set_elsewhere
        if symbol in self._asked or symbol.scope.kind is ScopeKind.OUTSIDE or is_elsewhere:
            return False
        self._asked.add(symbol)
        try:
            found = [self._is_given(binding, is_many=is_many) for binding in symbol.bindings]
        finally:
            self._asked.discard(symbol)
        return bool(found) and all(found)

    def _is_given(self, binding: Reference, *, is_many: bool) -> bool:
        if binding in self._lambdas:
            return not is_many and self._is_of_each(*self._lambdas[binding])
        target = self._surroundings.of_reference(binding)
        around = self._surroundings.around(target) if target is not None else None
        if around is None or around.parts[0] is not target or len(around.parts) != 2:
            return False
        if around.sense is Sense.WALK:
            return not is_many and self.are_several(around.parts[1])
        if around.sense is Sense.SET:
            value = around.parts[1]
            return value.sense is Sense.NOTHING or (self.are_several(value) if is_many else self.is_one(value))
        return False

    def _is_of_each(self, routine: Lambda, number: int) -> bool:
        """Whether a parameter is the first of a function that is called with each of several elements."""
        written = self._surroundings.by_span.get(Span(routine.scope.start, routine.scope.end))
        call = self._surroundings.around(written) if written is not None else None
        if number or call is None or call.sense is not Sense.CALL or call.parts[1:2] != [written]:
            return False
        callee = call.parts[0]
        return callee.sense is Sense.MEMBER and callee.name == _EACH and self.are_several(callee.parts[0])
