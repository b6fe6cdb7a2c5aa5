"""hoist: the test that leaves a loop or a function stands by itself, and the chain behind it begins anew."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Block, Kind, Leave, Role, Statement
from aedifex.source.errors import RefusedError, UsageError
from aedifex.source.text import Span
from aedifex.survey.asked_words import AskedWords

_ENDING = frozenset({Leave.BREAK, Leave.RETURN})


@dataclass(frozen=True)
class Hoist:
    """Let the branch that leaves a chain of conditions, which begins on a line, stand alone above the others.

    It is the first, or one that asks whether something is a word or number for which no branch above it asks.
    """

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
    """The chains that stand in some statements directly and have a branch, first or last, that ends all of it."""
    for statement in statements:
        block = _leaving(module, statement)
        if block is not None and _other_condition(module, statement, max(1, statement.blocks.index(block))) is not None:
            yield statement


def _leaving(module: Module, chain: Statement) -> Block | None:
    """The branch that ends the loop or the function, if that could as well be asked for first."""
    if chain.kind is not Kind.BRANCH or len(chain.blocks) < 2 or chain.blocks[1].role is not Role.OTHER_CONDITION:
        return None
    if _always_leaves(chain.blocks[0]):
        return chain.blocks[0]
    cases = Surroundings.of(module).cases(chain)
    for number, (block, condition) in enumerate(cases):
        asked = AskedWords.of_condition(module, condition) if number and _always_leaves(block) else None
        if asked is not None and all(asked.are_none_of(module, above) for _, above in cases[:number]):
            return block
    return None


def _always_leaves(block: Block) -> bool:
    last = block.statements[-1] if block.statements else None
    return last is not None and last.kind is Kind.LEAVE and bool(last.leaves & _ENDING)


def _other_condition(module: Module, chain: Statement, number: int) -> tuple[Span, str] | None:
    """What stands for "else" in front of a condition that is not the first, and what is to stand there instead."""
    end = chain.blocks[number - 1].statements[-1].end
    found = module.dialect.writer.condition_alone(module.source.slice(Span(end, chain.blocks[number].start)))
    return (Span(end + found[0], end + found[1]), found[2]) if found is not None else None


class _Hoisting(Planner):
    def __init__(self, module: Module, chain: Statement) -> None:
        super().__init__(module)
        self.chain = chain

    def find_objections(self) -> None:
        at, block = self.chain.start, self.leaving
        if block is None:
            reason = "no branch that could stand first in this chain always leaves the loop or the function"
            self.object(at, f"{reason} by `break`, `return`", "Name a chain that has one, and a second condition.")
        elif self.word_of(block) is None or not self.layout.stands_alone(self.chain):
            self.object(at, "this chain shares its lines with other statements", "Break the lines.")
        elif self.is_later(block) and self.has_comment_above(block):
            self.object(at, "a comment stands above the branch that leaves", "Put it into the branch.")

    @cached_property
    def leaving(self) -> Block | None:
        """The branch that is to stand alone."""
        return _leaving(self.module, self.chain)

    def is_later(self, block: Block) -> bool:
        return block is not self.chain.blocks[0]

    def word_of(self, block: Block) -> tuple[Span, str] | None:
        """What asks for the condition of a branch, or of the one behind it where that is the first."""
        return _other_condition(self.module, self.chain, max(1, self.chain.blocks.index(block)))

    def has_comment_above(self, block: Block) -> bool:
        """Whether a comment stands on lines of its own between a branch and the one above it."""
        word, _ = self.word_of(block) or (block, "")
        above = self.chain.blocks[self.chain.blocks.index(block) - 1]
        behind = self.layout.own_lines(above.statements[-1]).end
        return any(behind <= comment.start < word.start for comment in self.module.comments)

    def write(self) -> None:
        block = self.leaving
        found = self.word_of(block) if block is not None else None
        assert block is not None and found is not None
        word, alone = found
        if not self.is_later(block):
            self.rewriting.changes.replace(self.module.path, word, alone)
            return
        lines = Span(self.module.source.line_start(word.start), self.layout.own_lines(block.statements[-1]).end)
        rest = self.rewriter.lines_taken(Span(word.end, lines.end))
        self.rewriter.remove(lines)
        top = self.layout.own_lines(self.chain).start
        self.rewriter.insert(top, self.layout.margin(self.chain), alone, *rest)


def _by_hand(program: Program, script: Path, given: Given) -> list[Hoist]:
    if not given["line"].isdigit():
        raise UsageError("say on which line the chain of conditions begins")
    return [Hoist(script, int(given["line"]))]


MOVE = Description(
    name="hoist",
    place=18,
    summary=(
        "The test that ends a loop stands by itself, before the rest of its chain.\n"
        "Refused where no branch always leaves that could come first as well."
    ),
    term="Replace Nested Conditional with Guard Clauses",
    help="Let the branch that leaves a chain stand alone, so that the rest can become a method.",
    parameters=(StepParameter("line", Takes.ONE, "LINE"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="3",
        before="""\
load = 0
for word in ["load", "load", "quit", "load"]:
    if word == "load":
        load += 1
    elif word == "quit":
        break
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
