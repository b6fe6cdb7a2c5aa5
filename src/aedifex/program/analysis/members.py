"""The members of a class, and every place of a program that mentions them."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.cached import cached
from aedifex.program.analysis.reflection import reaches_members
from aedifex.program.model.module import Module
from aedifex.program.model.names import Access, AccessKind, Form, Mode, Origin, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Kind, Statement, Value


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
    return symbol.scope.parent if routine is not None and routine.receiver is symbol else None


def is_empty_field(reference: Reference) -> bool:
    """Whether a class says by a name that each of its objects has such a field, and gives it nothing."""
    statement = reference.statement
    given = statement.assignment if statement is not None and statement.start == reference.start else None
    is_empty = given is not None and given.value is None and given.annotation is None
    return is_empty and reference.scope.kind is ScopeKind.CLASS and reference.form is Form.TARGET


def lone_value(reference: Reference) -> Value | None:
    """What a member gets where it is the one target of a plain assignment: `self.load = …`."""
    statement, assignment = reference.statement, reference.statement.assignment if reference.statement else None
    if statement is None or statement.kind is not Kind.ASSIGN or assignment is None or len(reference.path) != 1:
        return None
    return assignment.value if assignment.targets == ((reference.start, reference.path[0].end),) else None


class Mentions:
    """All mentions of members in a program, each with the class of the object where that is known.

    It is known where the object is a receiver, or a variable or field that is bound once, to a new object.
    """

    def __init__(self, program: Program) -> None:
        self.program = program
        self.classes = {
            statement.defines: (owner, statement)
            for owner in program.modules.values()
            for statement in owner.walk()
            if statement.defines is not None and statement.defines.kind is ScopeKind.CLASS
        }
        self._receivers: dict[Symbol, Scope | None] = {}

    @classmethod
    def of(cls, program: Program) -> Mentions:
        """The mentions of a program, worked out once."""
        return cached(program.answers, cls, lambda: cls(program))

    @cached_property
    def known(self) -> list[tuple[Mention, Scope | None]]:
        """Every mention that begins with a name, in the order of the text."""
        return [found for module in self.program.modules.values() for found in self._steps(module)]

    @cached_property
    def by_class(self) -> dict[Scope | None, dict[str, list[Mention]]]:
        """The mentions whose object is known, by class and member."""
        found: dict[Scope | None, dict[str, list[Mention]]] = defaultdict(lambda: defaultdict(list))
        for mention, home in self.known:
            found[home][mention.access.name or ""].append(mention)
        return found

    @cached_property
    def unsure(self) -> Counter[str]:
        """How often each word is mentioned on objects that may be of any class."""
        found: Counter[str] = Counter()
        for module in self.program.modules.values():
            for statement in module.walk():
                found.update(statement.attributes)
        for mention, home in self.known:
            is_other = home is not None and not self.is_derived(home)
            if is_other or (home is None and mention.at == 0 and _is_foreign(mention.reference.symbol)):
                found[mention.access.name or ""] -= 1
        return found

    @cached_property
    def are_looked_up_by_text(self) -> bool:
        """Whether the program may reach members by a text that names them."""
        modules = self.program.modules.values()
        rules = self.program.dialect.rules
        return any(reaches_members(module, statement) for module in modules for statement in module.walk()) or any(
            rules.names_member(module.source.slice(span)) for module in modules for span in module.strings
        )

    def is_derived(self, scope: Scope) -> bool:
        """Whether a class names bases, or anything else in its heading."""
        return any(
            r.mode.reads and not self.program.dialect.rules.is_root_class(r.name)
            for r in self.classes[scope][1].references
        )

    def _steps(self, module: Module) -> Iterator[tuple[Mention, Scope | None]]:
        for reference in module.references:
            if not reference.path:
                continue
            home = self._class_of(reference.symbol)
            for at, access in enumerate(reference.path):
                if access.kind is AccessKind.ATTRIBUTE and access.name is not None:
                    yield Mention(module, reference, at), home
                    home = self._held.get((home, access.name)) if home is not None else None
                else:
                    home = None

    def _class_of(self, symbol: Symbol) -> Scope | None:
        """The class of the one object that a name holds, where it is known."""
        if symbol not in self._receivers:
            self._receivers[symbol] = receiver_class(symbol) or self._bound_to(symbol)
        return self._receivers[symbol]

    def _bound_to(self, symbol: Symbol) -> Scope | None:
        writes = [r for r in symbol.references if r.mode.writes]
        statement = writes[0].statement if len(writes) == 1 else None
        if statement is None or statement.assignment is None:
            return None
        pair = next((p for p in statement.assignment.pairs if p.target.symbol is symbol), None)
        return self._made_by(statement, pair.value.start, pair.value.end) if pair is not None else None

    def held_in(self, home: Scope, field: str) -> Scope | None:
        """The class of the one object that a field of a class always holds, where one assignment says so."""
        return self._held.get((home, field))

    @cached_property
    def _held(self) -> dict[tuple[Scope | None, str], Scope | None]:
        """The class of the object that each field holds, where one assignment to a new object says so."""
        held: dict[tuple[Scope | None, str], Scope | None] = {}
        for module in self.program.modules.values():
            for reference in module.references:
                mode = reference.path_mode
                if len(reference.path) != 1 or mode is None or not mode.writes:
                    continue
                home, name = receiver_class(reference.symbol), reference.path[0].name
                if home is not None and name is not None:
                    held[home, name] = None if (home, name) in held else self._assigned(reference)
        return held

    def _assigned(self, reference: Reference) -> Scope | None:
        statement, value = reference.statement, lone_value(reference)
        return self._made_by(statement, value.start, value.end) if statement is not None and value is not None else None

    def _made_by(self, statement: Statement, start: int, end: int) -> Scope | None:
        for call in statement.calls:
            if (call.start, call.end) == (start, end) and call.callee is not None:
                return self._scope_by_symbol.get(call.callee.final)
        return None

    @cached_property
    def _scope_by_symbol(self) -> dict[Symbol, Scope]:
        found: dict[Symbol, Scope] = {}
        for scope, (_, statement) in self.classes.items():
            symbol = next((r.symbol for r in statement.references if r.mode.writes), None)
            if symbol is not None and len([r for r in symbol.references if r.mode.writes]) == 1:
                found[symbol] = scope
        return found


def _is_foreign(symbol: Symbol) -> bool:
    """Whether a name is that of something that an import brings, or that the language itself has."""
    if symbol.origin is Origin.BUILTIN:
        return not any(reference.mode.writes for reference in symbol.references)
    return symbol.imported is not None and symbol.target is None and symbol.module_scope is None


class Members:
    """The members of one class of a program. A mention on an object of unknown class is a stranger."""

    def __init__(self, mentions: Mentions, module: Module, scope: Scope) -> None:
        self.all = mentions
        self.program = mentions.program
        self.module = module
        self.scope = scope

    @property
    def statement(self) -> Statement:
        """The class's definition."""
        return self.all.classes[self.scope][1]

    @cached_property
    def fields(self) -> list[str]:
        """The names that methods give values to on their receiver, in the order of the text."""
        return [
            name
            for name, mentions in self.all.by_class[self.scope].items()
            if name not in self.scope.symbols and any(m.is_inside and m.is_write for m in mentions)
        ]

    @cached_property
    def empty_fields(self) -> list[str]:
        """The fields that the class says its objects have, and gives no value: `level;`."""
        symbols = self.scope.symbols.items()
        return [name for name, symbol in symbols if symbol.references and all(map(is_empty_field, symbol.references))]

    @property
    def methods(self) -> list[str]:
        """The names bound in the class itself."""
        return list(self.scope.symbols)

    @cached_property
    def functions(self) -> list[Function]:
        """The functions that the class itself defines, in the order of the text."""
        return [function for function in self.module.all_functions if function.symbol.scope is self.scope]

    @property
    def constructor(self) -> Function | None:
        """The method that sets up a new object."""
        return next((r for r in self.functions if self.module.dialect.rules.is_constructor(r.name)), None)

    def mentions(self, name: str) -> list[Mention]:
        """The places that certainly mean this member."""
        return self.all.by_class[self.scope].get(name, [])

    def strangers(self, name: str) -> int:
        """How many mentions of the word may or may not mean this member."""
        return self.all.unsure[name] - (len(self.mentions(name)) if self.all.is_derived(self.scope) else 0)

    @cached_property
    def is_plain(self) -> bool:
        """Whether nothing is inherited: no bases, no decorators, and no class of the program names this one."""
        if self.statement.decorators or self.all.is_derived(self.scope):
            return False
        symbol = next(r.symbol for r in self.statement.references if r.mode.writes)
        return not any(
            reference.symbol.final is symbol and reference.mode is Mode.READ
            for _, other in self.all.classes.values()
            if other is not self.statement
            for reference in other.references
        )
