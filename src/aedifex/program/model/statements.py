"""Statements, blocks and routines: what a program does, and in which order."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from enum import Enum

from aedifex.program.model.names import Reference, Scope, Symbol
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


class Leave(Enum):
    """How control may leave a run of statements other than at its end."""

    RETURN = "return"
    BREAK = "break"
    CONTINUE = "continue"
    RAISE = "raise"
    YIELD = "yield"
    AWAIT = "await"


class Shape(Enum):
    """What a value's text looks like."""

    LITERAL = "literal"
    COMPUTED = "computed"
    RISKY = "risky"
    DISPLAY = "display"
    NAME = "name"
    CALL = "call"
    OTHER = "other"


@dataclass(frozen=True, slots=True)
class Value:
    """The text of an expression, and its shape.

    LITERAL is a constant (also a tuple of constants), COMPUTED combines names and constants by operators, RISKY
    does so by one that fails for some numbers, as a division does; DISPLAY is a literal list, set or dict whose parts
    are literal or computed. `entries` are the keys and values of a table
    written out in place, if all its keys are plain texts.
    """

    start: int
    end: int
    shape: Shape
    entries: tuple[tuple[str, Span], ...] = ()

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

    `pairs` is filled where each name's value can be told from the text: `x = v`, `a, b = v, w`.
    """

    targets: tuple[Span, ...]
    value: Value | None
    pairs: tuple[Pair, ...] = ()
    annotation: Span | None = None


@dataclass(frozen=True, slots=True)
class Argument:
    """One argument of a call: its span, its keyword if it has one, and its stars ("", "*" or "**")."""

    start: int
    end: int
    keyword: str | None = None
    stars: str = ""


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


@dataclass(slots=True, eq=False, repr=False)
class Block:
    """A run of statements at one depth. `role` tells which part of its owner it is (body, else, except…)."""

    role: str
    start: int
    end: int
    owner: Statement | None = None
    statements: list[Statement] = field(default_factory=list)
    routine: Routine | None = None

    def __repr__(self) -> str:
        return f"<Block {self.role} {self.start}-{self.end}>"

    def walk(self) -> Iterator[Statement]:
        """All statements in it and in the blocks inside, in the order of the text, but not those of other routines."""
        waiting = list(reversed(self.statements))
        while waiting:
            statement = waiting.pop()
            yield statement
            for block in reversed(statement.blocks):
                if block.routine is None:
                    waiting.extend(reversed(block.statements))


@dataclass(slots=True, eq=False, repr=False)
class Statement:
    """One statement. `references` and `calls` are those of its own header, not of the statements in its blocks;
    `attributes` names every attribute that it mentions, on whatever object.

    `start` to `end` spans all of it, decorators included; `header_end` is where its own text ends and its blocks begin.
    """

    kind: Kind
    start: int
    end: int
    block: Block
    index: int
    header_end: int = 0
    word: str = ""
    references: list[Reference] = field(default_factory=list)
    calls: list[Call] = field(default_factory=list)
    attributes: list[str] = field(default_factory=list)
    blocks: list[Block] = field(default_factory=list)
    leaves: set[Leave] = field(default_factory=set)
    assignment: Assignment | None = None
    routine: Routine | None = None
    defines: Scope | None = None
    decorators: list[Span] = field(default_factory=list)

    def __repr__(self) -> str:
        return f"<Statement {self.kind.value} {self.start}-{self.end}>"

    @property
    def span(self) -> Span:
        """Where it stands."""
        return Span(self.start, self.end)

    def walk(self) -> Iterator[Statement]:
        """This statement and all in its blocks, but not those of the routines that it defines."""
        yield self
        for block in self.blocks:
            if block.routine is None:
                yield from block.walk()

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


@dataclass(frozen=True, slots=True)
class Parameter:
    """One parameter: its binding reference, its whole span, and its default value's span."""

    reference: Reference
    start: int
    end: int
    kind: ParameterKind
    default: Value | None = None

    @property
    def name(self) -> str:
        """Its name."""
        return self.reference.name


@dataclass(slots=True, eq=False)
class Routine:
    """A function, method or lambda.

    `signature` spans the text between the parentheses; `body` is None for a lambda, whose code belongs to the statement
    it stands in. `named` is the reference that gives it its name.
    """

    name: str
    scope: Scope
    statement: Statement | None
    signature: Span
    body: Block | None = None
    parameters: list[Parameter] = field(default_factory=list)
    named: Reference | None = None
    is_async: bool = False
    is_generator: bool = False
    doc: Span | None = None

    @property
    def symbol(self) -> Symbol | None:
        """The symbol that it is bound to; None for a lambda."""
        return self.named.symbol if self.named is not None else None

    @property
    def qualified_name(self) -> str:
        """Its name with those of the classes and routines around it."""
        return self.scope.qualified_name

    def __repr__(self) -> str:
        return f"<Routine {self.qualified_name}>"


def call_of(reference: Reference) -> Call | None:
    """The call whose function's text begins with a reference; None where that is no call."""
    calls = reference.statement.calls if reference.statement is not None else ()
    return next((call for call in calls if call.callee is reference), None)
