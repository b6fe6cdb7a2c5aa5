"""Runs of statements that open something of a library, ask it once and close it again."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.steady_values import cannot_fail
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.library import SessionFacts
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Block, Call, Function, Kind, Statement, final_name
from aedifex.program.structure.blocks import plain_blocks
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.plain_text import PlainText
from aedifex.program.structure.state import Constants
from aedifex.source.text import Span
from aedifex.survey.kinds.resources import full_name
from aedifex.survey.kinds.walks import builtin_called

_PLAIN = frozenset({Kind.EXPRESSION, Kind.ASSIGN})
_LOOKING = frozenset({Sense.CONSTANT, Sense.NOTHING, Sense.NAME, Sense.MEMBER, Sense.PART, Sense.TUPLE, Sense.TEXT})
_FEWEST = 3
_LONGEST = 8


@dataclass(frozen=True, eq=False)
class Session:
    """One such run of a function: what it opens, the call that asks, the name that its answer gets, and its shape.

    `opened` spans what is given to open it, `given` the arguments of the call that asks.
    """

    facts: SessionFacts
    routine: Function
    run: Sequence[Statement]
    opened: Span
    given: Span
    arguments: int
    answer: Symbol | None
    shape: tuple[str, ...]
    name: str


def sessions(module: Module) -> list[list[Session]]:
    """The runs of a script that open the same, in groups of one shape, where there are several in several functions."""
    found = [session for routine, block in plain_blocks(module) for session in _in_block(module, routine, block)]
    by_opened: dict[str, list[Session]] = {}
    for session in found:
        by_opened.setdefault(module.source.slice(session.opened), []).append(session)
    most = max(by_opened.values(), key=len, default=[])
    if len(most) < _FEWEST or len({session.routine for session in most}) < _FEWEST:
        return []
    groups: dict[tuple[str, ...], list[Session]] = {}
    for session in most:
        groups.setdefault(session.shape, []).append(session)
    return list(groups.values())


class EarlyOpenings(Analysis):
    """The `texts` of what a script opens when it is started: itself, or in a function that it calls first of all."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        started = list(module.block.statements)
        if module.guard is not None:
            started += [s for block in module.guard.blocks for s in block.statements]
        callees = [c.callee for s in started if s.kind is Kind.EXPRESSION for c in s.calls if c.span == s.deed]
        called = {callee.symbol for callee in callees if callee is not None and not callee.path}
        bodies = [s for f in module.functions if f.symbol in called for s in f.body.statements]
        openings = (opening for s in (*started, *bodies) if (opening := _opening(module, s)) is not None)
        facts = module.dialect.library.session_of
        self.texts = {module.source.slice(o.arguments[0].span) for o in openings if facts(full_name(o)) is not None}


def session_names(groups: Sequence[Sequence[Session]]) -> tuple[str, ...]:
    """A name for what each sort of runs does."""
    names: list[str] = []
    for group in groups:
        wish = group[0].name
        names.append(wish if wish not in names else f"{wish}_{len([n for n in names if n.startswith(wish)]) + 1}")
    return tuple(names)


def _in_block(module: Module, routine: Function | None, block: Block) -> Iterator[Session]:
    for number, statement in enumerate(block.statements):
        call = _opening(module, statement)
        if call is None or routine is None or routine.is_method:
            continue
        facts = module.dialect.library.session_of(full_name(call))
        run = block.statements[number : number + _LONGEST]
        if facts is not None and (session := _session(module, routine, run, call, facts)) is not None:
            yield session


def _opening(module: Module, statement: Statement) -> Call | None:
    """The call whose answer is all that a statement gives a name, if that may open something known."""
    pairs = statement.assignment.pairs if statement.assignment is not None else ()
    if statement.kind is not Kind.ASSIGN or len(pairs) != 1 or len(statement.calls) != 1:
        return None
    call = statement.calls[0]
    is_whole = (pairs[0].value.start, pairs[0].value.end) == (call.start, call.end)
    is_plain = len(call.arguments) == 1 and not call.arguments[0].keyword and not call.arguments[0].stars
    return call if is_whole and is_plain and _is_constant(module, call) else None


def _is_constant(module: Module, call: Call) -> bool:
    """Whether what is opened is written out, or a constant of the script."""
    span = call.arguments[0].span
    if span in module.strings:
        return True
    reference = module.reference_at.get(span.start)
    is_name = reference is not None and reference.span == span and reference.symbol.is_module_level
    return is_name and reference is not None and Constants.of(module).settles(reference.symbol)


def _session(
    module: Module, routine: Function, following: Sequence[Statement], opening: Call, facts: SessionFacts
) -> Session | None:
    first = following[0]
    assert first.assignment is not None
    opened = first.assignment.pairs[0].target.symbol
    run = list(_until_closed(following, opened, facts))
    asking = [c for s in run for c in s.calls if final_name(c.callee) == facts.asks and c.callee is not None]
    if not run or len(asking) != 1 or not asking[0].arguments:
        return None
    call = asking[0]
    given = Span(call.arguments[0].start, call.arguments[-1].end)
    own = [r.symbol for s in run for r in s.references if r.binds and not given.holds(r.span)]
    own = list(dict.fromkeys(own))
    span = Span(run[0].start, run[-1].end)
    lasting = [s for s in own if any(not span.holds(r.span) for r in s.references)]
    is_plain = all(s.kind in _PLAIN and not s.blocks and Layout.of(module).stands_alone(s) for s in run)
    if not is_plain or len(lasting) > 1 or opened in lasting or not _is_alone(module, run, own, given):
        return None
    opened_span = opening.arguments[0].span
    is_there = module.source.slice(opened_span) in EarlyOpenings.of(module).texts
    if not _can_be_given(module, call, own, may_fail=is_there) or len(call.arguments) > len(facts.arguments):
        return None
    answer = lasting[0] if lasting else None
    shape = tuple(_shape(module, statement, own, opening, given) for statement in run)
    called = {word for s in run for word in [*(final_name(c.callee) for c in s.calls), *s.attributes]}
    called |= {step.name or "" for s in run for r in s.references for step in r.path}
    name = next((name for word, name in facts.names.items() if word in called), "")
    if not name or "" in shape or (answer is not None and not _is_set_once(run, answer)):
        return None
    return Session(facts, routine, run, opened_span, given, len(call.arguments), answer, shape, name)


def _until_closed(following: Sequence[Statement], opened: Symbol, facts: SessionFacts) -> Iterator[Statement]:
    """The statements up to the one that closes; none where no one does."""
    for number, statement in enumerate(following):
        closing = [c.callee for c in statement.calls if final_name(c.callee) == facts.closes and c.callee is not None]
        if closing and closing[0].symbol is opened and len(closing[0].path) == 1 and statement.kind is Kind.EXPRESSION:
            yield from following[: number + 1]
            return


def _is_set_once(run: Sequence[Statement], answer: Symbol) -> bool:
    """Whether a run gives its answer a name by one plain assignment."""
    setting = [s for s in run if any(r.symbol is answer and r.mode.writes for r in s.references)]
    pairs = setting[0].assignment.pairs if len(setting) == 1 and setting[0].assignment is not None else ()
    is_read = any(r.symbol is answer and not r.mode.writes for s in run for r in s.references)
    return len(pairs) == 1 and setting[0].kind is Kind.ASSIGN and not is_read


def _is_alone(module: Module, run: Sequence[Statement], own: Sequence[Symbol], given: Span) -> bool:
    """Whether a run has to do with nothing but what it opens and what it is given, and no comment stands in it."""
    span = Span(run[0].start, Layout.of(module).own_lines(run[-1]).end)
    if any(span.holds(comment.span) for comment in module.comments):
        return False
    others = [
        r for s in run for r in module.references_within(s.span) if not given.holds(r.span) and r.symbol not in own
    ]
    return all(r.symbol.imported is not None or Constants.of(module).settles(r.symbol) for r in others)


def _can_be_given(module: Module, call: Call, own: Sequence[Symbol], *, may_fail: bool) -> bool:
    """Whether the arguments of a call can be worked out before all else: they cannot fail, or that makes no difference.

    It makes none where they only look at something, and what is opened has been there from the start.
    """
    places = Surroundings.of(module).by_span
    for argument in call.arguments:
        found = places.get(argument.span)
        if found is None or argument.keyword or argument.stars:
            return False
        if not cannot_fail(found) and not (may_fail and _only_looks(module, found)):
            return False
    given = (r.symbol for a in call.arguments for r in module.references_within(a.span))
    return all(symbol not in own for symbol in given)


def _only_looks(module: Module, value: Expression) -> bool:
    """Whether to work a value out is to look at things, and at what their reading methods answer."""
    library = module.dialect.library
    if value.sense is Sense.CALL:
        callee = value.parts[0]
        if callee.sense is Sense.MEMBER:
            is_known = library.only_reads_object(callee.name or "") and not _is_own_member(module, callee.name)
        else:
            builtin = builtin_called(value)
            is_known = builtin != library.asks and library.makes_plain_values(builtin)
        return is_known and all(_only_looks(module, part) for part in (*callee.parts, *value.parts[1:]))
    if value.sense is Sense.MEMBER and _is_own_member(module, value.name):
        return False
    return value.sense in _LOOKING and all(_only_looks(module, part) for part in value.parts)


def _is_own_member(module: Module, name: str | None) -> bool:
    """Whether a method of the script may run where a member of this name is asked for."""
    return any(function.is_method and function.name == name for function in module.all_functions)


def _shape(module: Module, statement: Statement, own: Sequence[Symbol], opening: Call, given: Span) -> str:
    """The text of a statement with marks for its own names and for what differs between such runs."""
    references = (r for r in module.references_within(statement.span) if r.symbol in own)
    marks = [(r.span, f"\1{own.index(r.symbol)}") for r in references]
    marks += [(span, "\0") for span in (given, opening.arguments[0].span) if statement.span.holds(span)]
    return PlainText.of(module).with_marks(statement, sorted(marks))
