"""Which statements of the main code and of the owner's functions deserve to be a method of their own."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import groupby

from aedifex.design.model import ClassPlan, Design
from aedifex.design.naming import ACTION_WORDS, ATTRIBUTE_WORDS
from aedifex.design.turns import LONG_TURN, actions, called_alone, chain_subject, jobs, main_loop, tails
from aedifex.program.effects import Effects
from aedifex.program.flow import leaves
from aedifex.program.layout import Layout
from aedifex.program.main_code import MainCode
from aedifex.program.names import Symbol
from aedifex.program.program import Program
from aedifex.program.state import is_state, may_change_object
from aedifex.program.statements import Block, Kind, Statement
from aedifex.survey.facts import MAIN
from aedifex.survey.words import words_of

_FEWEST_LINES = 3
_SHORT_TURN = 10
_LONG_BRANCH = 6
_LONG_CHAIN = 20
_JOB_NAMES = {"take_input": ("take_input", "read_input"), "update": ("update", "move_on"), "draw": ("draw", "draw_all")}
_KEY_NAMES = ("bind_keys", "bind_all_keys")
_TURN_NAMES = ("take_turn", "next_turn")
_MOST_NAME_WORDS = 3
_ARTICLES = frozenset({"the", "a", "an", "now", "then", "and", "we", "it"})
_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.IMPORT, Kind.DECLARE})


@dataclass(frozen=True)
class Candidate:
    """Some statements that could become a method: of a class, or of the owner where `plan` is None.

    `routine` is where they stand, `first` and `last` are lines of the script as it was read. It is worth the while only
    as long as what it is to shorten, the lines `around` it, has more than `limit` lines left.
    """

    plan: ClassPlan | None
    routine: str
    first: int
    last: int
    name: str
    around: tuple[int, int] = (0, 0)
    limit: int = 0

    def lies_across(self, other: Candidate) -> bool:
        """Whether two overlap, and neither lies inside the other."""
        is_apart = self.last < other.first or other.last < self.first
        return not is_apart and not self.holds(other) and not other.holds(self)

    def holds(self, other: Candidate) -> bool:
        """Whether another lies inside it, and is smaller."""
        return self.first <= other.first and other.last <= self.last and not self.is_same(other)

    def is_same(self, other: Candidate) -> bool:
        """Whether two are made of the same lines."""
        return (self.first, self.last) == (other.first, other.last)


def candidates(program: Program, design: Design) -> list[Candidate]:
    """The runs of statements worth a method, those of classes first, the longest of each first."""
    return _Finder(program, design).find()


class _Finder:
    def __init__(self, program: Program, design: Design) -> None:
        self.program = program
        self.design = design
        self.module = program.main
        self.effects = Effects.of(self.module)
        self.main = MainCode.of(self.module)
        self.layout = Layout.of(self.module)
        names = {spelling: name for name, spelling in program.spellings.items()}
        scope = self.module.scope.symbols
        self.owned = {
            plan.name: {scope[name] for f in plan.fields if (name := names.get(f.variable, f.variable)) in scope}
            for plan in design.classes
        }

    def find(self) -> list[Candidate]:
        found = [c for plan in self.design.classes for c in self.of_class(plan)]
        found.sort(key=lambda c: (c.first - c.last, c.first))
        return [*found, *self.of_owner(), *self.of_chains()]

    # -- what concerns one class only

    def of_class(self, plan: ClassPlan) -> Iterator[Candidate]:
        own = self.owned[plan.name]
        for routine, block in self.blocks:
            run: list[Statement] = []
            for statement in [*block.statements, None]:
                if statement is not None and self.concerns(statement, own):
                    run.append(statement)
                    continue
                yield from self.as_candidate(plan, routine, self.trimmed(run, own), own)
                run = []

    def concerns(self, statement: Statement, own: set[Symbol]) -> bool:
        """Whether all state that a statement changes is a class's own, and control leaves it at its end only."""
        if statement.kind in _DEFINING or leaves([statement]) or not self.layout.stands_alone(statement):
            return False
        if statement.kind is Kind.EXPRESSION and not self.changes_directly(statement, own):
            return False  # a call tells the story where it stands
        fields = {symbol for symbol in self.main.fields if symbol not in own}
        return self.changed(statement).isdisjoint(fields) and len(self.read(statement) & fields) < 3

    def changes_directly(self, statement: Statement, own: set[Symbol]) -> bool:
        return any(r.symbol in own and may_change_object(r, self.module) for r in statement.references)

    def trimmed(self, run: list[Statement], own: set[Symbol]) -> list[Statement]:
        """A run without what does not touch the class at either end."""
        while run and own.isdisjoint(self.read(run[0]) | self.changed(run[0])):
            run = run[1:]
        while run and own.isdisjoint(self.read(run[-1]) | self.changed(run[-1])):
            run = run[:-1]
        return run

    def as_candidate(
        self, plan: ClassPlan | None, routine: str, run: Sequence[Statement], own: set[Symbol]
    ) -> Iterator[Candidate]:
        lines = self.lines(run) if run else None
        if lines is None or lines[1] - lines[0] + 1 < _FEWEST_LINES:
            return
        if plan is not None:
            directly = {r.symbol for s in run for inner in s.walk() for r in inner.references if r.mode.writes}
            if directly.isdisjoint(own):
                return
        name = self.name(run, own)
        if name:
            yield Candidate(plan, routine, *lines, name)

    def changed(self, statement: Statement) -> set[Symbol]:
        return {symbol for symbol in self.effects.of_any(statement).writes if is_state(symbol)}

    def read(self, statement: Statement) -> set[Symbol]:
        return self.effects.of_any(statement).reads

    # -- what is a paragraph of the main loop

    def of_owner(self) -> Iterator[Candidate]:
        """What makes a long main loop short: its paragraphs, its jobs, the end of a turn, and a whole turn."""
        yield from self.of_run()
        loop = main_loop(self.main)
        turn = self.lines(loop.blocks[0].statements) if loop is not None else None
        run = self.lines(self.main.run)
        if loop is None or turn is None or run is None:
            return
        block = loop.blocks[0]
        if turn[1] - turn[0] >= LONG_TURN:
            paragraphs = list(self.paragraphs(block))
            for paragraph in paragraphs:
                if not leaves(paragraph) and not any(s.kind in _DEFINING for s in paragraph):
                    yield from self.as_candidate(None, MAIN, paragraph, set())
            for name, part in tails(block, self.module, [paragraph[0] for paragraph in paragraphs]):
                yield from self.for_owner(part, [name or self.name(part, set())], turn, _SHORT_TURN)
            if not any(chain_subject(self.module, statement) for statement in block.statements):
                for job, part in jobs(self.module, block):
                    yield from self.for_owner(part, _JOB_NAMES[job], turn, 0)
            yield from self.of_branches(block)
        yield from self.for_owner(block.statements, _TURN_NAMES, run, LONG_TURN)

    def of_run(self) -> Iterator[Candidate]:
        """What binds many keys, one call after the other."""
        around = self.lines(self.main.run) if self.main.run else None
        for function, calls in groupby(self.main.run, key=called_alone):
            if around is not None and "key" in function.lower():
                yield from self.for_owner(list(calls), _KEY_NAMES, around, LONG_TURN - 1)

    def for_owner(
        self, run: Sequence[Statement], names: Sequence[str], around: tuple[int, int], limit: int
    ) -> Iterator[Candidate]:
        """A candidate for the owner, with the first name that nothing in the script has."""
        lines = self.lines(run)
        name = next((name for name in names if name and name not in self.module.scope.symbols), None)
        if lines is not None and lines[1] - lines[0] + 1 >= _FEWEST_LINES and name is not None:
            yield Candidate(None, MAIN, *lines, name, around, limit)

    def of_chains(self) -> Iterator[Candidate]:
        """What the main loop does to one thing on one word or key: an action of that thing."""
        loop = main_loop(self.main)
        for statement in loop.walk() if loop is not None else ():
            for name, block in actions(self.module, statement):
                plan = next((p for p in self.design.classes if self.is_action(block.statements, p)), None)
                lines = self.lines(block.statements)
                if plan is not None and lines is not None:
                    taken = {field.name for field in plan.fields} | {method.name for method in plan.methods}
                    yield Candidate(plan, MAIN, *lines, f"on_{name}" if name in taken else name)

    def of_branches(self, block: Block) -> Iterator[Candidate]:
        """The long branches of a long chain: what is done on one word, or on all others."""
        for statement in block.statements:
            subject = chain_subject(self.module, statement)
            around = self.lines([statement])
            if subject is None or around is None:
                continue
            words = {branch: name for name, branch in actions(self.module, statement)}
            for branch in statement.blocks:
                lines = self.lines(branch.statements)
                if lines is not None and lines[1] - lines[0] + 1 >= _LONG_BRANCH:
                    other = f"other_{subject}" if branch.role == "else" else ""
                    name = f"handle_{words.get(branch) or other}"
                    yield from self.for_owner(branch.statements, [name], around, _LONG_CHAIN)

    def is_action(self, run: Sequence[Statement], plan: ClassPlan) -> bool:
        own = self.owned[plan.name]
        directly = {r.symbol for s in run for inner in s.walk() for r in inner.references if r.mode.writes}
        return not directly.isdisjoint(own) and all(self.concerns(statement, own) for statement in run)

    def paragraphs(self, block: Block) -> list[list[Statement]]:
        """The statements of a block, divided where a comment stands above one."""
        found: list[list[Statement]] = []
        for statement in block.statements:
            if self.comment(statement):
                found.append([statement])
            elif found:
                found[-1].append(statement)
        return found

    # -- lines and names

    @cached_property
    def blocks(self) -> list[tuple[str, Block]]:
        """The blocks of the main code and of the functions that stay with the owner."""
        given = {method.routine for plan in self.design.classes for method in plan.methods}
        found = [(MAIN, block) for statement in self.main.statements for block in _inner(statement)]
        for routine in self.main.routines:
            if routine.name not in given and routine.body is not None:
                found.append((routine.name, routine.body))
                found += [(routine.name, b) for s in routine.body.statements for b in _inner(s)]
        return found

    def lines(self, run: Sequence[Statement]) -> tuple[int, int] | None:
        """The lines of the script as it was read; None where they are not there in this form."""
        source = self.module.source
        ends = (source.place(run[0].start), source.place(max(run[-1].start, run[-1].end - 1)))
        first, last = (self.program.original_place(place).line for place in ends)
        return (first, last) if first is not None and last is not None and first <= last else None

    def name(self, run: Sequence[Statement], own: set[Symbol]) -> str:
        """From the comment above, what the condition asks, or what is set; empty where nothing tells."""
        words = words_of(self.comment(run[0]))
        words = [w for w in words if w not in _ARTICLES]
        dialect = self.module.dialect
        is_short = len(words) <= _MOST_NAME_WORDS or words[0] in ACTION_WORDS
        if words and words[0].isalpha() and is_short:
            name = dialect.member_name(words)
            return name if dialect.is_name(name) and not dialect.is_taken(name) else ""
        verb = "check" if run[0].kind is Kind.BRANCH else "update"
        asked = [r.symbol for r in run[0].references if r.symbol in own]
        set_here = [r.symbol for s in run for i in s.walk() for r in i.references if r.symbol in own and r.mode.writes]
        for symbol in [*asked, *set_here]:
            noun = self.member(symbol)
            if noun:
                return dialect.member_name([verb, *words_of(noun)])
        return ""

    def member(self, symbol: Symbol) -> str:
        """The field's name in its class."""
        spelling = self.program.spellings.get(symbol.name, symbol.name)
        names = [f.name for plan in self.design.classes for f in plan.fields if f.variable == spelling]
        return names[0] if names and (names[0] in ATTRIBUTE_WORDS or len(names[0]) > 1) else symbol.name

    def comment(self, statement: Statement) -> str:
        """The last comment line right above a statement."""
        source = self.module.source
        line = source.line_of(statement.start) - 1
        text = source.line(line).strip() if line >= 1 else ""
        return text.strip("#-=*~_ \t:") if text.startswith("#") else ""


def _inner(statement: Statement) -> Iterator[Block]:
    for inner in statement.walk():
        for block in inner.blocks:
            if block.routine is None and block.statements:
                yield block
