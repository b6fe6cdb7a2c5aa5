"""Functions that something finds by their names, and those at the end of a file that only hand on to others."""

from __future__ import annotations

from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import Origin, Reference, Symbol
from aedifex.program.model.statements import BRINGING, Function, Kind, Statement
from aedifex.program.structure.own_names import routines_apart, uses_own
from aedifex.program.structure.state import Constants, is_state

_OUTSIDE = frozenset({Origin.UNKNOWN, Origin.PERHAPS_STAR})


class Fronts(Analysis):
    """Finds what stands in front of a program that a runner calls: functions under the names that it looks for.

    Where all these stand last, each hands what it is given on to a function of the script, and nothing comes behind
    them but what lets the runner begin, the others can become methods, and the fronts ask the object that has them.
    """

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.effects = Effects.of(module)
        self.constants = Constants.of(module)

    @cached_property
    def wanted(self) -> list[Function]:
        """The functions that are found by their names and use variables of the script: each needs a front."""
        found, looks_inside = self.module.found_by_name, self.module.dialect.library.looks_inside
        if self._begins_early or self.unable is not None or any(name in found for name in self._state):
            return []
        return [] if any(looks_inside(found[function.name]) for function in self._outer) else self._outer

    @cached_property
    def unable(self) -> Function | None:
        """The first that would need a front and cannot have one."""
        return next((function for function in self._outer if not self.can_have_front(function)), None)

    @cached_property
    def _outer(self) -> list[Function]:
        """The functions that are found by their names and use variables of the script, and could be methods."""
        apart = [span.start for span in routines_apart(self.module)]
        outer = [f for f in self.module.functions if f.name in self.module.found_by_name and self._uses_state(f)]
        return [function for function in outer if function.scope.start not in apart]

    def can_have_front(self, function: Function) -> bool:
        """Whether another function can stand in its place: nothing decorates it, and no one notices that it waits.

        Nor may it ask for what it alone has, as for all that it was given.
        """
        rules = self.module.dialect.rules
        is_alone = rules.has_receiver(self.module, function) and uses_own(function)
        return not function.statement.decorators and not is_alone and rules.may_wait_behind(function)

    @cached_property
    def _state(self) -> list[str]:
        return [s.name for s in self.module.scope.symbols.values() if is_state(s) and len(s.bindings) > 1]

    def _uses_state(self, function: Function) -> bool:
        return any(is_state(symbol) for symbol in self.effects.transitive[function].touches)

    @cached_property
    def found(self) -> list[Function]:
        """The functions at the end of the file that are fronts; none where others need one still."""
        by_statement = {function.statement: function for function in self.module.functions}
        fronts: list[Function] = []
        for statement in reversed(self.module.block.statements):
            function = by_statement.get(statement)
            if function is not None and self._hands_on(function):
                fronts.insert(0, function)
            elif not self.begins(statement):
                break
        return fronts if set(self.wanted) <= set(fronts) else []

    @cached_property
    def behind(self) -> set[str]:
        """The names of the functions to which fronts hand on."""
        calls = [call for front in self.found for call in front.deeds[0].calls[:1]]
        return {call.callee.name for call in calls if call.callee is not None}

    def _hands_on(self, function: Function) -> bool:
        """Whether a function only calls another one of the script, or a method, with just what it is given."""
        deeds = function.deeds
        if not function.is_called_from_outside or len(deeds) != 1 or len(deeds[0].calls) != 1:
            return False
        call, given = deeds[0].calls[0], [parameter.reference.symbol for parameter in function.parameters]
        names = [r.symbol for r in self.module.references_within(deeds[0].span) if r is not call.callee]
        called = call.callee.symbol if call.callee is not None else None
        is_own = called is not None and called.is_module_level and called.imported is None
        return is_own and names == given and deeds[0].kind in (Kind.EXPRESSION, Kind.LEAVE)

    @cached_property
    def closing(self) -> list[Statement]:
        """The fronts, and what comes behind them."""
        if not self.found:
            return []
        return self.module.block.statements[self.found[0].statement.index :]

    def begins(self, statement: Statement) -> bool:
        """Whether a statement only lets others begin: the guard, a call of what the runner has, or of what they get."""
        whole = [call.callee for call in statement.calls if call.span == statement.deed]
        is_begun = any(callee is not None and self._is_of_runner(callee) for callee in whole)
        is_begun = is_begun and statement.kind is Kind.EXPRESSION
        return statement is self.module.guard or is_begun or self.only_hands_out(statement)

    def only_hands_out(self, statement: Statement) -> bool:
        """Whether a statement does nothing but say what others get of what stays at the top level."""
        return statement in self._handing

    @cached_property
    def _handing(self) -> set[Statement]:
        return {statement for statement in self.module.block.statements if self._only_hands_out(statement)}

    def _only_hands_out(self, statement: Statement) -> bool:
        if statement.calls or not self.module.dialect.rules.hands_out(self.module, statement):
            return False
        own = [r.symbol for inner in statement.walk() for r in inner.references if r.symbol.is_module_level]
        return statement.kind not in BRINGING and all(map(self._stays, own))

    def _stays(self, symbol: Symbol) -> bool:
        is_used = symbol.name in self.module.used_elsewhere
        return is_used or not is_state(symbol) or self.constants.settles(symbol)

    def _is_of_runner(self, reference: Reference) -> bool:
        """Whether a name is that of something in a library that finds things by their names, or may be."""
        served, imported = self.module.dialect.library.is_served_by_name, reference.symbol.imported
        if imported is not None:
            return served(imported.module)
        return reference.symbol.origin in _OUTSIDE and any(served(name) for name, _ in self.module.stars)

    @cached_property
    def _begins_early(self) -> bool:
        """Whether a runner may begin before the end: it would look for functions that are not there yet, then."""
        last = self.place
        code = self.module.block.statements[: last.index if last is not None else None]
        calls = [c for s in code if s.kind not in BRINGING for inner in s.walk() for c in inner.calls]
        return any(call.callee is not None and self._is_of_runner(call.callee) for call in calls)

    @cached_property
    def place(self) -> Statement | None:
        """The first of the last statements, which let a runner begin; None where there are none."""
        first: Statement | None = None
        for statement in reversed(self.module.block.statements):
            if not self.begins(statement):
                break
            first = statement
        return first
