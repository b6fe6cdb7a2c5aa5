"""hoist: the test that leaves a loop or a function stands by itself, and the chain behind it begins anew."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Block, Kind, Leave, Role, Statement
from aedifex.source.errors import RefusedError, UsageError
from aedifex.source.text import Span

_ENDING = frozenset({Leave.BREAK, Leave.RETURN})


@dataclass(frozen=True)
class Hoist:
    """Let a chain of conditions that begins on a line end where its first branch has left, and begin anew."""

    name: ClassVar[str] = "hoist"

    path: Path
    line: int

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        at_line = (s for s in module.walk() if module.source.line_of(s.start) == self.line)
        chain = next((s for s in at_line if s.kind is Kind.BRANCH), None)
        if chain is None:
            raise RefusedError(f"no chain of conditions begins on line {self.line} of {module.path.name}")
        return _Hoisting(module, chain).plan()


def chains_that_leave(module: Module, statements: list[Statement]) -> Iterator[Statement]:
    """The chains that stand in some statements directly and whose first branch ends the loop or the function."""
    for statement in statements:
        if _leaves_first(statement) and _words_between(module, statement) is not None:
            yield statement


def _leaves_first(statement: Statement) -> bool:
    if statement.kind is not Kind.BRANCH or len(statement.blocks) < 2:
        return False
    return statement.blocks[1].role is Role.OTHER_CONDITION and _always_leaves(statement.blocks[0])


def _always_leaves(block: Block) -> bool:
    last = block.statements[-1] if block.statements else None
    return last is not None and last.kind is Kind.LEAVE and bool(last.leaves & _ENDING)


def _words_between(module: Module, statement: Statement) -> tuple[Span, str] | None:
    """What stands for "else" in front of the second condition, and what is to stand there instead."""
    first, second = statement.blocks[:2]
    end = first.statements[-1].end
    found = module.dialect.writer.condition_alone(module.source.slice(Span(end, second.start)))
    return (Span(end + found[0], end + found[1]), found[2]) if found is not None else None


class _Hoisting(Planner):
    def __init__(self, module: Module, chain: Statement) -> None:
        super().__init__(module)
        self.chain = chain

    def find_objections(self) -> None:
        at = self.chain.start
        if not _leaves_first(self.chain):
            reason = (
                "the first branch of this chain does not always leave the loop or the function by `break`, `return`"
            )
            self.object(at, reason, "Name a chain that does, with a second condition.")
        elif _words_between(self.module, self.chain) is None or not self.layout.stands_alone(self.chain):
            self.object(at, "this chain shares its lines with other statements", "Break the lines.")

    def write(self) -> None:
        found = _words_between(self.module, self.chain)
        assert found is not None
        self.rewriting.changes.replace(self.module.path, found[0], found[1])


def _by_hand(program: Program, script: Path, given: Given) -> list[Hoist]:
    if not given["line"].isdigit():
        raise UsageError("say on which line the chain of conditions begins")
    return [Hoist(script, int(given["line"]))]


MOVE = Description(
    name="hoist",
    place=18,
    summary=(
        "The test that ends a loop stands by itself, before the rest of its chain.\n"
        "Refused where the first branch of the chain does not always leave."
    ),
    term="Replace Nested Conditional with Guard Clauses",
    help="Let the first branch of a chain stand alone, so that the rest can become a method.",
    parameters=(StepParameter("line", Takes.ONE, "LINE"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="3",
        before="""\
load = 0
for word in ["load", "load", "quit", "load"]:
    if word == "quit":
        break
    elif word == "load":
        load += 1
    else:
        print("what?")
print(load)
""",
        after={
            "harbour.py": """\
load = 0
for word in ["load", "load", "quit", "load"]:
    if word == "quit":
        break
    if word == "load":
        load += 1
    else:
        print("what?")
print(load)
""",
        },
    ),
)
