"""Branches that do the same with each copy of a kind, as a number or a word tells which is meant."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.statements import Block, Kind, Role, Statement
from aedifex.program.structure.blocks import plain_blocks
from aedifex.program.structure.layout import Layout
from aedifex.source.text import Span
from aedifex.survey.held_constants import HeldConstants
from aedifex.survey.kinds.likeness import Hole, alike
from aedifex.survey.kinds.repeated import concerns_one, makes_function
from aedifex.survey.plain_names import PlainNames

if TYPE_CHECKING:
    from aedifex.survey.kinds.twins import TwinKind

_ASKING = frozenset({Role.BODY, Role.OTHER_CONDITION})
_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.DECLARE, Kind.IMPORT})


@dataclass(frozen=True)
class Case:
    """A branch for one copy: the constant that a name is compared with, and what is done then.

    The last one may stand for all that is left, and has no condition of its own.
    """

    block: Block
    key: str
    condition: Expression | None

    @property
    def span(self) -> Span:
        """What is done."""
        return Span(self.block.statements[0].start, self.block.statements[-1].end)


@dataclass(frozen=True)
class Choice:
    """Branches side by side, each about one copy, that are alike otherwise; in the order of the copies.

    They are those of one statement, or of several that each have only one. A choice `is_sure` where the name can be
    nothing else than one of the constants, and there are no other branches.
    """

    cases: tuple[Case, ...]
    subject: Expression
    holes: tuple[Hole, ...]
    is_sure: bool

    @property
    def keys(self) -> tuple[str, ...]:
        """The constants."""
        return tuple(case.key for case in self.cases)

    @property
    def in_text(self) -> list[Case]:
        """The branches in the order of the text."""
        return sorted(self.cases, key=lambda case: case.block.start)

    @property
    def first(self) -> Case:
        """The branch that comes first."""
        return self.in_text[0]

    @property
    def span(self) -> Span:
        """From where the first of them stands to the end of the last."""
        block, owner = self.first.block, self.first.block.owner
        assert owner is not None
        return Span(owner.start if block is owner.blocks[0] else block.start, self.in_text[-1].block.end)


def choices_in(kind: TwinKind) -> list[Choice]:
    """The choices between the copies of a kind; where constants differ, those with the most frequent ones."""
    found = list(_Finder(kind).find())
    spelled = Counter(choice.keys for choice in found)
    return [choice for choice in found if choice.keys == spelled.most_common(1)[0][0]]


class _Finder:
    def __init__(self, kind: TwinKind) -> None:
        self.kind = kind
        self.module = kind.module
        self.surroundings = Surroundings.of(self.module)
        self.layout = Layout.of(self.module)
        self.count = len(kind.marks)

    def find(self) -> Iterator[Choice]:
        own = {function for family in self.kind.routines.values() for function in family}
        for routine, block in plain_blocks(self.module):
            if routine in own:
                continue
            for statement in block.statements:
                if statement.kind is Kind.BRANCH:
                    yield from self.within(statement)
            yield from self.side_by_side(block)

    def within(self, statement: Statement) -> Iterator[Choice]:
        """Branches of one statement."""
        cases = [self.case(block) for block in statement.blocks]
        at = 0
        while at + self.count <= len(cases):
            chosen = cases[at : at + self.count]
            is_all = len(cases) == self.count
            choice = self.choice([*chosen[:-1], chosen[-1] or self.last_case(statement, chosen)], is_all=is_all)
            if choice is not None:
                yield choice
                at += self.count
            else:
                at += 1

    def side_by_side(self, block: Block) -> Iterator[Choice]:
        """Statements one after another that each have one branch, and leave the name what it is."""
        at = 0
        while at + self.count <= len(block.statements):
            run = block.statements[at : at + self.count]
            single = all(s.kind is Kind.BRANCH and len(s.blocks) == 1 for s in run)
            choice = self.choice([self.case(s.blocks[0]) for s in run], is_all=True) if single else None
            if choice is not None and not any(self.may_change(choice.subject, s) for s in run):
                yield choice
                at += self.count
            else:
                at += 1

    def may_change(self, subject: Expression, statement: Statement) -> bool:
        """Whether a statement may give a name another value."""
        symbol = subject.reference.symbol if subject.reference is not None else None
        if any(r.symbol is symbol and r.binds for r in self.module.references_within(statement.span)):
            return True
        effects = Effects.of(self.module)
        return any(symbol in effects.transitive[routine].rebinds for routine in effects.may_run_in(statement))

    def case(self, block: Block) -> Case | None:
        """A branch on whether a name is equal to a constant."""
        owner = block.owner
        if owner is None or block.role not in _ASKING:
            return None
        asked = [test for test in self.surroundings.conditions(owner) if test.end <= block.start]
        if not asked:
            return None
        condition = max(asked, key=lambda test: test.start)
        if not condition.is_equality or [part.sense for part in condition.parts] != [Sense.NAME, Sense.CONSTANT]:
            return None
        return Case(block, self.module.source.slice(condition.parts[1].span), condition)

    def last_case(self, statement: Statement, chosen: Sequence[Case | None]) -> Case | None:
        """What is left where no other condition holds, if that is one constant."""
        first = chosen[0]
        if not statement.has_otherwise or first is None or first.condition is None:
            return None
        subject = first.condition.parts[0].reference
        held = HeldConstants.of(self.module).of_symbol(subject.symbol) if subject is not None else None
        left = held - {case.key for case in chosen if case is not None} if held is not None else ()
        return Case(statement.blocks[-1], next(iter(left)), None) if len(left) == 1 else None

    def choice(self, cases: Sequence[Case | None], *, is_all: bool) -> Choice | None:
        """Branches as a choice, if each is about one copy, and they are alike otherwise."""
        known = [case for case in cases if case is not None]
        if len(known) < self.count or not self.are_apart([case.key for case in known]):
            return None
        subjects = [case.condition.parts[0] for case in known if case.condition is not None]
        names = {subject.reference.symbol for subject in subjects if subject.reference is not None}
        if (
            len(names) != 1
            or names & set(self.kind.variables)
            or not all(name in PlainNames.of(self.module) for name in names)
        ):
            return None
        ordered = self.by_copy(known)
        if ordered is None or not all(map(self.can_go, known)):
            return None
        likeness = alike(self.module, [case.span for case in ordered], self.kind.mappings)
        if likeness is None or makes_function(self.kind, ordered[0].span):
            return None
        held = HeldConstants.of(self.module).of_symbol(names.pop())
        is_sure = is_all and held is not None and held <= {case.key for case in known}
        return Choice(tuple(ordered), subjects[0], tuple(likeness.holes), is_sure)

    def are_apart(self, keys: Sequence[str]) -> bool:
        """Whether constants are plain texts, or whole numbers, no two of which are equal."""
        texts = [self.module.dialect.writer.text_value(key) for key in keys]
        values = texts if all(text is not None for text in texts) else [key for key in keys if key.isdigit()]
        return len(set(values)) == len(keys)

    def by_copy(self, cases: Sequence[Case]) -> list[Case] | None:
        """Branches in the order of the copies that they are about."""
        found: list[Case] = []
        for number in range(self.count):
            about = [case for case in cases if concerns_one(self.kind, case.block.statements, number)]
            if len(about) != 1:
                return None
            found += about
        return found

    def can_go(self, case: Case) -> bool:
        """Whether a branch stands on lines of its own, without comments, and defines nothing."""
        block, owner = case.block, case.block.owner
        assert owner is not None
        if any(s.kind in _DEFINING for s in block.walk()) or not self.layout.stands_alone(block.statements[0]):
            return False
        return not any(owner.start <= comment.start < block.end for comment in self.module.comments)
