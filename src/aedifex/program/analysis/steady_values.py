"""Arguments whose value is the same whether they are worked out where they stand or before the statements around."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import writes
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.talk import Talk
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Origin, ScopeKind, Symbol
from aedifex.program.model.statements import Function, Kind, Leave, Routine, Statement
from aedifex.program.structure.state import is_state

_PLAIN = frozenset({Kind.EXPRESSION, Kind.ASSIGN})
_MADE_OF_PARTS = frozenset(
    {
        Sense.TUPLE, Sense.MEMBER, Sense.PART, Sense.OPERATION, Sense.SUM, Sense.CHOICE, Sense.EITHER, Sense.NOT,
        Sense.SAME, Sense.KIND, Sense.EQUAL, Sense.WITHIN, Sense.TEXT,
    }
)  # fmt: skip
_OUT_BY_OUT = frozenset({Leave.YIELD, Leave.AWAIT})
_LEAVES = frozenset({Sense.CONSTANT, Sense.NOTHING})
_FEWEST_PARTS = 3
_PASSED_OVER = _MADE_OF_PARTS | _LEAVES | {Sense.NAME, Sense.ALONE, Sense.SET}


class SteadyValues(Analysis):
    """Tells the arguments that a run of statements could as well be given.

    The run may do nothing but call what is known of libraries neither to call the program back nor to change what it
    holds, and to give names to what comes back. A steady argument reads names that the run does not set, and calls
    nothing but what only reads. Behind the first call that leaves a trace it must not be able to fail either;
    where an error may be caught, any call leaves one.
    """

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.surroundings = Surroundings.of(module)
        self.effects = Effects.of(module)
        self.talk = Talk.of(module)
        self.library = module.dialect.library
        self.own_methods = {f.name for f in module.all_functions if f.is_method}

    def in_run(self, run: Sequence[Statement]) -> list[Expression] | None:
        """The outermost steady arguments of a run, in the order of the text; None for a run that does other things."""
        if self._is_never or any(statement.kind not in _PLAIN or statement.blocks for statement in run):
            return None
        if any(block.owner is not None and block.owner.kind is Kind.GUARDED for block in run[0].block.outwards()):
            return None
        set_here = writes(run)
        if any(symbol.is_module_level and is_state(symbol) for symbol in set_here):
            return None
        search = _Search(self, set_here, is_watched=self._is_watched(run[0]))
        trees = (tree for statement in run for tree in self.surroundings.by_statement[statement])
        if not all(search.visit(tree) for tree in trees):
            return None
        return sorted(search.found, key=lambda expression: expression.start)

    @cached_property
    def _guarded(self) -> set[Routine]:
        """The routines whose errors may be caught, so that what was done before one can be seen after it."""
        guards = (statement for statement in self.module.walk() if statement.kind is Kind.GUARDED)
        return {routine for statement in guards for routine in self.effects.may_run_in(statement)}

    def _is_watched(self, statement: Statement) -> bool:
        """Whether the routine in which a statement stands is one of those."""
        routines = (block.routine for block in statement.block.outwards())
        return any(routine in self._guarded for routine in routines if routine is not None)

    @cached_property
    def _is_never(self) -> bool:
        """Whether what the language itself calls, and may run anywhere, does more than to look at something."""
        rules = self.module.dialect.rules
        methods = (f for f in self.module.all_functions if f.is_method and rules.is_implicit_method(f.name))
        return any(not rules.is_constructor(f.name) and not self._only_looks(f) for f in methods)

    def _only_looks(self, method: Function) -> bool:
        """Whether a method changes nothing, and calls nothing but builtin functions that do not either."""
        calls = [call.callee for statement in method.body.walk() for call in statement.calls]
        known = [c for c in calls if c is not None and not c.path and c.symbol.origin is Origin.BUILTIN]
        does_nothing = all(self.library.does_nothing(callee.name) for callee in known)
        return len(known) == len(calls) and does_nothing and not self.effects.transitive[method].writes

    def is_harmless(self, call: Expression) -> bool:
        """Whether a call is known to leave the program alone."""
        callee = call.parts[0]
        if callee.sense is Sense.MEMBER:
            name = callee.name or ""
            is_of_container = self.library.handling_by_method(name) is not None
            return self.library.leaves_program_alone(name) and name not in self.own_methods and not is_of_container
        return self._is_reading_builtin(callee)

    def _is_reading_builtin(self, callee: Expression) -> bool:
        symbol = callee.reference.symbol if callee.reference is not None and callee.sense is Sense.NAME else None
        is_builtin = symbol is not None and symbol.scope.kind is ScopeKind.OUTSIDE and symbol.origin is Origin.BUILTIN
        if not is_builtin or symbol is None or symbol.name == self.library.asks:
            return False
        return self.library.makes_plain_values(symbol.name)

    @cached_property
    def _changed_from_outside(self) -> set[Symbol]:
        """What routines change that were handed on, and that nobody sees being called."""
        effects = self.effects
        return {symbol for routine in effects.escaping for symbol in effects.transitive[routine].writes}

    def keeps(self, expression: Expression) -> bool:
        """Whether nothing that was handed on changes what an expression names."""
        names = (e.reference.symbol for e in expression.walk() if e.reference is not None)
        return self._changed_from_outside.isdisjoint(names)

    def is_steady(self, expression: Expression, set_here: set[Symbol]) -> bool:
        """Whether an expression only looks at what is there, and at nothing that is set meanwhile."""
        if expression.sense is Sense.NAME:
            return expression.reference is not None and expression.reference.symbol not in set_here
        if expression.sense is Sense.CALL:
            return self._only_reads(expression) and all(self.is_steady(part, set_here) for part in expression.parts[1:])
        if expression.sense in _LEAVES:
            return True
        if expression.sense not in _MADE_OF_PARTS:
            return False
        return all(self.is_steady(part, set_here) for part in expression.parts)

    def _only_reads(self, call: Expression) -> bool:
        """Whether a call does no more than to look at something: of a builtin, of a text, or of a quiet function."""
        callee = call.parts[0]
        if callee.sense is Sense.MEMBER:
            return callee.parts[0].sense is Sense.CONSTANT
        if self._is_reading_builtin(callee):
            return True
        symbol = callee.reference.symbol if callee.reference is not None and callee.sense is Sense.NAME else None
        if symbol is None or symbol.forms != {Form.ROUTINE} or len(symbol.bindings) != 1:
            return False
        return all(self._is_quiet(routine) for routine in self._functions(symbol))

    def _functions(self, symbol: Symbol) -> Iterator[Function]:
        return (r for r in self.effects.routines_behind(symbol) if isinstance(r, Function))

    def _is_quiet(self, function: Function) -> bool:
        """Whether a function changes nothing, says nothing, and hands nothing out one by one."""
        effect = self.effects.transitive[function]
        is_plain = not function.statement.decorators and function not in self.talk.routines
        return is_plain and not effect.writes and not effect.outside and not _is_lazy(function)


class _Search:
    """Looks through a run in the order in which it is worked out."""

    def __init__(self, values: SteadyValues, set_here: set[Symbol], *, is_watched: bool) -> None:
        self.values = values
        self.set_here = set_here
        self.is_watched = is_watched
        self.found: list[Expression] = []
        self.is_traced = False

    def visit(self, expression: Expression) -> bool:
        """Gather the steady arguments of an expression; whether all else in it is harmless."""
        if expression.sense is Sense.CALL:
            return self._visit_call(expression)
        if expression.sense not in _PASSED_OVER:
            return False
        return all(map(self.visit, expression.parts))

    def _visit_call(self, call: Expression) -> bool:
        if not self.values.is_harmless(call) or "*" in call.names or "**" in call.names:
            return False
        if not self.visit(call.parts[0]):
            return False
        for argument in call.parts[1:]:
            is_sure = not self.is_traced or (cannot_fail(argument) and self.values.keeps(argument))
            if is_sure and self.values.is_steady(argument, self.set_here):
                self.found += _pieces(argument)
            elif not self.visit(argument):
                return False
        callee = call.parts[0]
        leaves_none = self.values.library.leaves_no_trace(callee.name or "") and not self.is_watched
        if callee.sense is Sense.MEMBER and not leaves_none:
            self.is_traced = True
        return True


def _pieces(argument: Expression) -> list[Expression]:
    """An argument, or the parts of a place and the like, of which perhaps one only differs."""
    is_whole = argument.sense is not Sense.TUPLE or is_plain_value(argument)
    return [argument] if is_whole else argument.parts


def is_plain_value(expression: Expression) -> bool:
    """Whether an expression is a number or text written out, a negative number, or some numbers that are one value."""
    if expression.sense is Sense.TUPLE:
        return len(expression.parts) >= _FEWEST_PARTS and all(part.sense is Sense.CONSTANT for part in expression.parts)
    is_signed = expression.sense is Sense.OPERATION and len(expression.parts) == 1
    return expression.sense is Sense.CONSTANT or (is_signed and expression.parts[0].sense is Sense.CONSTANT)


def cannot_fail(expression: Expression) -> bool:
    """Whether a value is there without anything being worked out: a name, what is written out, or several of these."""
    if expression.sense is Sense.TUPLE:
        return all(map(cannot_fail, expression.parts))
    if expression.sense is Sense.MEMBER:
        base = expression.parts[0].reference
        return base is not None and base.symbol.imported is not None and base.symbol.imported.name is None
    is_signed = expression.sense is Sense.OPERATION and len(expression.parts) == 1
    return expression.sense in (*_LEAVES, Sense.NAME) or (is_signed and expression.parts[0].sense is Sense.CONSTANT)


def _is_lazy(function: Function) -> bool:
    return any(leave in _OUT_BY_OUT for statement in function.body.walk() for leave in statement.leaves)
