"""Which statements of code that talks only compute, and deserve to be a method of the class that computes."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence, Set
from dataclasses import dataclass, replace
from functools import cached_property

from aedifex.design.dividing.loop_body import actions
from aedifex.design.dividing.names_from_calls import sets_plain_values
from aedifex.design.dividing.names_from_changes import verb_of_new_value
from aedifex.program.analysis.flow import Flow
from aedifex.program.analysis.values import may_change_object
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Block, Function, Kind, Statement
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.plain_text import PlainText
from aedifex.survey.words import is_participle, words_of

_MOST_PASSED = 3
_MOST_RETURNED = 2
_FEWEST_LINES = 2
_TELLING = frozenset("describe display list print report say show tell write".split())
_SETTING = frozenset({"set", "clear", "change"})
_FEWEST_LINES_OF_ANSWER = 3

Run = Sequence[Statement]


@dataclass(frozen=True)
class SilentBlock:
    """Some statements that compute, the function in which they stand, and names for a method of them."""

    routine: Function | None
    run: Run
    names: tuple[str, ...]


@dataclass(frozen=True)
class SilentBlocks:
    """Finds, in code that talks, the runs of statements that change the state of a class and say nothing.

    `own` is that state; `concerns` tells whether a statement changes no other, and says nothing; `headings` are the
    names that the comment above a run gives it. What is `apart` has a method of its own already, and so has what stands
    in the `given` functions.
    """

    module: Module
    own: Set[Symbol]
    given: Set[str]
    apart: Set[Statement]
    concerns: Callable[[Statement], bool]
    headings: Callable[[Run], list[str]]

    def find(self) -> Iterator[SilentBlock]:
        """The runs with their names, those of one routine in the order of the text; of equal ones only the first.

        Where a whole run stands in a longer one too, it is cut out of that, to be shared.
        """
        found = list(self._all())
        shared = {statement for block in found for statement in self._shared(block, found)}
        blocks = list(replace(self, apart=self.apart | shared)._all()) if shared else found
        texts: set[tuple[str, ...]] = set()
        for block in blocks:
            words = self._words_of(block.run)
            if words not in texts:
                texts.add(words)
                yield block

    def _shared(self, block: SilentBlock, found: Sequence[SilentBlock]) -> Iterator[Statement]:
        """The statements of a run that are the whole of another."""
        words = self._words_of(block.run)
        for other in found:
            size = len(other.run)
            for first in range(len(words) - size + 1) if size < len(words) else ():
                if words[first : first + size] == self._words_of(other.run):
                    yield from block.run[first : first + size]

    def _words_of(self, run: Run) -> tuple[str, ...]:
        text = PlainText.of(self.module)
        return tuple(text.of_statement(statement) for statement in run)

    def _all(self) -> Iterator[SilentBlock]:
        main = MainCode.of(self.module)
        for statement in main.run:
            yield from self._within(None, [statement], "", is_whole=False)
        for function in (function for function in main.functions if function.name not in self.given):
            yield from self._within(function, function.body.statements, function.name, is_whole=True)

    def _within(self, routine: Function | None, run: Run, deed: str, *, is_whole: bool) -> Iterator[SilentBlock]:
        """The runs in some statements and in their blocks; what computes most in code with a name has that name."""
        found = list(self._runs(routine, run)) if is_whole else []
        inner = [(statement, block) for statement in run for block in statement.blocks if block.routine is None]
        taken = {statement for one in found for statement in one}
        inside: list[SilentBlock] = []
        for statement, block in inner:
            if statement not in taken:
                word = self._words.get(block, "")
                inside += self._within(routine, block.statements, word, is_whole=True)
        core = self._core([run for run in [*found, *(block.run for block in inside)] if self._changes(run)])
        for one in found:
            yield SilentBlock(routine, one, tuple(self._names(routine, one, deed if one is core else "")))
        for block_inside in inside:
            names = block_inside.names
            is_core = deed and block_inside.run is core
            yield SilentBlock(routine, block_inside.run, (deed, *names) if is_core else names)

    def _core(self, runs: Sequence[Run]) -> Run | None:
        """The one of some runs that does most of what is done."""
        by_length = sorted(runs, key=self._line_count, reverse=True)
        is_clear = len(by_length) == 1 or (
            len(by_length) > 1 and self._line_count(by_length[0]) >= 2 * self._line_count(by_length[1])
        )
        return by_length[0] if is_clear else None

    def _line_count(self, run: Run) -> int:
        return self.module.source.lines_of(run[-1].span)[1] - self.module.source.line_of(run[0].start) + 1

    @cached_property
    def _words(self) -> dict[Block, str]:
        """The words on which the main code enters its blocks."""
        found: dict[Block, str] = {}
        for outer in MainCode.of(self.module).run:
            for statement in outer.walk():
                found.update((block, name) for name, block in actions(self.module, statement))
        return found

    def _runs(self, routine: Function | None, statements: Run) -> Iterator[Run]:
        """The runs side by side that compute, and need little from around them; a comment begins another."""
        run: list[Statement] = []
        for statement in [*statements, None]:
            goes_on = statement is not None and statement not in self.apart and self.concerns(statement)
            is_new = statement is not None and bool(self.headings([statement]))
            if not goes_on or is_new:
                trimmed = self._trimmed(run)
                if trimmed and self._is_worth_it(routine, trimmed):
                    yield trimmed
                run = []
            if statement is not None and goes_on:
                run.append(statement)

    def _trimmed(self, run: list[Statement]) -> list[Statement]:
        """A run without what has nothing to do with the state at either end; what gives it first values stays."""
        touching = [not self.own.isdisjoint(_used([statement])) for statement in run]
        if not any(touching):
            return []
        first, last = touching.index(True), len(touching) - touching[::-1].index(True)
        while first > 0 and _prepares(run[first - 1], run[first:last]):
            first -= 1
        return run[first:last]

    def _is_worth_it(self, routine: Function | None, run: Run) -> bool:
        lines = self._line_count(run)
        given, made = self._given(routine, run), self._made(routine, run)
        if len(given) > _MOST_PASSED or len(made) > _MOST_RETURNED:
            return False
        if not self._changes(run):
            return len(made) == 1 and lines >= _FEWEST_LINES_OF_ANSWER
        return lines >= _FEWEST_LINES or self._works_out(run[0])

    def _works_out(self, statement: Statement) -> bool:
        """Whether a statement gives the state a value that is worked out of more than what it was and a number."""
        pairs = statement.assignment.pairs if statement.assignment is not None else ()
        read = {r.symbol for r in statement.references if r.mode.reads}
        if statement.kind is Kind.UPDATE:
            return len(read) > 1
        return len(pairs) == 1 and pairs[0].value.has_operations and pairs[0].target.symbol in read

    def _changes(self, run: Run) -> bool:
        return not self.own.isdisjoint(_changed(self.module, run))

    def _given(self, routine: Function | None, run: Run) -> set[Symbol]:
        """What a run would have to be given."""
        return Flow(self.module, routine).inputs(run) - self.own

    def _made(self, routine: Function | None, run: Run) -> set[Symbol]:
        """What a run would have to give back."""
        return Flow(self.module, routine).outputs(run) - self.own

    def _names(self, routine: Function | None, run: Run, deed: str) -> Iterator[str]:
        """From the comment above, from the routine or word that does nothing else, or from what changes."""
        naming = self.module.dialect.naming
        yield from self.headings(run)
        changed = [symbol for symbol in _changed(self.module, run) if symbol in self.own]
        if not changed:
            made = next(iter(self._made(routine, run)))
            yield naming.member_name(["calculate", *words_of(made.name)])
            return
        if deed and words_of(deed)[0] not in _TELLING:
            yield deed
        if word := self._word_in(run) if routine is not None else "":
            yield naming.member_name([*words_of(routine.name if routine is not None else "")[:1], word])
        if sets_plain_values(run) and not self._given(routine, run):
            yield from (naming.member_name([word]) for word in ("reset", "clear"))
        yield from (naming.member_name(words) for words in self._deeds(run, changed))

    def _word_in(self, run: Run) -> str:
        """The one plain word that is put somewhere in a run; empty where there is none, or are others."""
        module = self.module
        plain = [statement for statement in run if not statement.blocks]
        written = [text for text in module.strings for each in plain if each.start <= text.start < each.end]
        values = {module.dialect.writer.text_value(module.source.slice(text)) or "" for text in written}
        [value] = values if len(values) == 1 else [""]
        return value if value.isalpha() and value.islower() else ""

    def _deeds(self, run: Run, changed: Sequence[Symbol]) -> Iterator[list[str]]:
        """Words for what happens to each changed variable, or to all of one name; what is not called by a noun last."""
        verbs = [verb_of_new_value(self.module, run, symbol) for symbol in changed]
        names = [words_of(symbol.name) for symbol in changed]
        shared = [first for first, *others in zip(*names, strict=False) if all(word == first for word in others)]
        if len(set(verbs)) == 1 and len(names) > 1 and shared:
            yield [verbs[0], *shared]
        deeds = [[verb, *words] for verb, words in zip(verbs, names, strict=True)]
        yield from sorted(deeds, key=lambda deed: deed[0] in _SETTING or is_participle(deed[-1]))


def _prepares(statement: Statement, run: Run) -> bool:
    """Whether a statement only gives a first value to what a run uses, and nothing before it."""
    pairs = statement.assignment.pairs if statement.assignment is not None else ()
    if statement.kind is not Kind.ASSIGN or not pairs or statement.calls:
        return False
    return _used(run).issuperset(pair.target.symbol for pair in pairs)


def _used(run: Run) -> set[Symbol]:
    return {r.symbol for statement in run for inner in statement.walk() for r in inner.references}


def _changed(module: Module, run: Run) -> list[Symbol]:
    """What a run gives new values to or changes, in the order of the text."""
    found: dict[Symbol, None] = {}
    for statement in (inner for outer in run for inner in outer.walk()):
        for reference in statement.references:
            if reference.mode.writes or may_change_object(reference, module):
                found[reference.symbol] = None
    return list(found)
