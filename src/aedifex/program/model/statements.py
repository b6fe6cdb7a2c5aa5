"""Statements, blocks and routines: what a program does, and in which order."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from enum import Enum

from aedifex.program.model.names import Home, Imported, Reference, Scope, ScopeKind, Symbol
from aedifex.source.text import Span


class Kind(Enum):
    """What sort of statement it is."""

    ASSIGN = "assignment"
    UPDATE = "augmented assignment"
    EXPRESSION = "expression"
    BRANCH = "branch"
    CHOICE = "match"
    LOOP = "loop"
    EACH = "for loop"
    RESOURCE = "with"
    GUARDED = "try"
    ROUTINE = "routine"
    CLASS = "class"
    IMPORT = "import"
    DECLARE = "declaration"
    LEAVE = "leave"
    DELETE = "delete"
    CHECK = "assert"
    ALIAS = "type alias"
    NOTHING = "pass"


BRINGING = frozenset({Kind.IMPORT, Kind.ROUTINE, Kind.CLASS})
"""What only brings a name in: nothing runs by it that a program is there for."""


class Leave(Enum):
    """How control may leave a run of statements other than at its end."""

    RETURN = "return"
    BREAK = "break"
    CONTINUE = "continue"
    RAISE = "raise"
    YIELD = "yield"
    AWAIT = "await"


_STEERING = frozenset({Leave.BREAK, Leave.CONTINUE})
_BREAKING = frozenset({Leave.BREAK})


class Role(Enum):
    """Which part of its statement a block is."""

    BODY = "body"
    OTHER_CONDITION = "else if"
    OTHERWISE = "else"
    HANDLER = "handler"
    FINALLY = "finally"
    CASE = "case"


class Shape(Enum):
    """What a value's text looks like."""

    LITERAL = "literal"
    COMPUTED = "computed"
    RISKY = "risky"
    DISPLAY = "display"
    NAME = "name"
    CALL = "call"
    OTHER = "other"


class Sort(Enum):
    """What a value written out in place is, by the way that it begins."""

    NUMBER = "number"
    TEXT = "text"
    LIST = "list"
    TABLE = "table"
    TRUTH = "truth"
    OTHER = "other"


@dataclass(frozen=True, slots=True)
class Value:
    """The text of an expression, its shape, and what it is by its first look.

    LITERAL is a constant (also a tuple of constants), COMPUTED combines names and constants by operators, RISKY
    does so by one that fails for some numbers, as a division does; DISPLAY is a literal list, set or dict whose parts
    are literal or computed. `entries` are the keys and values of a table written out in place, if all its keys are
    plain texts; `has_operations` tells that operators stand between names, which may be anybody's own.
    """

    start: int
    end: int
    shape: Shape
    sort: Sort = Sort.OTHER
    entries: tuple[tuple[str, Span], ...] = ()
    has_operations: bool = False

    @property
    def span(self) -> Span:
        """Where it stands."""
        return Span(self.start, self.end)


@dataclass(frozen=True, slots=True)
class Pair:
    """One name and the value it gets."""

    target: Reference
    value: Value


@dataclass(slots=True)
class Assignment:
    """An assignment: the span of each chained target, the value, and the names that get a value of their own.

    `pairs` is filled where each name's value can be told from the text: `x = v`, `a, b = v, w`. `is_fixed` is set where
    one value is shared out among several names, each of which gets a number or text that is written out or counted:
    `a = b = 5`, `size = w, h = 4, 3`, `low, high = range(2)`.
    """

    targets: tuple[Span, ...]
    value: Value | None
    pairs: tuple[Pair, ...] = ()
    annotation: Span | None = None
    is_fixed: bool = False


@dataclass(frozen=True, slots=True)
class Argument:
    """One argument of a call: its span, its keyword if it has one, and its stars ("", "*" or "**")."""

    start: int
    end: int
    keyword: str | None = None
    stars: str = ""

    @property
    def span(self) -> Span:
        """Where it stands."""
        return Span(self.start, self.end)


@dataclass(slots=True, eq=False)
class Call:
    """A call. `callee` is the reference that its function's text begins with, if that is a name.

    `inside` spans the text between the parentheses; None where the call has no parentheses of its own.
    """

    start: int
    end: int
    callee: Reference | None
    arguments: tuple[Argument, ...] = ()
    inside: Span | None = None

    @property
    def span(self) -> Span:
        """Where it stands."""
        return Span(self.start, self.end)


@dataclass(slots=True, eq=False, repr=False)
class Block:
    """A run of statements at one depth. `role` tells which part of its owner it is.

    `routine` is the one whose body it is. `scope` is the block's own where names may live in it alone; `falls_through`
    tells that control goes on into the next block of its owner where nothing leaves this one.
    """

    role: Role
    start: int
    end: int
    owner: Statement | None = None
    statements: list[Statement] = field(default_factory=list)
    routine: Routine | None = None
    scope: Scope | None = None
    falls_through: bool = False

    def __repr__(self) -> str:
        return f"<Block {self.role.value} {self.start}-{self.end}>"

    def walk(self) -> Iterator[Statement]:
        """All statements in it and in the blocks inside, in the order of the text, but not those of other routines."""
        waiting = list(reversed(self.statements))
        while waiting:
            statement = waiting.pop()
            yield statement
            for block in reversed(statement.blocks):
                if block.routine is None:
                    waiting.extend(reversed(block.statements))

    @property
    def routine_around(self) -> Routine | None:
        """The innermost routine that it stands in."""
        return next((block.routine for block in self.outwards() if block.routine is not None), None)

    def outwards(self) -> Iterator[Block]:
        """This block and those in which it stands, the innermost first, out of routines as well."""
        block = self
        yield block
        while block.owner is not None:
            block = block.owner.block
            yield block


@dataclass(slots=True, eq=False, repr=False)
class Statement:
    """One statement. `references` and `calls` are those of its own header, not of the statements in its blocks;
    `attributes` names every attribute that it mentions, on whatever object.

    `start` to `end` spans all of it, decorators included; `header_end` is where its own text ends and its blocks begin.
    `returned` spans the value that a `return` gives back. `declares` says where the names of a declaration live, which
    begins with the word `keyword`. `imports` is what an import brings, in the order of its names. `label` names a
    statement for the leaves inside it, `leaves_label` the one that a leave is about. `is_text` marks a plain text that
    stands alone, `holds_for_file` what no other file would inherit, `tests_last` a loop whose body runs before its
    condition is asked, `beginning` spans what a loop does once before that, `ends_at_break` a choice that a `break`
    inside it leaves, and `ending` how many of its last bytes say only that it ends. `bodies` are those of the nameless
    routines and classes that stand in its own text.
    """

    kind: Kind
    start: int
    end: int
    block: Block
    index: int
    header_end: int = 0
    references: list[Reference] = field(default_factory=list)
    calls: list[Call] = field(default_factory=list)
    attributes: list[str] = field(default_factory=list)
    blocks: list[Block] = field(default_factory=list)
    bodies: list[Block] = field(default_factory=list)
    leaves: set[Leave] = field(default_factory=set)
    assignment: Assignment | None = None
    routine: Function | None = None
    defines: Scope | None = None
    decorators: list[Span] = field(default_factory=list)
    returned: Span | None = None
    declares: Home | None = None
    keyword: Span | None = None
    imports: list[Imported] = field(default_factory=list)
    label: str = ""
    leaves_label: str = ""
    is_text: bool = False
    holds_for_file: bool = False
    tests_last: bool = False
    beginning: Span | None = None
    ends_at_break: bool = False
    ending: int = 0

    def __repr__(self) -> str:
        return f"<Statement {self.kind.value} {self.start}-{self.end}>"

    @property
    def span(self) -> Span:
        """Where it stands."""
        return Span(self.start, self.end)

    @property
    def deed(self) -> Span:
        """What it does: all of it but what says that it ends."""
        return Span(self.start, self.end - self.ending)

    @property
    def is_loop(self) -> bool:
        """Whether its body may run again and again."""
        return self.kind is Kind.LOOP or self.kind is Kind.EACH

    def absorbs(self, block: Block) -> frozenset[Leave]:
        """The ways of leaving one of its blocks that do not lead out of the statement."""
        if self.is_loop and block.role is Role.BODY:
            return _STEERING
        return _BREAKING if self.ends_at_break else frozenset()

    @property
    def has_otherwise(self) -> bool:
        """Whether its last block runs where no other does."""
        return bool(self.blocks) and self.blocks[-1].role is Role.OTHERWISE

    def walk(self) -> Iterator[Statement]:
        """This statement and all in its blocks, but not those of the routines that it defines."""
        yield self
        for block in self.blocks:
            if block.routine is None:
                yield from block.walk()

    @property
    def inner(self) -> list[Statement]:
        """The statements that stand right in its blocks."""
        return [statement for block in self.blocks for statement in block.statements]

    @property
    def outermost(self) -> Statement:
        """The statement of the routine's or module's own block that this one lies in."""
        statement = self
        while statement.block.routine is None and statement.block.owner is not None:
            statement = statement.block.owner
        return statement


class ParameterKind(Enum):
    """How a parameter takes its argument."""

    POSITIONAL_ONLY = "positional only"
    PLAIN = "plain"
    REST = "rest"
    KEYWORD_ONLY = "keyword only"
    KEYWORD_REST = "keyword rest"
    PATTERN = "pattern"
    """What is given has no name, but is taken apart: the first name inside stands for it."""


@dataclass(frozen=True, slots=True)
class Parameter:
    """One parameter: its binding reference, its whole span, its default value, and the span of its declared type.

    Where what is given is taken apart, `keys` are the members that are asked for, each with the name that it gets; none
    where it is taken apart in a way that is not followed.
    """

    reference: Reference
    start: int
    end: int
    kind: ParameterKind
    default: Value | None = None
    annotation: Span | None = None
    keys: tuple[tuple[str, Reference], ...] = ()

    @property
    def name(self) -> str:
        """Its name."""
        return self.reference.name


@dataclass(slots=True, eq=False, repr=False)
class Routine:
    """What can be called: a function, a method, or a nameless one.

    `signature` spans the text between the parentheses. `receiver` is the symbol that means the object, in a method that
    gets one; `is_called_from_outside` tells that a library finds it by its name.
    """

    name: str
    scope: Scope
    signature: Span
    parameters: list[Parameter] = field(default_factory=list, kw_only=True)
    is_async: bool = field(default=False, kw_only=True)
    is_generator: bool = field(default=False, kw_only=True)
    receiver: Symbol | None = field(default=None, kw_only=True)
    is_called_from_outside: bool = field(default=False, kw_only=True)

    @property
    def qualified_name(self) -> str:
        """Its name with those of the classes and routines around it."""
        return self.scope.qualified_name

    @property
    def is_postponed(self) -> bool:
        """Whether its code may run on after the call that begins it."""
        return self.is_generator or self.is_async

    def __repr__(self) -> str:
        return f"<{type(self).__name__} {self.qualified_name}>"


@dataclass(slots=True, eq=False, repr=False)
class Function(Routine):
    """A function or method: the statement that defines it, the reference that gives it its name, and its body."""

    statement: Statement
    named: Reference
    body: Block = field(init=False)
    doc: Span | None = None
    result_type: Span | None = None

    @property
    def symbol(self) -> Symbol:
        """The symbol that it is bound to."""
        return self.named.symbol

    @property
    def deeds(self) -> list[Statement]:
        """The statements of its body that do something: not its own text, and no declarations of names."""
        return [s for s in self.body.statements if s.kind is not Kind.DECLARE and s.span != self.doc]

    @property
    def is_method(self) -> bool:
        """Whether a class defines it."""
        return self.symbol.scope.kind is ScopeKind.CLASS


@dataclass(slots=True, eq=False, repr=False)
class Lambda(Routine):
    """A nameless routine, whose code belongs to the statement that it stands in: one expression, or a body."""

    statement: Statement | None
    expression: Span | None = None
    body: Block | None = None


def call_of(reference: Reference) -> Call | None:
    """The call whose function's text begins with a reference; None where that is no call."""
    calls = reference.statement.calls if reference.statement is not None else ()
    return next((call for call in calls if call.callee is reference), None)


def final_name(callee: Reference | None) -> str:
    """The last word by which a callee is named: of `a.b.c` that is `c`; empty where it has none."""
    if callee is None:
        return ""
    return (callee.path[-1].name or "") if callee.path else callee.name
