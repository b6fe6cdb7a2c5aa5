"""Scopes, symbols and references: what each name in a program means."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import Enum
from typing import TYPE_CHECKING, NamedTuple

from aedifex.source.text import Span

if TYPE_CHECKING:
    from aedifex.program.model.statements import Routine, Statement

MAIN = "<main>"
"""The name that the top-level code goes by."""


class Mode(Enum):
    """What a reference does with its symbol, or with the place that its access path leads to."""

    READ = "read"
    WRITE = "write"
    READ_WRITE = "read-write"
    DELETE = "delete"
    CALL = "call"
    DECLARE = "declaration"

    @property
    def reads(self) -> bool:
        """Whether the old value is looked at."""
        return self in _READING

    @property
    def writes(self) -> bool:
        """Whether the value changes or goes."""
        return self in _WRITING


_READING = frozenset({Mode.READ, Mode.READ_WRITE, Mode.CALL})
_WRITING = frozenset({Mode.WRITE, Mode.READ_WRITE, Mode.DELETE})


class Form(Enum):
    """The syntactic place of a reference, which decides what may stand there instead."""

    PLAIN = "in an expression"
    TARGET = "as the target of an assignment"
    LOOP = "as a loop target"
    RESOURCE = "as the target of a with statement"
    WALRUS = "as the target of an assignment inside an expression"
    CATCH = "as the name of a caught error"
    CAPTURE = "as a capture in a match pattern"
    PARAMETER = "as a parameter"
    IMPORT = "as an imported name"
    STAR = "as a name brought by a star import"
    ROUTINE = "as the name of a routine"
    CLASS = "as the name of a class"
    TYPE_PARAMETER = "as a type parameter"
    TYPE_ALIAS = "as a type alias"
    DECLARATION = "in a scope declaration"
    ANNOTATION = "in an annotation"
    QUOTED = "inside a quoted annotation"

    @property
    def takes_path(self) -> bool:
        """Whether an access path such as `self.x` may stand where the name stood."""
        return self in _PATH_FORMS


TYPE_FORMS = frozenset({Form.ANNOTATION, Form.QUOTED})
"""The forms of names that only say of what type something is."""

_PATH_FORMS = frozenset({Form.PLAIN, Form.TARGET, Form.LOOP, Form.RESOURCE, Form.ANNOTATION, Form.QUOTED})


class AccessKind(Enum):
    """One step of an access path."""

    ATTRIBUTE = "attribute"
    KEY = "key"
    POSITION = "position"
    INDEX = "index"


@dataclass(frozen=True, slots=True)
class Access:
    """One step from an object to a part of it: `.x`, `["score"]`, `[0]`, or an index that is not constant (no name)."""

    kind: AccessKind
    name: str | None
    start: int
    end: int


@dataclass(slots=True, eq=False, repr=False)
class Reference:
    """One occurrence of a name.

    `start` and `end` span the name itself; `path` holds the accesses that follow it, and `path_mode` says what is
    done with the place they lead to. `declares` tells that the name lives where it does by what is said of it here, in
    a language that asks for that, and `is_key` that it is also the key under which its value goes, or comes from.
    `name` is the symbol's name, normalised and mangled as the language asks.
    """

    name: str
    start: int
    end: int
    mode: Mode
    form: Form
    scope: Scope
    statement: Statement | None
    path: tuple[Access, ...] = ()
    path_mode: Mode | None = None
    declares: bool = False
    is_key: bool = False
    symbol: Symbol = field(init=False)

    def __repr__(self) -> str:
        return f"<Reference {self.name} {self.mode.value} {self.start}-{self.end}>"

    @property
    def span(self) -> Span:
        """Where the name stands."""
        return Span(self.start, self.end)

    @property
    def reach(self) -> Span:
        """The name with the accesses that follow it."""
        return Span(self.start, self.path[-1].end if self.path else self.end)

    @property
    def final(self) -> Symbol:
        """The symbol that the reference leads to within the program: through imports, and through `module.name`."""
        symbol = self.symbol.final
        for access in self.path:
            if symbol.module_scope is None or access.kind is not AccessKind.ATTRIBUTE or access.name is None:
                break
            inner = symbol.module_scope.symbols.get(access.name)
            if inner is None:
                break
            symbol = inner.final
        return symbol

    @property
    def is_builtin(self) -> bool:
        """Whether it names what the language itself has, and nothing of that."""
        return self.symbol.origin is Origin.BUILTIN and not self.path

    @property
    def binds(self) -> bool:
        """Whether it gives the symbol a value."""
        return self.mode is Mode.WRITE or self.mode is Mode.READ_WRITE


class Home(Enum):
    """Where a scope says that a name of its own lives: in the module, or in the nearest routine around it."""

    MODULE = "module"
    AROUND = "around"


class ScopeKind(Enum):
    """What makes a scope."""

    OUTSIDE = "outside"
    MODULE = "module"
    CLASS = "class"
    ROUTINE = "routine"
    LAMBDA = "lambda"
    COMPREHENSION = "comprehension"
    BLOCK = "block"
    TYPE_PARAMETERS = "type parameters"


class Origin(Enum):
    """Where a symbol of the outside scope comes from."""

    BUILTIN = "builtin"
    PERHAPS_STAR = "perhaps a star import"
    UNKNOWN = "unknown"


class Imported(NamedTuple):
    """Where an imported name comes from: the module, and its name there, or None for the module itself."""

    module: str
    name: str | None

    @property
    def package(self) -> str:
        """The first part of a dotted module's name."""
        return self.module.partition(".")[0]


@dataclass(slots=True, eq=False)
class Symbol:
    """What a name means in a scope, with all references that lead to it, in the order of the text.

    `imported` tells where an imported name comes from. `target` is the symbol of another file of the program that an
    import leads to, `module_scope` the scope of the file where it leads to a whole module.
    """

    name: str
    scope: Scope
    references: list[Reference] = field(default_factory=list)
    origin: Origin | None = None
    imported: Imported | None = None
    target: Symbol | None = None
    module_scope: Scope | None = None

    def __repr__(self) -> str:
        return f"<Symbol {self.name} in {self.scope.kind.value} {self.scope.name}>"

    @property
    def forms(self) -> set[Form]:
        """The forms in which the symbol is bound."""
        return {reference.form for reference in self.references if reference.binds}

    @property
    def bindings(self) -> list[Reference]:
        """The references that give it a value."""
        return [reference for reference in self.references if reference.binds]

    @property
    def is_module_level(self) -> bool:
        """Whether it belongs to a module's own scope."""
        return self.scope.kind is ScopeKind.MODULE

    @property
    def final(self) -> Symbol:
        """The symbol that an import leads to within the program, or the symbol itself."""
        seen: set[Symbol] = set()
        symbol = self
        while symbol.target is not None and symbol not in seen:
            seen.add(symbol)
            symbol = symbol.target
        return symbol


@dataclass(slots=True, eq=False, repr=False)
class Scope:
    """A region in which names have one meaning.

    `symbols` are the names bound here; `declared` maps the names that are declared to live elsewhere to where they do;
    `uses` lists the references that stand directly in the scope. `runs_later` tells that its code may run at another
    time than that around it, `hides_from_inner` that scopes inside it do not see its names. `private` is what makes
    private names in it unlike all others, if anything does.
    """

    kind: ScopeKind
    name: str
    parent: Scope | None
    start: int
    end: int
    children: list[Scope] = field(default_factory=list)
    symbols: dict[str, Symbol] = field(default_factory=dict)
    declared: dict[str, Home] = field(default_factory=dict)
    uses: list[Reference] = field(default_factory=list)
    routine: Routine | None = None
    private: str | None = None
    runs_later: bool = False
    hides_from_inner: bool = False

    def __repr__(self) -> str:
        return f"<Scope {self.kind.value} {self.name}>"

    @property
    def qualified_name(self) -> str:
        """Names of the enclosing classes and routines, joined by dots; empty for a module."""
        parts: list[str] = []
        scope: Scope | None = self
        while scope is not None and scope.kind is not ScopeKind.MODULE:
            if scope.kind in _NAMED:
                parts.append(scope.name)
            scope = scope.parent
        return ".".join(reversed(parts))

    @property
    def home(self) -> Scope:
        """The nearest enclosing module, class or named routine: lambdas and comprehensions belong to it."""
        scope = self
        while scope.kind not in _HOMES and scope.parent is not None:
            scope = scope.parent
        return scope

    def within(self, other: Scope) -> bool:
        """Whether this scope is `other` or lies inside it."""
        scope: Scope | None = self
        while scope is not None:
            if scope is other:
                return True
            scope = scope.parent
        return False

    def is_apart_from(self, outer: Scope) -> bool:
        """Whether code here may run at another time than the code of a scope around it."""
        scope: Scope | None = self
        while scope is not None and scope is not outer:
            if scope.runs_later:
                return True
            scope = scope.parent
        return False

    @property
    def holder(self) -> Scope:
        """The scope whose code this one's is part of: blocks and comprehensions belong to what is around them."""
        scope = self
        while scope.kind in _PARTS and scope.parent is not None:
            scope = scope.parent
        return scope

    @property
    def frame(self) -> Scope:
        """The routine's, class's, module's or comprehension's scope that a block's names come and go with."""
        scope = self
        while scope.kind is ScopeKind.BLOCK and scope.parent is not None:
            scope = scope.parent
        return scope

    def walk(self) -> list[Scope]:
        """This scope and all inside it, in the order of the text."""
        found: list[Scope] = []
        waiting = [self]
        while waiting:
            scope = waiting.pop()
            found.append(scope)
            waiting.extend(reversed(scope.children))
        return found

    def find(self, name: str) -> Symbol | None:
        """The symbol that `name` would mean if it stood here, or None when no scope of the program binds it."""
        scope: Scope | None = self
        first = True
        while scope is not None and scope.kind is not ScopeKind.OUTSIDE:
            declared = scope.declared.get(name)
            if declared is Home.MODULE:
                return scope.module_scope.symbols.get(name)
            visible = first or not scope.hides_from_inner
            if visible and declared is None and name in scope.symbols:
                return scope.symbols[name]
            first = first and scope.kind is ScopeKind.TYPE_PARAMETERS
            scope = scope.parent
        return scope.symbols.get(name) if scope is not None else None

    @property
    def module_scope(self) -> Scope:
        """The module's scope around this one."""
        scope = self
        while scope.kind is not ScopeKind.MODULE and scope.parent is not None:
            scope = scope.parent
        return scope


_PARTS = frozenset({ScopeKind.BLOCK, ScopeKind.COMPREHENSION})
_NAMED = frozenset({ScopeKind.CLASS, ScopeKind.ROUTINE})
_HOMES = frozenset({ScopeKind.MODULE, ScopeKind.CLASS, ScopeKind.ROUTINE})
