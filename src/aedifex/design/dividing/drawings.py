"""Which statements draw one thing, and deserve to be a method of its class."""

from __future__ import annotations

from collections.abc import Iterator, Sequence, Set
from functools import cached_property
from itertools import accumulate, takewhile

from aedifex.design.dividing.loop_body import Job, job_of
from aedifex.design.dividing.names_from_calls import MOVING, called_alone, called_by
from aedifex.design.drafting.naming import is_resource
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import leaves
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Block, Kind, Statement
from aedifex.program.structure.main_code import MainCode

_PLAIN = frozenset({Kind.ASSIGN, Kind.UPDATE, Kind.BRANCH, Kind.EXPRESSION, Kind.EACH, Kind.LOOP})
_FEWEST_DRAWN = 2
_FEWEST_READ = 2
_MOST_OTHERS = 3


def sets_up_resource(statement: Statement) -> bool:
    """Whether a statement only sets a member of something that the whole program draws on."""
    given = statement.assignment
    if statement.kind is not Kind.ASSIGN or given is None or len(given.targets) != 1:
        return False
    target = next((r for r in statement.references if r.start == given.targets[0].start), None)
    return target is not None and bool(target.path) and is_resource(target.symbol)


def with_pens_balanced(module: Module, run: Sequence[Statement]) -> list[Statement]:
    """A run without what keeps, at its beginning, or brings back, at its end, how is drawn outside of it.

    Nor does it begin or end within an outline.
    """
    found, kept = list(run), [_kept_pens(module, statement) for statement in run]
    while found and sum(kept) > 0 and kept[0] > 0:
        del found[0], kept[0]
    while found and sum(kept) < 0 and kept[-1] < 0:
        del found[-1], kept[-1]
    return with_paths_whole(module, found)


def _kept_pens(module: Module, statement: Statement) -> int:
    """1 for a statement that only keeps how is drawn, -1 for one that brings that back, 0 for any other."""
    is_plain = statement.kind is Kind.EXPRESSION and not any(call.arguments for call in statement.calls)
    called = called_by(statement.calls) if is_plain else []
    return module.dialect.library.kept_pens(called[0]) if len(called) == 1 else 0


def with_paths_whole(module: Module, run: Sequence[Statement]) -> list[Statement]:
    """A run without what goes on, at its beginning, with an outline begun above it, and what begins one drawn below."""
    if not run:
        return []
    library, beside = module.dialect.library, run[0].block.statements

    def begins(statement: Statement) -> bool:
        return any(map(library.begins_path, called_by(statement.calls)))

    def goes_on(statement: Statement) -> bool:
        called = called_by(call for inner in statement.walk() for call in inner.calls)
        return any(map(library.goes_on_with_path, called)) and not any(map(library.begins_path, called))

    found = list(run)
    if any(map(begins, beside[: run[0].index])):
        first = list(takewhile(lambda statement: not begins(statement), found))
        number = max((at for at, statement in enumerate(first, 1) if goes_on(statement)), default=0)
        del found[:number]
    below = takewhile(lambda statement: not begins(statement), beside[run[-1].index + 1 :])
    if any(map(goes_on, below)):
        last = next((at for at, statement in reversed(list(enumerate(found))) if begins(statement)), len(found))
        del found[last:]
    return found


class Drawings:
    """Finds runs of statements that draw one thing: they change no state, and look at little beside it."""

    def __init__(self, module: Module) -> None:
        self.module = module
        self.effects = Effects.of(module)
        self.fields = set(MainCode.of(module).fields)

    def of(self, block: Block, own: Set[Symbol]) -> Iterator[Sequence[Statement]]:
        """The runs in a block that draw the thing whose variables these are."""
        run: list[Statement] = []
        kept = set(self.kept_apart(block, own))
        for statement in [*block.statements, None]:
            may_draw = statement is not None and (statement in kept or self.may_draw(statement, own))
            if statement is not None and (may_draw or (run and self.says_how(statement))):
                run.append(statement)
                continue
            found = self.trimmed(run, own, kept)
            if self.is_drawing(found, own) and (whole := with_paths_whole(self.module, self.with_pens(found))):
                yield whole
            run = []

    def kept_apart(self, block: Block, own: Set[Symbol]) -> Iterator[Statement]:
        """What stands between keeping how is drawn and bringing that back, and has to do with the thing alone."""
        statements = block.statements
        for number, statement in enumerate(statements):
            if _kept_pens(self.module, statement) > 0:
                depths = accumulate(_kept_pens(self.module, inner) for inner in statements[number:])
                end = next((at for at, depth in enumerate(depths, number) if depth == 0), number)
                inside = statements[number : end + 1]
                is_about = any(self.is_about(inner, own) for inner in inside)
                if is_about and all(self.draws_only(inner, own) for inner in inside):
                    yield from inside

    def is_about(self, statement: Statement, own: Set[Symbol]) -> bool:
        """Whether a statement looks at the thing."""
        return not own.isdisjoint(self.effects.of_any(statement).reads)

    def draws_only(self, statement: Statement, own: Set[Symbol]) -> bool:
        """Whether a statement draws, or says how, by nothing but the thing, and changes nothing."""
        if not self.is_plain(statement):
            return False
        effect = self.effects.of_any(statement)
        is_shown = self.draws(statement) or self.says_how(statement) or bool(statement.blocks)
        return is_shown and (effect.reads & self.changing) <= own and (effect.writes & self.changing).isdisjoint(own)

    def with_pens(self, run: Sequence[Statement]) -> Sequence[Statement]:
        """A run with the lines right above it that say how it is drawn, and those right below that complete it."""
        statements = run[0].block.statements
        first, last = run[0].index, run[-1].index + 1
        while first > 0 and self.says_how(statements[first - 1]) and self.is_close(*statements[first - 1 : first + 1]):
            first -= 1
        while (
            last < len(statements)
            and self.completes(statements[last])
            and self.is_close(*statements[last - 1 : last + 1])
        ):
            last += 1
        while first > 0 and last < len(statements) and self.is_kept_around(statements[first - 1], statements[last]):
            first, last = first - 1, last + 1
        return statements[first:last]

    def is_kept_around(self, above: Statement, below: Statement) -> bool:
        """Whether how is drawn is kept by one statement, and brought back by another."""
        return _kept_pens(self.module, above) > 0 > _kept_pens(self.module, below)

    def is_close(self, above: Statement, below: Statement) -> bool:
        """Whether nothing stands between two statements, each on lines of its own."""
        source = self.module.source
        return source.lines_of(above.span)[1] + 1 == source.line_of(below.start)

    def says_how(self, statement: Statement) -> bool:
        """Whether a statement sets with what is drawn, and depends on nothing that may change."""
        if not self.effects.of_any(statement).reads.isdisjoint(self.changing):
            return False
        is_told = statement.kind is Kind.EXPRESSION and self.module.dialect.library.sets_pen(called_alone(statement))
        return is_told or sets_up_resource(statement)

    @cached_property
    def changing(self) -> set[Symbol]:
        """The state of the program but for what is drawn on."""
        return {symbol for symbol in self.fields if not is_resource(symbol)}

    def completes(self, statement: Statement) -> bool:
        """Whether a statement asks what is drawn on to show what was drawn before: it says nothing else."""
        call = statement.calls[0] if len(statement.calls) == 1 and statement.calls[0].span == statement.deed else None
        is_asked = call is not None and call.callee is not None and len(call.callee.path) == 1 and not call.arguments
        return is_asked and self.says_how(statement)

    @staticmethod
    def is_plain(statement: Statement) -> bool:
        """Whether control stays in a statement, and nothing is defined there."""
        return all(s.kind in _PLAIN for s in statement.walk()) and not leaves([statement])

    def may_draw(self, statement: Statement, own: Set[Symbol]) -> bool:
        """Whether a statement draws, or works out where, and has to do with nothing but the thing and locals."""
        if not self.is_plain(statement):
            return False
        effect = self.effects.of_any(statement)
        changed = effect.writes & self.fields
        if not own.isdisjoint(changed) or not all(self.is_drawn_on(symbol, statement) for symbol in changed):
            return False
        is_about = not own.isdisjoint(effect.reads)
        draws = any(map(self.draws, statement.walk()))
        return is_about or not draws

    def is_drawn_on(self, symbol: Symbol, statement: Statement) -> bool:
        """Whether a variable is only drawn on: a method of it draws."""
        return all(r.path for r in statement.references if r.symbol is symbol) and (
            self.draws(statement) or statement.kind is Kind.BRANCH
        )

    def trimmed(self, run: Sequence[Statement], own: Set[Symbol], kept: Set[Statement]) -> list[Statement]:
        """A run from what prepares the first statement about the thing to the last about it."""
        about = [statement in kept or self.is_about(statement, own) for statement in run]
        if not any(about):
            return []
        first, last = about.index(True), len(about) - about[::-1].index(True)
        while first > 0 and self.is_preparing(run[first - 1], run[first:last]):
            first -= 1
        return list(run[first:last])

    def is_preparing(self, statement: Statement, run: Sequence[Statement]) -> bool:
        """Whether a statement gives a first value to locals that only the run uses."""
        pairs = statement.assignment.pairs if statement.assignment is not None else ()
        inside = [r for pair in pairs for r in pair.target.symbol.references]
        return bool(pairs) and all(statement.start <= r.start < run[-1].end for r in inside)

    def draws(self, statement: Statement) -> bool:
        """Whether a statement draws something, or puts what is drawn somewhere else."""
        return job_of(self.module, statement) is Job.DRAW or called_alone(statement) in MOVING

    def is_drawing(self, run: Sequence[Statement], own: Set[Symbol]) -> bool:
        """Whether a run draws by two variables of the thing, or its only one, and needs little else."""
        drawn = sum(self.draws(inner) for s in run for inner in s.walk() if not inner.blocks)
        reads = {symbol for statement in run for symbol in self.effects.of_any(statement).reads}
        others = {symbol for symbol in reads & self.fields if symbol not in own}
        is_long = drawn >= _FEWEST_DRAWN
        most = _MOST_OTHERS if is_long else sum(is_resource(symbol) for symbol in others)
        return drawn > 0 and len(reads & own) >= min(_FEWEST_READ, len(own)) and len(others) <= most
