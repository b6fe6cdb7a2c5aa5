"""The places of a program that hold values: names, what routines give back, and the objects of its classes."""

from __future__ import annotations

from aedifex.program.analysis.holding.holding import Holding, Trace, join, lose
from aedifex.program.model.expressions import Expression
from aedifex.program.model.module import Module
from aedifex.program.model.names import Scope, Symbol
from aedifex.program.model.statements import Function, Routine

KEY, AT, MEMBER = "key:", "at:", "."
"""What the names of the parts of a holding begin with: plain keys, positions, members."""


class Places:
    """The holding of each place of one file; `fields` are those that a library's constructor gives to objects.

    `bases` are the classes of the file that a class comes from, where it comes from no others.
    """

    def __init__(self, module: Module) -> None:
        self.module = module
        self.known: dict[Expression, Holding] = {}
        self._symbols: dict[Symbol, Holding] = {}
        self._results: dict[Routine, Holding] = {}
        self._instances: dict[Scope, Holding] = {}
        self.fields: dict[Scope, tuple[str, ...]] = {}
        self.bases: dict[Scope, list[Scope]] = {}
        self._walked_over: list[tuple[Holding, bool]] = []
        self._functions = sorted(module.all_functions, key=lambda f: f.statement.start)

    def member(self, name: str) -> str:
        """What the part of an object is called that is asked for as its member."""
        dialect = self.module.dialect
        is_key = dialect.rules.keys_are_members and not dialect.library.is_member_of_container(name)
        return (KEY if is_key else MEMBER) + name

    def members_of(self, holding: Holding) -> set[str]:
        """The names of the members that a holding is asked for."""
        marks = (KEY, MEMBER) if self.module.dialect.rules.keys_are_members else (MEMBER,)
        return {part.removeprefix(mark) for part in holding.now.parts for mark in marks if part.startswith(mark)}

    def innermost(self, offset: int) -> Routine | None:
        """The innermost routine around a place, be it nameless."""
        around = [r for r in self.module.routines if r.scope.start <= offset < r.scope.end]
        return max(around, key=lambda r: r.scope.start, default=None)

    @property
    def symbols(self) -> list[Symbol]:
        """All names that were met."""
        return list(self._symbols)

    def of_symbol(self, symbol: Symbol) -> Holding:
        """What a name may mean."""
        return self._symbols.setdefault(symbol, Holding(symbols={symbol: None})).now

    def of_expression(self, expression: Expression) -> Holding:
        """What an expression may give."""
        return self.known[expression].now

    def expressions_of(self, holding: Holding) -> list[Expression]:
        """The expressions that may give what a holding stands for, and the patterns that take it apart."""
        return [expression for expression, held in self.known.items() if held.now is holding]

    def result_of(self, routine: Routine) -> Holding:
        """What a routine may give back."""
        return self._results.setdefault(routine, Holding()).now

    def instance_of(self, scope: Scope) -> Holding:
        """The objects of a class."""
        return self._instances.setdefault(scope, Holding(classes={scope: None})).now

    def everything(self) -> list[Holding]:
        """All holdings, each once."""
        found = [*self._symbols.values(), *self._results.values(), *self._instances.values(), *self.known.values()]
        return list(dict.fromkeys(holding.now for holding in found))

    def routine_around(self, offset: int) -> Function | None:
        """The innermost function around a place."""
        around = [f for f in self._functions if f.statement.start <= offset < f.statement.end]
        return max(around, key=lambda f: f.statement.start, default=None)

    def constructor_of(self, scope: Scope) -> Function | None:
        """The function that sets up the objects of a class, be it that of a class which this comes from."""
        is_constructor = self.module.dialect.rules.is_constructor
        own = next((f for f in self._functions if f.symbol.scope is scope and is_constructor(f.name)), None)
        inherited = (f for base in self.bases.get(scope, ()) if (f := self.constructor_of(base)) is not None)
        return own or next(inherited, None)

    def open(self, routine: Routine, trace: Trace) -> None:
        """Let a routine be called by code that no one can see."""
        for parameter in routine.parameters:
            if parameter.reference.symbol is not routine.receiver:
                holding = self.of_symbol(parameter.reference.symbol)
                holding.foreign = holding.foreign or trace
        lose(self.result_of(routine), trace)

    def pair_of(self, container: Holding) -> Holding:
        """A row of a key and what a container holds under it."""
        row = Holding()
        join(row.part(f"{AT}0"), container.now.any_key())
        join(row.part(f"{AT}1"), container.now.any_element())
        return row

    def walked(self, container: Holding) -> Holding:
        """What comes of a container, one by one: of a table its keys."""
        container = container.now
        self._walked_over.append((container, container.gives_pairs))
        if container.gives_pairs:
            return self.pair_of(container)
        if container.is_table:
            container.any_element()
            return container.now.any_key()
        return container.any_element()

    def lose_misread(self) -> None:
        """What turns out to give pairs only after a walk over it was followed may be known to anyone."""
        for container, gave_pairs in self._walked_over:
            if container.now.gives_pairs != gave_pairs or (gave_pairs and container.now.rows):
                lose(container, Trace(self.module.block.start, "is walked over in two ways"))
