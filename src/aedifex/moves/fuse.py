"""fuse: what each branch of a choice adds to the same list is chosen first, and added once."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Handling
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Block, Kind, Statement
from aedifex.source.errors import RefusedError, UsageError

_LOOSE = frozenset({Sense.CHOICE, Sense.FUNCTION, Sense.NAMED, Sense.SPREAD, Sense.OTHER})
_MOST_BRANCHES = 3
_WIDTH = 100


@dataclass(frozen=True)
class Fuse:
    """Let the choice that begins on a line, and adds to one list in each of its branches, stand in one addition."""

    name: ClassVar[str] = "fuse"

    path: Path
    line: int

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: no such choice begins there.
        """
        module = module_of(program, self.path)
        found = (c for c in choices_of_additions(module) if module.source.line_of(c.statement.start) == self.line)
        choice = next(found, None)
        if choice is None:
            reason = f"no choice begins on line {self.line} of {module.path.name} that only adds to one list"
            raise RefusedError(
                reason, advice="Each branch has one statement, which adds a value; one is the last resort."
            )
        return _Fusing(module, choice).plan()


@dataclass(frozen=True)
class Choice:
    """A chain of conditions: what it asks, and the call by which each branch adds something to a list."""

    statement: Statement
    conditions: list[Expression]
    calls: list[Expression]
    filled: Symbol

    @property
    def values(self) -> list[Expression]:
        """What is added in each branch."""
        return [call.parts[1] for call in self.calls]


def choices_of_additions(module: Module) -> Iterator[Choice]:
    """The choices of which each branch does nothing but add one value to the same list."""
    for statement in module.walk():
        if statement.kind is Kind.BRANCH and statement.has_otherwise:
            found = _choice(module, statement)
            if found is not None:
                yield found


def _choice(module: Module, statement: Statement) -> Choice | None:
    surroundings = Surroundings.of(module)
    conditions = [condition for _, condition in surroundings.cases(statement)]
    calls = [call for block in statement.blocks if (call := _addition(module, block)) is not None]
    callees = [call.parts[0].parts[0].reference for call in calls]
    filled = {callee.symbol for callee in callees if callee is not None}
    is_whole = len(calls) == len(statement.blocks) == len(conditions) + 1 and None not in callees
    if not is_whole or len(filled) != 1 or len(calls) > _MOST_BRANCHES:
        return None
    return Choice(statement, conditions, calls, filled.pop())


def _addition(module: Module, block: Block) -> Expression | None:
    """The call that a branch is, if it only adds one value to a list that has a name."""
    if len(block.statements) != 1:
        return None
    trees = [tree for tree in Surroundings.of(module).trees if tree.statement is block.statements[0]]
    call = trees[0].parts[0] if len(trees) == 1 and trees[0].sense is Sense.ALONE else None
    if call is None or call.sense is not Sense.CALL or list(call.names) != [""]:
        return None
    callee = call.parts[0]
    is_method = callee.sense is Sense.MEMBER and callee.parts[0].sense is Sense.NAME
    adds = is_method and module.dialect.library.handling_by_method(callee.name or "") is Handling.ADDS
    return call if adds else None


class _Fusing(Planner):
    def __init__(self, module: Module, choice: Choice) -> None:
        super().__init__(module)
        self.choice = choice

    def find_objections(self) -> None:
        statement = self.choice.statement
        asked = [*self.choice.conditions, *self.choice.values]
        loose = next((part for part in asked if part.sense in _LOOSE), None)
        if loose is not None:
            self.object(loose.start, "this cannot stand inside of an expression as it is", "Give it a name above.")
        if any(self.binds_list(condition) for condition in self.choice.conditions):
            self.object(statement.start, f"`{self.choice.filled.name}` may be another list by then", "Leave it.")
        if any(statement.start <= comment.start < statement.end for comment in self.module.comments):
            self.object(statement.start, "a comment stands inside this choice", "Move it above.")
        if not self.layout.stands_alone(statement):
            self.object(statement.start, "this choice shares its lines with other statements", "Break the lines.")
        if "\n" in self.text or len(self.layout.margin(statement)) + len(self.text) > _WIDTH:
            self.object(statement.start, "that would be too long for one line", "Leave it as it is.")

    def binds_list(self, condition: Expression) -> bool:
        """Whether asking may give the list's name another value: a function is called, or it is bound there."""
        symbol = self.choice.filled
        given = [r for r in symbol.bindings if r.scope is not symbol.scope]
        return any(part.sense is Sense.CALL for part in condition.walk()) and bool(given)

    @property
    def text(self) -> str:
        """The addition, as it is to be."""
        slice_of = self.module.source.slice
        return slice_of(self.callee.span) + "".join(
            str(piece) for piece in self.chosen(lambda part: slice_of(part.span))
        )

    @property
    def callee(self) -> Expression:
        """What adds to the list, in the first of the branches."""
        return self.choice.calls[0].parts[0]

    def chosen(self, written: Callable[[Expression], Piece]) -> list[Piece]:
        """What is added, in the parentheses of a call."""
        *values, last = self.choice.values
        pieces = [written(last)]
        for condition, value in reversed(list(zip(self.choice.conditions, values, strict=True))):
            pieces = self.writer.choice(written(condition), written(value), pieces)
        head = self.writer.call("", [])
        return [head[0], *pieces, head[-1]]

    def write(self) -> None:
        statement = self.choice.statement
        dropped = [call.parts[0].parts[0].reference for call in self.choice.calls[1:]]
        self.rewriter.drop(reference for reference in dropped if reference is not None)
        pieces = self.chosen(lambda part: self.rewriter.taken(part.span))
        self.rewriting.changes.replace(self.module.path, statement.span, self.rewriter.taken(self.callee.span), *pieces)


def _by_hand(program: Program, script: Path, given: Given) -> list[Fuse]:
    if not given["line"].isdigit():
        raise UsageError("say on which line the choice begins")
    return [Fuse(script, int(given["line"]))]


MOVE = Description(
    name="fuse",
    place=6,
    summary=(
        "What each branch of a choice adds to one list is chosen first, and added once.\n"
        "Refused where a branch does more, or it would not go on one line."
    ),
    term="Consolidate Duplicate Conditional Fragments",
    help="Let a choice that adds to one list in each of its branches stand in one addition.",
    parameters=(StepParameter("line", Takes.ONE, "LINE", "Where the choice begins."),),
    make=_by_hand,
    example=Example(
        language="python",
        words="5",
        before="""\
steps = []


for number in range(4):
    if number % 2 == 0:
        steps.append(2)
    else:
        steps.append(-3)
print(steps)
""",
        after={
            "harbour.py": """\
steps = []


for number in range(4):
    steps.append(2 if number % 2 == 0 else -3)
print(steps)
""",
        },
    ),
)
