"""Which names may lead to the same object, or to parts of one, so that a change by one of them shows by the other.

The analysis is by unification, insensitive to the order of statements (B. Steensgaard, "Points-to analysis in almost
linear time", POPL 1996), on whole objects: what holds an object counts as the object.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.plain_values import PlainValues
from aedifex.program.analysis.values import may_change_object
from aedifex.program.model.module import Module
from aedifex.program.model.names import TYPE_FORMS, Form, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Argument, Call, Function, Statement, final_name

_NO_OBJECTS = frozenset({Form.IMPORT, Form.ROUTINE})


class Aliases(Analysis):
    """The classes of names that may share an object, and the names whose objects are known outside the program."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.plain = PlainValues.of(module)
        self._parent: dict[Symbol, Symbol] = {}
        self._holding: dict[Symbol, bool] = {}
        self._functions = {function.symbol: function for function in module.all_functions}
        self.escaped: set[Symbol] = set()
        for statement in module.walk():
            self._statement(statement)
        self._members: dict[Symbol, set[Symbol]] = defaultdict(set)
        for symbol in list(self._parent):
            self._members[self._root(symbol)].add(symbol)

    @cached_property
    def changed(self) -> set[Symbol]:
        """All names whose objects the program may change, at whatever time."""
        return self.with_aliases(s for statement in self.module.walk() for s in self.changed_by(statement))

    def with_aliases(self, symbols: Iterable[Symbol]) -> set[Symbol]:
        """Some symbols, and all that may share an object with one of them."""
        found: set[Symbol] = set()
        for symbol in symbols:
            found |= self._members.get(self._root(symbol), set()) | {symbol}
        return found

    def changed_by(self, statement: Statement) -> Iterator[Symbol]:
        """The symbols whose objects a statement's own text may change: by a path, or by what it calls."""
        for reference in statement.references:
            if self._is_changed(reference):
                yield reference.symbol
        for call in statement.calls:
            if not self._only_reads(call):
                yield from self._given(statement, call)

    def _is_changed(self, reference: Reference) -> bool:
        symbol, imported = reference.symbol, reference.symbol.imported
        if symbol.scope.kind is ScopeKind.OUTSIDE or symbol in self.plain:
            return False
        if imported is not None and imported.name is None:
            # Calling a module's function is no change of the module; setting one of its attributes is.
            return reference.path_mode is not None and reference.path_mode.writes
        return may_change_object(reference, self.module)

    # -- unification

    def _statement(self, statement: Statement) -> None:
        bound = [r.symbol for r in statement.references if r.binds and r.form not in _NO_OBJECTS]
        set_inside = [r.symbol for r in statement.references if self._holds_object(r) and self._is_changed(r)]
        read = [r.symbol for r in statement.references if r.mode.reads and self._may_be_kept(statement, r)]
        if bound or set_inside:
            self._unify([*(s for s in bound if s not in self.plain), *set_inside, *read])
        for call in statement.calls:
            self._call(statement, call)
        if statement.returned is not None:
            function = self._function_around(statement)
            inside = [r for r in statement.references if statement.returned.start <= r.start < statement.returned.end]
            kept = [r.symbol for r in inside if r.mode.reads and self._may_be_kept(statement, r)]
            if function is not None and kept:
                self._unify([function.symbol, *kept])

    def _may_be_kept(self, statement: Statement, reference: Reference) -> bool:
        """Whether what a reference reads may be held by something else afterwards."""
        if reference.form in TYPE_FORMS or not self._holds_object(reference):
            return False
        around = [c for c in statement.calls if c.start <= reference.start < c.end and c.callee is not reference]
        innermost = min(around, key=lambda call: call.end - call.start, default=None)
        return innermost is None or not self._only_reads(innermost) or self._keeps(innermost)

    def _keeps(self, call: Call) -> bool:
        """Whether a function that only reads what it is given gives it back in another container."""
        return self.module.dialect.library.keeps_elements(final_name(call.callee))

    def _call(self, statement: Statement, call: Call) -> None:
        function = self._functions.get(call.callee.final) if call.callee is not None else None
        given = list(self._given(statement, call))
        if function is not None and not (call.callee is not None and call.callee.path):
            for position, argument in enumerate(call.arguments):
                inside = list(self._in_argument(statement, argument))
                self._unify([*self._parameters(function, position, argument), *inside])
        elif not self._only_reads(call):
            receiver = [call.callee.symbol] if call.callee is not None and call.callee.path else []
            self._unify([*given, *(s for s in receiver if s.imported is None and s not in self.plain)])
            self.escaped.update(given)

    def _parameters(self, function: Function, position: int, argument: Argument) -> Iterator[Symbol]:
        for number, parameter in enumerate(function.parameters):
            is_named = argument.keyword is not None and argument.keyword == parameter.name
            if is_named or argument.stars or (argument.keyword is None and number == position):
                yield parameter.reference.symbol

    def _given(self, statement: Statement, call: Call) -> Iterator[Symbol]:
        for argument in call.arguments:
            yield from self._in_argument(statement, argument)

    def _in_argument(self, statement: Statement, argument: Argument) -> Iterator[Symbol]:
        for reference in statement.references:
            if argument.start <= reference.start < argument.end and self._holds_object(reference):
                yield reference.symbol

    def _only_reads(self, call: Call) -> bool:
        callee, library = call.callee, self.module.dialect.library
        if callee is None:
            return False
        if callee.path and callee.symbol.imported is None and callee.symbol.scope.kind is not ScopeKind.OUTSIDE:
            return library.only_reads_object(final_name(callee))
        return library.only_reads_arguments(final_name(callee))

    def _holds_object(self, reference: Reference) -> bool:
        """Whether a reference leads to an object that could be changed."""
        symbol = reference.symbol
        if symbol not in self._holding:
            self._holding[symbol] = self._may_hold(symbol)
        return self._holding[symbol]

    def _may_hold(self, symbol: Symbol) -> bool:
        if symbol.scope.kind is ScopeKind.OUTSIDE or symbol in self.plain:
            return False
        is_module = symbol.imported is not None and symbol.imported.name is None
        return not is_module and not symbol.forms <= {Form.ROUTINE}

    def _function_around(self, statement: Statement) -> Function | None:
        outer = statement.outermost.block.routine
        return outer if isinstance(outer, Function) else None

    def _root(self, symbol: Symbol) -> Symbol:
        while (above := self._parent.get(symbol, symbol)) is not symbol:
            symbol = above
        return symbol

    def _unify(self, symbols: Iterable[Symbol]) -> None:
        first: Symbol | None = None
        for symbol in symbols:
            self._parent.setdefault(symbol, symbol)
            if first is not None:
                self._parent[self._root(symbol)] = self._root(first)
            first = symbol
