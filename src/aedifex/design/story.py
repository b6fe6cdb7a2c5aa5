"""How long code of the owner becomes a short list of calls that reads like a story."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby

from aedifex.design.candidate import Candidate, comment_above
from aedifex.design.model import Design
from aedifex.design.turns import LONG_TURN, actions, called_alone, chain_subject, jobs, longest_loop, tails
from aedifex.program.flow import Flow, leaves
from aedifex.program.program import Module
from aedifex.program.statements import Block, Kind, Routine, Statement
from aedifex.survey.facts import MAIN

_FEWEST_LINES = 3
_SHORT_TURN = 10
_LONG_BRANCH = 6
_LONG_CHAIN = 20
_LONG_ROUTINE = 25
_MOST_PASSED = 4
_MOST_RETURNED = 2
_JOB_NAMES = {"take_input": ("take_input", "read_input"), "update": ("update", "move_on"), "draw": ("draw", "draw_all")}
_TURN_NAMES = ("take_turn", "next_turn")
_KEY_NAMES = ("bind_keys", "bind_all_keys")
_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.IMPORT, Kind.DECLARE})

Lines = tuple[int, int]


@dataclass(frozen=True)
class Place:
    """Where long code stands: a function that stays with the owner, or the running code where `routine` is None."""

    routine: Routine | None
    statements: Sequence[Statement]

    @property
    def name(self) -> str:
        """The name that it goes by."""
        return self.routine.name if self.routine is not None else MAIN


@dataclass(frozen=True)
class Story:
    """Finds what makes long code of the owner short.

    `lines` tells the lines of some statements in the script as it was read, `heading` the name that the comment above
    a statement gives.
    """

    module: Module
    design: Design
    lines: Callable[[Sequence[Statement]], Lines | None]
    heading: Callable[[Statement], str]

    def of(self, place: Place) -> Iterator[Candidate]:
        """What binds keys, the paragraphs, the jobs, the end of a turn, and a whole turn: the smaller parts first."""
        whole = self.lines(place.statements) if place.statements else None
        if whole is None or (place.routine is not None and _size(whole) <= _LONG_ROUTINE):
            return
        yield from self.keys(place, whole)
        loop = longest_loop(place.statements)
        if _size(whole) > _LONG_ROUTINE:
            for paragraph in self.paragraphs(place.statements):
                if loop not in paragraph:
                    yield from self.named(place, paragraph, [self.heading(paragraph[0])], whole, _LONG_ROUTINE)
        turn = self.lines(loop.blocks[0].statements) if loop is not None else None
        if loop is None or turn is None:
            return
        if _size(turn) > LONG_TURN:
            yield from self.parts_of_turn(place, loop.blocks[0], turn)
        names = [*_TURN_NAMES, *([f"take_{place.name}_turn"] if place.routine is not None else [])]
        limit = LONG_TURN if place.routine is None else _LONG_ROUTINE
        yield from self.named(place, loop.blocks[0].statements, names, whole, limit)

    def parts_of_turn(self, place: Place, block: Block, turn: Lines) -> Iterator[Candidate]:
        """The paragraphs and the end of a turn; its jobs where no comment and no chain divides it."""
        paragraphs = [p for p in self.paragraphs(block.statements) if self.heading(p[0])]
        for paragraph in paragraphs:
            if not leaves(paragraph):
                yield from self.named(place, paragraph, [self.heading(paragraph[0])], turn, 0)
        for name, part in tails(block, self.module, [paragraph[0] for paragraph in paragraphs]):
            yield from self.named(place, part, [name or self.heading(part[0])], turn, _SHORT_TURN)
        if not paragraphs and not any(chain_subject(self.module, statement) for statement in block.statements):
            for job, part in jobs(self.module, block):
                yield from self.named(place, part, _JOB_NAMES[job], turn, 0)
        yield from self.branches(place, block)

    def keys(self, place: Place, whole: Lines) -> Iterator[Candidate]:
        """What binds many keys, one call after the other."""
        for function, calls in groupby(place.statements, key=called_alone):
            if "key" in function.lower():
                yield from self.named(place, list(calls), _KEY_NAMES, whole, LONG_TURN - 1)

    def branches(self, place: Place, block: Block) -> Iterator[Candidate]:
        """The long branches of a long chain: what is done on one word, or on all others."""
        for statement in block.statements:
            subject = chain_subject(self.module, statement)
            around = self.lines([statement])
            if subject is None or around is None:
                continue
            words = {branch: name for name, branch in actions(self.module, statement)}
            for branch in statement.blocks:
                lines = self.lines(branch.statements)
                if lines is not None and _size(lines) >= _LONG_BRANCH:
                    other = f"other_{subject}" if branch.role == "else" else ""
                    name = f"handle_{words.get(branch) or other}"
                    yield from self.named(place, branch.statements, [name], around, _LONG_CHAIN)

    def paragraphs(self, statements: Sequence[Statement]) -> list[list[Statement]]:
        """Statements side by side, divided where a comment stands above one."""
        found: list[list[Statement]] = []
        for statement in statements:
            if comment_above(self.module, statement):
                found.append([statement])
            elif found:
                found[-1].append(statement)
        return found

    def named(
        self, place: Place, run: Sequence[Statement], names: Sequence[str], around: Lines, limit: int
    ) -> Iterator[Candidate]:
        """A candidate with the first name that nothing in the script has."""
        lines = self.lines(run)
        name = next((name for name in names if name and name not in self.module.scope.symbols), None)
        if lines is None or name is None or _size(lines) < _FEWEST_LINES or any(s.kind in _DEFINING for s in run):
            return
        if place.routine is None or self.is_handy(place.routine, run):
            yield Candidate(None, place.name, *lines, name, around, limit)

    def is_handy(self, routine: Routine, run: Sequence[Statement]) -> bool:
        """Whether little would have to be passed in and returned."""
        flow = Flow(self.module, routine)
        return len(flow.inputs(run)) <= _MOST_PASSED and len(flow.outputs(run)) <= _MOST_RETURNED


def _size(lines: Lines) -> int:
    return lines[1] - lines[0] + 1
