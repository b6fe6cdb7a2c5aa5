"""narrow: a variable that every routine sets before it asks for it becomes each routine's own."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of, symbol_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import is_declaration
from aedifex.moves.kit.rewriting import Local, Rewriting
from aedifex.program.model.module import Comment, Module
from aedifex.program.model.names import Reference
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Block, Kind, Statement
from aedifex.program.structure.passing_values import PassingValues, User, begins_with, shares_of


@dataclass(frozen=True)
class Narrow:
    """Let each routine have a variable of its own where none asks for what another has set."""

    name: ClassVar[str] = "narrow"

    path: Path
    variable: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Narrowing(self, module_of(program, self.path)).plan()


class _Narrowing(Planner):
    def __init__(self, move: Narrow, module: Module) -> None:
        super().__init__(module)
        self.symbol = symbol_of(module, move.variable)
        self.passing = PassingValues.of(module)
        self.users = self.passing.users(self.symbol)
        self.said: list[Comment] = []

    def find_objections(self) -> None:
        if self.symbol not in self.passing.found:
            reason = f"something may ask for what `{self.symbol.name}` holds that another has set"
            self.object(self.symbol.references[0].start, reason, "Leave it as it is.")
        elif self.writer.declares and not all(map(self.has_room, self.users.items())):
            reason = f"`{self.symbol.name}` is set in a function that has no lines of its own"
            self.object(self.symbol.references[0].start, reason, "Leave it as it is.")

    def has_room(self, use: tuple[User, Sequence[Reference]]) -> bool:
        return use[0] is None or _block_around(use[1]) is not None

    def write(self) -> None:
        self.leave_top()
        for user, uses in self.users.items():
            if user is not None:
                self.give(user, uses)

    # -- routines

    def give(self, user: User, uses: Sequence[Reference]) -> None:
        """Let a routine have a variable of its own: each loop that sets it first, if that is all, or the whole."""
        for reference in filter(is_declaration, uses):
            self.rewriter.drop_declaration(reference)
        asked = [reference for reference in uses if not is_declaration(reference)]
        if not asked:
            return
        shares = shares_of(asked, self.home(user, asked))
        self.say(shares[0][0])
        if self.writer.declares and all(begins_with(statement, inner[0]) for statement, inner in shares):
            self.give_loops(shares)
            return
        self.lead(asked, user)
        if self.writer.declares:
            self.declare(shares[0][0], asked)

    def home(self, user: User, asked: Sequence[Reference]) -> Block:
        """The block in which a routine has its own variable."""
        found = _block_around(asked) if self.writer.declares else user.body if user is not None else None
        assert found is not None
        return found

    def give_loops(self, shares: Iterable[tuple[Statement, Sequence[Reference]]]) -> None:
        for statement, inner in shares:
            self.lead(inner, statement)
            self.rewriter.insert(inner[0].start, f"{self.writer.declares} ")

    def declare(self, statement: Statement, asked: Sequence[Reference]) -> None:
        """Where the first statement sets it, it declares it; else a line above does."""
        first, given, name = asked[0], statement.assignment, self.symbol.name
        sets = statement.kind is Kind.ASSIGN and given is not None and given.targets == (first.span,)
        others = [r for r in asked[1:] if r.mode.writes]
        if not sets or given is None or given.value is None or first.statement is not statement:
            line = self.writer.ended(f"{self.writer.declares} {name}")
            self.rewriter.insert(self.layout.lines(statement).start, f"{self.layout.margin(statement)}{line}\n")
        elif others or any(r.statement is statement for r in asked[1:]):
            self.rewriter.insert(first.start, f"{self.writer.declares} ")
        else:
            *declared, _ = self.writer.variable(name, [self.rewriter.taken(given.value.span)])
            self.rewriting.changes.replace(self.module.path, statement.span, *declared)
            del self.rewriting.destinations[first]
            self.rewriter.drop([first])

    def lead(self, references: Iterable[Reference], home: object) -> None:
        """Note that references lead to a variable of a routine, or of a loop."""
        for reference in references:
            self.rewriting.destinations[reference] = Local(self.symbol.name, home)

    # -- the top level

    def leave_top(self) -> None:
        """What the top-level code does not use goes; its loops may have variables of their own, too."""
        idle = self.passing.idle(self.symbol)
        asked = [reference for reference in self.users.get(None, []) if reference not in idle]
        shares = shares_of(asked, self.module.block)
        if self.writer.declares:
            if not all(begins_with(statement, inner[0]) for statement, inner in shares):
                return
            self.give_loops(shares)
        for reference in idle:
            self.take_away(reference)

    def take_away(self, reference: Reference) -> None:
        statement = reference.statement
        assert statement is not None
        self.rewriter.drop([reference])
        left = [p for p in statement.assignment.pairs if p.target is not reference] if statement.assignment else []
        if left:
            self.rewriter.keep_pairs(statement, left)
            return
        gone = self.layout.lines(statement)
        if self.layout.behind_blank(gone.end) == gone.end:
            gone = self.layout.own_lines(statement)  # what stands above may be about the lines below as well
        self.said += [c for c in self.module.comments if gone.start <= c.start < gone.end]
        self.rewriter.remove(gone)

    def say(self, statement: Statement) -> None:
        """Put what was said of the variable above the first that has one of its own."""
        if not self.said:
            return
        margin = self.layout.margin(statement)
        lines = [f"{margin}{self.module.source.slice(comment.span)}\n" for comment in self.said]
        self.rewriter.insert(self.layout.lines(statement).start, *lines)
        self.said.clear()


def _block_around(references: Sequence[Reference]) -> Block | None:
    """The innermost block that holds all statements of some references, and may declare names for them."""
    chains = [_blocks_around(r.statement) for r in references if r.statement is not None]
    common = (block for block in chains[0] if all(block in chain for chain in chains))
    return next(filter(_may_declare, common), None)


def _may_declare(block: Block) -> bool:
    if block.routine is not None or block.owner is None:
        return bool(block.statements) and block.start < block.statements[0].start
    return block.scope is not None and block.owner.kind is not Kind.CHOICE


def _blocks_around(statement: Statement) -> list[Block]:
    """The blocks that a statement stands in, out to its routine's."""
    found = [statement.block]
    while found[-1].owner is not None and found[-1].routine is None:
        found.append(found[-1].owner.block)
    return found


def _by_hand(program: Program, script: Path, given: Given) -> list[Narrow]:
    return [Narrow(script, given["variable"])]


MOVE = Description(
    name="narrow",
    place=4,
    summary=(
        "A variable that every routine sets before it asks for it becomes each routine's own.\n"
        "Refused where one may ask for what another has set, or a call in between may set it."
    ),
    term="Reduce Scope of Variable",
    help="Give each routine a variable of its own where none asks for what another has set.",
    parameters=(StepParameter("variable", Takes.ONE, "VARIABLE"),),
    make=_by_hand,
    example=Example(
        language="javascript",
        words="i",
        before="""\
const levels = [3, 1, 2];
let i;
let total = 0;

function add() {
  for (i = 0; i < levels.length; i++) {
    total += levels[i];
  }
}

function show() {
  for (i = 0; i < levels.length; i++) {
    console.log(i, levels[i]);
  }
  console.log(total);
}

add();
show();
""",
        after={
            "harbour.js": """\
const levels = [3, 1, 2];
let total = 0;

function add() {
  for (let i = 0; i < levels.length; i++) {
    total += levels[i];
  }
}

function show() {
  for (let i = 0; i < levels.length; i++) {
    console.log(i, levels[i]);
  }
  console.log(total);
}

add();
show();
"""
        },
    ),
)
