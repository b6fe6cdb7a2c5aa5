"""How long code of the owner becomes a short list of calls that reads like a story."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby

from aedifex.design.candidate import Candidate, comment_above
from aedifex.design.turns import LONG_TURN, actions, called_alone, chain_subject, jobs, longest_loop, tails
from aedifex.program.flow import Flow, leaves
from aedifex.program.program import Module
from aedifex.program.statements import Block, Kind, Routine, Statement
from aedifex.survey.facts import MAIN

_FEWEST_LINES = 3
_SHORT_TURN = 10
_LONG_BRANCH = 6
_LONG_STRETCH = 5
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
        if place.routine is not None:
            yield from self.stretches(place, place.routine, whole)
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
        for name, part in tails(block):
            yield from self.named(place, part, [name], turn, _SHORT_TURN)
        if not paragraphs and not any(chain_subject(statement) for statement in block.statements):
            for job, part in jobs(self.module, block):
                yield from self.named(place, part, _JOB_NAMES[job], turn, 0)
        yield from self.branches(place, block)

    def stretches(self, place: Place, routine: Routine, whole: Lines) -> Iterator[Candidate]:
        """What stands between blank lines in a long function, named after the one thing that it makes or sets up."""
        flow = Flow(self.module, routine)
        for run in self.between_blanks(place.statements):
            lines = self.lines(run)
            if lines is None or _size(lines) < _LONG_STRETCH or leaves(run) or self.heading(run[0]):
                continue
            made = [symbol.name for symbol in flow.outputs(run)]
            objects = {_object_of(statement) for statement in run}
            if len(made) == 1:
                yield from self.named(place, run, [f"make_{made[0]}"], whole, _LONG_ROUTINE)
            elif not made and len(objects) == 1 and "" not in objects:
                yield from self.named(place, run, [f"set_up_{objects.pop()}"], whole, _LONG_ROUTINE)

    def between_blanks(self, statements: Sequence[Statement]) -> list[list[Statement]]:
        """Statements side by side, divided where a blank line stands above one."""
        source = self.module.source
        found: list[list[Statement]] = []
        for statement in statements:
            above = source.line_of(statement.start) - 1
            if not found or not source.line(above).strip():
                found.append([])
            found[-1].append(statement)
        return found

    def keys(self, place: Place, whole: Lines) -> Iterator[Candidate]:
        """What binds many keys, one call after the other."""
        for function, calls in groupby(place.statements, key=called_alone):
            if "key" in function.lower():
                yield from self.named(place, list(calls), _KEY_NAMES, whole, LONG_TURN - 1)

    def branches(self, place: Place, block: Block) -> Iterator[Candidate]:
        """The long branches of a long chain: what is done on one word or key, or on all others."""
        for statement in block.walk():
            subject = chain_subject(statement)
            around = self.lines([statement])
            if subject is None or around is None:
                continue
            words = {branch: name for name, branch in actions(self.module, statement)}
            for branch in statement.blocks:
                lines = self.lines(branch.statements)
                if lines is not None and _size(lines) >= (_LONG_BRANCH if branch.role == "else" else _FEWEST_LINES):
                    word = words.get(branch) or (f"other_{subject}" if branch.role == "else" else "")
                    names = [f"handle_{word}", f"handle_{subject}_{word}"] if word else []
                    yield from self.named(place, branch.statements, names, around, _LONG_CHAIN)

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


def _object_of(statement: Statement) -> str:
    """The object of which a statement calls a method or sets an attribute, and does nothing else."""
    first = statement.references[0] if statement.references else None
    is_plain = statement.kind in (Kind.EXPRESSION, Kind.ASSIGN, Kind.UPDATE)
    return first.name if is_plain and first is not None and first.path and first.start == statement.start else ""


def _size(lines: Lines) -> int:
    return lines[1] - lines[0] + 1
