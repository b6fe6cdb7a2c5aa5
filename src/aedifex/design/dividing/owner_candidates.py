"""How long code of the owner becomes a short list of calls that reads like a story."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence, Set
from dataclasses import dataclass, replace
from functools import cache, cached_property, partial
from itertools import groupby

from aedifex.design.dividing.candidate import Candidate
from aedifex.design.dividing.loop_body import (
    DRAWING,
    LONG_TURN,
    Job,
    answers,
    asks_itself,
    chain_subject,
    chains,
    done_to_each,
    job_of,
    jobs,
    longest_loop,
    walked_things,
)
from aedifex.design.dividing.menus import Menus
from aedifex.design.dividing.names_from_calls import called_alone, one_deed, one_thing, only_says
from aedifex.design.dividing.paragraphs import Paragraphs
from aedifex.design.dividing.windows import Windows
from aedifex.program.analysis.flow import Flow, leaves, writes
from aedifex.program.analysis.values import is_written_out, references_in
from aedifex.program.dialect.handling import Handling
from aedifex.program.dialect.naming import Naming
from aedifex.program.model.module import Module
from aedifex.program.model.names import MAIN, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Shape, Statement
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.start_of_run import waits_for_events
from aedifex.survey.words import is_plural, singular, words_of

_FEWEST_LINES = 3
_SHORTEST_NAME = 3
_SHARE_ABOUT = 3
_SHARE_UNDER_CONDITION = 2
_SHORT_TURN = 10
_LONG_STRETCH = 5
_LONG_MENU = 4
_SHORT_REST = 8
_LONG_CHAIN = 20
_LONG_ROUTINE = 25
_LONG_STORY = 16
_MOST_PASSED = 4
_MOST_RETURNED = 2
JOB_NAMES = {
    Job.INPUT: ("take input", "read input"),
    Job.UPDATE: ("update", "move on"),
    Job.DRAW: ("draw", "draw all"),
}
_TURN_NAMES = ("take turn", "next turn")
_END_NAMES = ("finish", "close down")
_WINDOW_NAMES = ("build window", "build widgets")
_MENU_NAMES = ("show menu", "show choices")
_KEY_NAMES = ("bind keys", "bind all keys")
_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.IMPORT, Kind.DECLARE})

Lines = tuple[int, int]


@dataclass(frozen=True)
class Place:
    """Where long code stands: a function that stays with the owner, or the main code where `routine` is None.

    `has_turns` tells whether its longest loop is what it is there for.
    """

    routine: Function | None
    statements: Sequence[Statement]
    has_turns: bool = False

    @property
    def name(self) -> str:
        """The name that it goes by."""
        return self.routine.name if self.routine is not None else MAIN


@dataclass(frozen=True)
class Story:
    """Finds what makes long code of the owner short.

    `lines` tells the lines of some statements in the script as it was read, `headings` the names that the comment above
    them gives; `owned` are the fields of classes, which the owner must not begin elsewhere.
    """

    module: Module
    lines: Callable[[Sequence[Statement]], Lines | None]
    headings: Callable[[Sequence[Statement]], list[str]]
    owned: Set[Symbol]

    @cached_property
    def paragraphs(self) -> Paragraphs:
        """The paragraphs of the file."""
        return Paragraphs(self.module)

    def of(self, place: Place) -> Iterator[Candidate]:
        """What binds keys, the parts of long blocks, the parts of a turn, and a whole turn: the smaller first."""
        whole = self.lines(place.statements) if place.statements else None
        is_run = place.routine is None and place.has_turns
        if whole is None:
            return
        if place.routine is None and not is_run:
            yield from self.window(place)
        if place.routine is None or _size(whole) > _LONG_ROUTINE:
            yield from self.keys(place, whole)
        if not is_run and _size(whole) <= _LONG_ROUTINE:
            return
        yield from self.parts(place, place.statements, whole)
        has_turns = place.has_turns and not (is_run and waits_for_events(self.module, place.statements))
        loop = longest_loop(place.statements) if has_turns else None
        turn = self.lines(loop.blocks[0].statements) if loop is not None else None
        if loop is None or turn is None or (not is_run and 2 * _size(turn) < _size(whole)):
            return
        if _size(turn) > LONG_TURN:
            yield from self.parts_of_turn(place, loop.blocks[0], turn)
        own = [self.naming.joined("take", place.name, "turn")] if place.routine is not None else []
        names = [*self.spelled(_TURN_NAMES), *own]
        limit = _LONG_STORY if is_run and not self.is_divided(loop.blocks[0]) else _LONG_ROUTINE
        yield from self.named(place, loop.blocks[0].statements, names, turn, limit)
        if is_run:
            yield from self.end(place, loop, whole)

    def end(self, place: Place, loop: Statement, whole: Lines) -> Iterator[Candidate]:
        """What is done once the main loop is over, if that is long, or makes the code around the loop long."""
        after = [s for s in place.statements if s.start > loop.start and s.block is loop.block]
        lines = self.lines(after) if after else None
        if lines is not None:
            limit = 0 if _size(lines) >= _LONG_STRETCH else LONG_TURN
            yield from self.named(place, after, self.spelled(_END_NAMES), whole, limit)

    def parts(self, place: Place, statements: Sequence[Statement], around: Lines) -> Iterator[Candidate]:
        """What can be cut out of a long block: first out of long blocks in it, then its branches, bodies, stretches."""
        if _size(around) <= _LONG_ROUTINE:
            return
        for statement in statements:
            for block in statement.blocks:
                inner = self.lines(block.statements) if block.routine is None and block.statements else None
                if inner is not None:
                    yield from self.parts(place, block.statements, inner)
        for statement in statements:
            yield from self.branches(place, statement)
            for name, body in done_to_each(self.module, statement):
                lines = self.lines(body)
                if lines is not None and _size(lines) > LONG_TURN:
                    yield from self.named(place, body, [name], around, _LONG_ROUTINE)
        loop = longest_loop(statements) if place.has_turns else None
        for paragraph in self.paragraphs.headed(statements):
            if loop not in paragraph:
                yield from self.named(
                    place, self.paragraphs.of_one_subject(paragraph), self.headings(paragraph), around, _LONG_ROUTINE
                )
        yield from self.stretches(place, statements, around)

    def parts_of_turn(self, place: Place, block: Block, turn: Lines) -> Iterator[Candidate]:
        """The paragraphs and the end of a turn; its jobs where no comment and no chain divides it, or it stays long."""
        paragraphs = [p for p in self.paragraphs.headed(without_counter(block)) if self.headings(p)]
        for paragraph in map(self.only_drawing, map(self.paragraphs.of_one_subject, paragraphs)):
            if not leaves(paragraph):
                names = [*self.next_values(place, paragraph), *self.headings(paragraph)]
                yield from self.named(place, paragraph, names, turn, 0)
        for menu in self.menus(block):
            yield from self.named(place, menu, self.spelled(_MENU_NAMES), turn, 0)
        for name, part in chains(self.module, block):
            yield from self.named(place, part, [name], turn, _SHORT_TURN)
        is_divided = self.is_divided(block)
        for job, part in jobs(self.module, block):
            while job is Job.INPUT and len(part) > 1 and part[-1].kind is Kind.ASSIGN:
                part.pop()  # what is asked for at the end of it is for those that follow
            each = list(done_to_each(self.module, part[0])) if job is Job.INPUT and len(part) == 1 else []
            if each and not asks_itself(self.module, part[0]):
                yield from self.named(place, each[0][1], [each[0][0]], turn, 0)
                continue
            about = self.about_input(place, part, job)
            with_input = self.with_input(place, part) if about else part
            if len(with_input) < len(part) and len(self.made(place, with_input)) <= len(self.made(place, part)):
                yield from self.named(place, with_input, about, turn, 0)
                part, about = part[len(with_input) :], []
                rest = self.lines(part)
                if rest is None or _size(rest) <= _SHORT_REST:
                    continue
            names = [*about, *self.about_collected(place, part, job), *self.spelled(JOB_NAMES[job])]
            is_apart = job is Job.UPDATE and not is_divided
            deeds = self.paragraphs.between_blanks(_under_condition(part)) if is_apart else []
            told = [run for run in deeds if self.names_in_turn(place, run)]
            is_told = len(deeds) > 1 and 2 * len(told) >= len(deeds)
            is_long = _size(self.lines(part) or (0, 0)) > _LONG_STORY
            for run in told if is_told or is_long else ():
                yield from self.named(place, run, self.names_in_turn(place, run), turn, 0)
            limit = _LONG_ROUTINE if is_divided or is_told else 0
            for candidate in self.named(place, part, names, turn, limit):
                yield replace(candidate, is_outermost=is_divided)
        for statement in block.walk():
            yield from self.branches(place, statement)

    def menus(self, block: Block) -> Iterator[list[Statement]]:
        """The lines of plain text that are said one after the other before something is asked."""
        library = self.module.dialect.library
        for is_plain, run in groupby(block.statements, key=self.says_plain_text):
            said = list(run)
            behind = block.statements[said[-1].index + 1 :]
            asks = bool(behind) and any(call.callee and call.callee.name == library.asks for call in behind[0].calls)
            if is_plain and asks and len(said) >= _LONG_MENU:
                yield said

    def says_plain_text(self, statement: Statement) -> bool:
        """Whether a statement does nothing but to say what is written out."""
        is_said = only_says(self.module, statement) and len(statement.calls) == 1
        return is_said and len(self.module.references_within(statement.span)) == 1

    def only_drawing(self, paragraph: list[Statement]) -> list[Statement]:
        """A paragraph whose heading says that it draws, up to the last statement that does."""
        verbs = {words_of(name)[0] for name in self.headings(paragraph)}
        drawing = [number for number, s in enumerate(paragraph) if job_of(self.module, s) is Job.DRAW]
        return paragraph[: drawing[-1] + 1] if drawing and not verbs.isdisjoint(DRAWING) else paragraph

    def next_values(self, place: Place, run: Sequence[Statement]) -> list[str]:
        """A name for what gives one variable, after which the comment above is worded, its value for this turn."""
        made = [symbol.name for symbol in self.made(place, run)]
        is_so = len(made) == 1 and made[0] in self.headings(run)
        return [self.naming.joined("next", made[0])] if is_so else []

    def names_in_turn(self, place: Place, run: Sequence[Statement]) -> list[str]:
        """Names for what a turn does between two blank lines: with the input, to all of several things, or one deed."""
        each = walked_things(self.module, run[0]) if len(run) == 1 else ""
        names = [self.name_of_walk(place, run, each)] if each else []
        deed = one_deed(self.module, run)
        return [*self.about_input(place, run, Job.UPDATE), *names, *([self.naming.member_name(deed)] if deed else [])]

    def name_of_walk(self, place: Place, run: Sequence[Statement], each: str) -> str:
        """A name for a loop over several things: after the one variable that comes of it, or after the things.

        What is given one of the things is found among them.
        """
        loop, made = run[0], self.made(place, run)
        if job_of(self.module, loop) is Job.DRAW:
            return self.naming.joined("draw", each)
        given = [
            (s, p.value) for s in loop.walk() if s.assignment for p in s.assignment.pairs if p.target.symbol in made
        ]
        if len(made) != 1 or not given:
            return self.naming.joined("update", each)
        own = {reference.symbol for reference in loop.references if reference.mode.writes}
        is_one = all(v.shape is Shape.NAME and {r.symbol for r in references_in(s, v)} <= own for s, v in given)
        return self.naming.joined("find" if is_one else "update", made[0].name)

    def about_input(self, place: Place, run: Sequence[Statement], job: Job) -> list[str]:
        """A name for a run that does something with the one thing that it is given."""
        given = self.given(place, run)
        if job is not Job.UPDATE or len(given) != 1 or len(given[0].name) < _SHORTEST_NAME:
            return []
        inside = _under_condition(run)
        share = _SHARE_ABOUT if inside is run else _SHARE_UNDER_CONDITION
        is_telling = share * _count_about(inside, given[0]) >= len(inside)
        return [self.naming.joined("handle", given[0].name)] if is_telling else []

    def about_collected(self, place: Place, run: Sequence[Statement], job: Job) -> list[str]:
        """A name for a run that puts what it is given into a list of such things: `handle_guess`."""
        given = set(self.given(place, run)) if job is Job.UPDATE else set()
        adds = self.module.dialect.library.handling_by_method
        for call in (call for statement in run for inner in statement.walk() for call in inner.calls):
            callee = call.callee
            if callee is None or not callee.path or adds(callee.path[-1].name or "") is not Handling.ADDS:
                continue
            put = {r.symbol for r in self.module.references_within(call.span)} - {callee.symbol}
            if put and put <= given and is_plural(callee.name):
                return [self.naming.member_name(["handle", singular(words_of(callee.name)[-1])])]
        return []

    def given(self, place: Place, run: Sequence[Statement]) -> list[Symbol]:
        """What a run is given by the statements of its block before it."""
        fields = self.main.fields if place.routine is None else ()
        begin = run[0].block.statements[0].start
        inputs = [symbol for symbol in self.flow(place.routine).inputs(run) if symbol not in fields]
        return [symbol for symbol in inputs if any(r.start >= begin for r in symbol.bindings)]

    def with_input(self, place: Place, run: Sequence[Statement]) -> list[Statement]:
        """A run up to the last statement that has to do with what it is given."""
        given = self.given(place, run)
        inside = self.module.references_within
        uses = [any(r.symbol in given for r in inside(statement.span)) for statement in run]
        return list(run[: len(uses) - uses[::-1].index(True)]) if any(uses) else list(run)

    def is_divided(self, block: Block) -> bool:
        """Whether comments or chains of conditions tell the parts of a turn."""
        is_headed = any(self.headings(paragraph) for paragraph in self.paragraphs.headed(block.statements))
        return is_headed or any(chain_subject(statement) for statement in block.statements)

    def stretches(self, place: Place, statements: Sequence[Statement], around: Lines) -> Iterator[Candidate]:
        """What stands between blank lines in long code, named after the one thing that it makes or sets up."""
        for run in self.paragraphs.between_blanks(statements):
            lines = self.lines(run)
            is_telling = all(statement in self.main.routes.registrations for statement in run)
            if lines is None or _size(lines) < _LONG_STRETCH or leaves(run) or self.headings(run) or is_telling:
                continue
            made, thing = self.made(place, run), one_thing(self.module, run)
            each = walked_things(self.module, run[0]) if len(run) == 1 else ""
            if len(made) == 1 and self.is_new(place, made[0], run) and _is_about(run, made[0]):
                yield from self.named(place, run, [self.naming.joined("make", made[0].name)], around, _LONG_ROUTINE)
            elif not made and thing:
                yield from self.named(place, run, [self.naming.joined("set", "up", thing)], around, _LONG_ROUTINE)
            elif each:
                name = self.name_of_walk(place, run, each)
                yield from self.named(place, run, [name], around, _LONG_ROUTINE)
            elif deed := one_deed(self.module, run):
                yield from self.named(place, run, [self.naming.member_name(deed)], around, _LONG_ROUTINE)

    def made(self, place: Place, run: Sequence[Statement]) -> list[Symbol]:
        """What a run sets and other code looks at."""
        after = self.flow(place.routine).live_after(run[-1])
        fields = self.main.fields if place.routine is None else ()
        found = {symbol for symbol in writes(run) if symbol in after or symbol in fields}
        return sorted(found, key=lambda symbol: symbol.references[0].start)

    def is_new(self, place: Place, symbol: Symbol, run: Sequence[Statement]) -> bool:
        """Whether a run gives a name its first value."""
        if place.routine is None:
            return self.main_start.get(symbol, -1) >= run[0].start
        return symbol not in self.flow(place.routine).live_before(run[0])

    def window(self, place: Place) -> Iterator[Candidate]:
        """What puts a window together, and where that is long, what fills its parts."""
        windows = Windows(self.module, self.main.fields)
        run = windows.whole(place.statements)
        lines = self.lines(run) if run else None
        free = tuple(n for n in self.spelled(_WINDOW_NAMES) if n not in self.module.names_in_use)
        if lines is None or not free or any(statement.kind in _DEFINING for statement in run):
            return
        for container in windows.containers(run) if _size(lines) > _LONG_ROUTINE else ():
            inside = self.lines(windows.filling(run, container))
            if inside is not None and _size(inside) >= _LONG_STRETCH:
                name = self.naming.member_name(["build", *words_of(container.name)])
                yield Candidate(None, place.name, *inside, (name,))
        yield Candidate(None, place.name, *lines, free)

    def keys(self, place: Place, whole: Lines) -> Iterator[Candidate]:
        """What binds many keys, one call after the other."""
        for function, calls in groupby(place.statements, key=called_alone):
            if "key" in function.lower():
                yield from self.named(place, list(calls), self.spelled(_KEY_NAMES), whole, LONG_TURN - 1)

    def branches(self, place: Place, statement: Statement) -> Iterator[Candidate]:
        """The long branches of a long chain: what is done on one word or key, or on all others."""
        around, told = self.lines([statement]), Menus.of(self.module).names.values()
        for names, branch, fewest in answers(self.module, statement):
            run = _without_last_way_out(branch.statements)
            lines = self.lines(run) if run else None
            if around is not None and lines is not None and _size(lines) >= max(fewest, _FEWEST_LINES):
                is_of_long_menu = names[0] in told and _size(around) > _LONG_CHAIN
                yield from self.named(place, run, names, around, 0 if is_of_long_menu else _LONG_CHAIN)

    def named(
        self, place: Place, run: Sequence[Statement], names: Sequence[str], around: Lines, limit: int
    ) -> Iterator[Candidate]:
        """A candidate with the names that nothing in the script has."""
        lines = self.lines(run)
        free = tuple(name for name in names if name and name not in self.module.names_in_use)
        if lines is None or not free or _size(lines) < _FEWEST_LINES or any(s.kind in _DEFINING for s in run):
            return
        if len(run) == 1 and is_written_out(run[0]):
            return
        if self.is_handy(place, run):
            yield Candidate(None, place.name, *lines, free, around, limit)

    def is_handy(self, place: Place, run: Sequence[Statement]) -> bool:
        """Whether little would have to be passed in and returned."""
        if place.routine is not None:
            flow = self.flow(place.routine)
            return len(flow.inputs(run)) <= _MOST_PASSED and len(flow.outputs(run)) <= _MOST_RETURNED
        if place.has_turns:
            return True
        begun = {symbol for symbol in writes(run) if self.is_new(place, symbol, run)}
        return begun.isdisjoint(self.owned) and len(begun & set(self.main.fields)) <= _MOST_RETURNED

    @property
    def naming(self) -> Naming:
        """How names are spelled."""
        return self.module.dialect.naming

    def spelled(self, names: Sequence[str]) -> list[str]:
        """Names that are given as words in a row."""
        return [self.naming.member_name(name.split()) for name in names]

    @cached_property
    def main(self) -> MainCode:
        """The main code, and what of it is shared."""
        return MainCode.of(self.module)

    @cached_property
    def main_start(self) -> dict[Symbol, int]:
        """Where the main code first sets each variable."""
        found: dict[Symbol, int] = {}
        for symbol in self.module.scope.symbols.values():
            written = [r.start for r in symbol.references if r.mode.writes and r.scope is self.module.scope]
            if written:
                found[symbol] = min(written)
        return found

    @cached_property
    def flow(self) -> Callable[[Function | None], Flow]:
        """The data flow of a routine, or of the main code."""
        return cache(partial(Flow, self.module))


def _is_about(run: Sequence[Statement], symbol: Symbol) -> bool:
    """Whether most statements of a run have to do with one name."""
    return 2 * _count_about(run, symbol) > len(run)


def _count_about(run: Sequence[Statement], symbol: Symbol) -> int:
    """How many statements of a run have to do with a name."""
    return sum(any(r.symbol is symbol for inner in s.walk() for r in inner.references) for s in run)


def _under_condition(run: Sequence[Statement]) -> Sequence[Statement]:
    """What a run does under the one condition on which all of it depends; itself where there is none."""
    is_guarded = len(run) == 1 and run[0].kind is Kind.BRANCH and len(run[0].blocks) == 1
    return run[0].blocks[0].statements if is_guarded else run


def without_counter(block: Block) -> Sequence[Statement]:
    """The statements of a loop without the last, where that only counts on what the loop's condition asks."""
    last, owner = block.statements[-1], block.owner
    asked = {r.symbol for r in owner.references} if owner is not None else set()
    is_counting = last.kind is Kind.UPDATE and not last.calls and {r.symbol for r in last.references} <= asked
    return block.statements[:-1] if is_counting and len(block.statements) > 1 else block.statements


def _without_last_way_out(run: Sequence[Statement]) -> Sequence[Statement]:
    """A run without the statement at its end that leaves a loop or a function, which then stays behind its call."""
    return run[:-1] if run[-1].kind is Kind.LEAVE else run


def _size(lines: Lines) -> int:
    return lines[1] - lines[0] + 1
