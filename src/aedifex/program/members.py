"""The members of a class, and every place of a program that mentions them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.names import Access, AccessKind, Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.program import Module, Program
from aedifex.program.statements import Kind, Statement


@dataclass(frozen=True, slots=True)
class Mention:
    """One place where a member is named after an object: step number `at` of a reference's path."""

    module: Module
    reference: Reference
    at: int

    @property
    def access(self) -> Access:
        """The step itself."""
        return self.reference.path[self.at]

    @property
    def is_write(self) -> bool:
        """Whether the member gets another value here."""
        mode = self.reference.path_mode
        return self.at == len(self.reference.path) - 1 and mode is not None and mode.writes

    @property
    def is_inside(self) -> bool:
        """Whether the object is the receiver of a method."""
        return self.at == 0 and receiver_class(self.reference.symbol) is not None


def receiver_class(symbol: Symbol) -> Scope | None:
    """The class whose method has this symbol as its receiver."""
    routine = symbol.scope.routine
    home = symbol.scope.parent
    if routine is None or home is None or home.kind is not ScopeKind.CLASS or not routine.parameters:
        return None
    if routine.parameters[0].name != symbol.name or len(symbol.bindings) != 1:
        return None
    is_static = routine.statement is None or bool(routine.statement.decorators)
    return None if is_static else home


class Members:
    """The members of one class of a program.

    An object's class is known where the object is a receiver, or a variable or field that is bound once, to a new
    object of that class. A mention on any other object is a stranger: it may or may not mean the class.
    """

    def __init__(self, program: Program, module: Module, scope: Scope) -> None:
        self.program = program
        self.module = module
        self.scope = scope
        self._classes = {
            statement.defines: (owner, statement)
            for owner in program.modules.values()
            for statement in owner.walk()
            if statement.defines is not None and statement.defines.kind is ScopeKind.CLASS
        }

    @property
    def statement(self) -> Statement:
        """The class's definition."""
        return self._classes[self.scope][1]

    @cached_property
    def fields(self) -> list[str]:
        """The names that methods give values to on their receiver, in the order of the text."""
        found: dict[str, None] = {}
        for mention in self._all:
            if mention.is_inside and mention.is_write and mention.access.name not in self.scope.symbols:
                found[mention.access.name or ""] = None
        return list(found)

    @property
    def methods(self) -> list[str]:
        """The names bound in the class itself."""
        return list(self.scope.symbols)

    def mentions(self, name: str) -> list[Mention]:
        """The places that certainly mean this member."""
        return [mention for mention in self._all if mention.access.name == name]

    def strangers(self, name: str) -> int:
        """How many mentions of the word may or may not mean this member."""
        return self._strangers[name]

    @cached_property
    def is_plain(self) -> bool:
        """Whether nothing is inherited: no bases, no decorators, and no class of the program names this one."""
        if self.statement.decorators or self._is_derived(self.statement):
            return False
        symbol = next(r.symbol for r in self.statement.references if r.mode.writes)
        return not any(
            reference.symbol.final is symbol and reference.mode is Mode.READ
            for _, other in self._classes.values()
            if other is not self.statement
            for reference in other.references
        )

    def _is_derived(self, statement: Statement) -> bool:
        return any(r.mode.reads and r.name != "object" for r in statement.references)

    # -- finding the mentions

    @cached_property
    def _all(self) -> list[Mention]:
        return [mention for mention, home in self._known if home is self.scope]

    @cached_property
    def _known(self) -> list[tuple[Mention, Scope | None]]:
        return [found for module in self.program.modules.values() for found in self._steps(module)]

    def _steps(self, module: Module) -> Iterator[tuple[Mention, Scope | None]]:
        for reference in module.references:
            home = self._class_of(reference.symbol)
            for at, access in enumerate(reference.path):
                if access.kind is AccessKind.ATTRIBUTE and access.name is not None:
                    yield Mention(module, reference, at), home
                    home = self._held.get((home, access.name)) if home is not None else None
                else:
                    home = None

    @cached_property
    def _strangers(self) -> Counter[str]:
        """All mentions, less those whose object is of this class, or certainly of another."""
        found: Counter[str] = Counter()
        for module in self.program.modules.values():
            for statement in module.walk():
                found.update(statement.attributes)
        for mention, home in self._known:
            is_other = home is not None and not self._is_derived(self._classes[home][1])
            is_library = home is None and mention.at == 0 and self._is_import(mention.reference.symbol)
            if home is self.scope or is_other or is_library:
                found[mention.access.name or ""] -= 1
        return found

    def _is_import(self, symbol: Symbol) -> bool:
        return symbol.brought is not None and symbol.target is None and symbol.module_scope is None

    def _class_of(self, symbol: Symbol) -> Scope | None:
        """The class of the one object that a name holds, where it is known."""
        found = receiver_class(symbol)
        if found is not None:
            return found
        if len(symbol.references) == 0 or len([r for r in symbol.references if r.mode.writes]) != 1:
            return None
        statement = next(r.statement for r in symbol.references if r.mode.writes)
        if statement is None or statement.assignment is None:
            return None
        pair = next((p for p in statement.assignment.pairs if p.target.symbol is symbol), None)
        return self._made_by(statement, pair.value.start, pair.value.end) if pair is not None else None

    @cached_property
    def _held(self) -> dict[tuple[Scope | None, str], Scope | None]:
        """The class of the object that each field holds, where one assignment to a new object says so."""
        held: dict[tuple[Scope | None, str], Scope | None] = {}
        for module in self.program.modules.values():
            for reference in module.references:
                home = receiver_class(reference.symbol)
                if home is None or not reference.path or reference.path[0].name is None:
                    continue
                mode = reference.path_mode
                if len(reference.path) == 1 and mode is not None and mode.writes:
                    key = (home, reference.path[0].name)
                    held[key] = None if key in held else self._assigned(reference)
        return held

    def _assigned(self, reference: Reference) -> Scope | None:
        statement = reference.statement
        if statement is None or statement.kind is not Kind.ASSIGN or statement.assignment is None:
            return None
        value = statement.assignment.value
        if value is None or len(statement.assignment.targets) != 1:
            return None
        if statement.assignment.targets[0] != (reference.start, reference.path[0].end):
            return None
        return self._made_by(statement, value.start, value.end)

    def _made_by(self, statement: Statement, start: int, end: int) -> Scope | None:
        for call in statement.calls:
            if (call.start, call.end) == (start, end) and call.callee is not None:
                return self._scope_by_symbol.get(call.callee.final)
        return None

    @cached_property
    def _scope_by_symbol(self) -> dict[Symbol, Scope]:
        found: dict[Symbol, Scope] = {}
        for scope, (_, statement) in self._classes.items():
            symbol = next((r.symbol for r in statement.references if r.mode.writes), None)
            if symbol is not None and len([r for r in symbol.references if r.mode.writes]) == 1:
                found[symbol] = scope
        return found
