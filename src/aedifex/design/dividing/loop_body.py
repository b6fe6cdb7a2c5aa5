"""How the main loop becomes a short list of calls: its jobs, what it does on a command, and a whole turn."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from enum import Enum
from itertools import groupby

from aedifex.design.dividing.menus import Menus
from aedifex.design.dividing.names_from_calls import MOVING, called_alone, called_by, last_name, only_says
from aedifex.design.drafting.naming import VERBS
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import leaves
from aedifex.program.analysis.values import only_value
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Leave, Role, Shape, Statement
from aedifex.program.structure.state import is_state
from aedifex.source.text import Span
from aedifex.survey.words import is_plural, singular, words_of

LONG_TURN = 12
"""A main loop with more lines than this is worth dividing."""

_CHAIN = 3
_AROUND = frozenset({Kind.RESOURCE, Kind.GUARDED})
_LONG_BRANCH = 6
_FEWEST_OF_KEY = 4
_SHORTEST_NAME = 3
_COMMAND = "command"
_QUOTED_WORD = re.compile(r"""["']([A-Za-z]\w*)["']""")
_EVENT_WORDS = re.compile(
    "mouse|button|key|joy|axis|ball|hat|device|controller|window|text|drop|file|finger|user|wheel|motion|input|edit|"
    "resize|enter|leave|focus|begin|complete|added|removed|up|down|[a-z0-9]+"
)
_SIDES = frozenset({"left", "right", "up", "down", "north", "south", "east", "west", "forward", "back", "home"})

DRAWING = frozenset({"draw", "render", "paint", "show", "display", "redraw"})
"""Verbs for what shows the state of a program and does not change it."""


class Job(Enum):
    """What a part of a turn is for."""

    INPUT = "take_input"
    UPDATE = "update"
    DRAW = "draw"


def longest_loop(statements: Sequence[Statement]) -> Statement | None:
    """The loop in which code spends its time: the longest of those that stand in it directly.

    Where there is none, it may stand in what opens something around it, or guards it.
    """
    loops = [s for s in statements if s.is_loop and s.blocks and s.blocks[0].statements]
    if loops:
        return max(loops, key=lambda loop: loop.end - loop.start)
    around = [s.blocks[0].statements for s in statements if s.kind in _AROUND and s.blocks]
    inner = [loop for inside in around if (loop := longest_loop(inside)) is not None]
    return max(inner, key=lambda loop: loop.end - loop.start, default=None)


def jobs(module: Module, block: Block) -> Iterator[tuple[Job, list[Statement]]]:
    """The runs of statements of a block that do one job: take input, draw, or what lies between."""
    named = [(job_of(module, statement), statement) for statement in block.statements]
    if len({job for job, _ in named}) < 2:
        return
    drawn = {symbol for job, s in named if job is Job.DRAW for symbol in _called_on(s)}
    named = [(Job.DRAW if _called_on(s) & drawn and not s.blocks else job, s) for job, s in named]
    for number, (job, statement) in enumerate(named[:-1]):
        is_between = number > 0 and named[number - 1][0] is Job.DRAW
        if (
            job is Job.UPDATE
            and is_between
            and _prepares(statement, [s for j, s in named[number + 1 :] if j is Job.DRAW])
        ):
            named[number] = (Job.DRAW, statement)
    for job, run in groupby(named, key=lambda pair: pair[0]):
        yield job, [statement for _, statement in run]


def _called_on(statement: Statement) -> set[Symbol]:
    """The things whose methods a statement calls and does nothing else."""
    if statement.kind is not Kind.EXPRESSION:
        return set()
    callees = [call.callee for call in statement.calls if call.callee is not None]
    return {callee.symbol for callee in callees if callee.path and not callee.symbol.imported}


def _prepares(statement: Statement, drawing: Sequence[Statement]) -> bool:
    """Whether a statement only makes what statements that draw need, as the picture of a text, and nobody else."""
    if statement.kind is not Kind.ASSIGN or not drawing:
        return False
    given = {r.symbol for r in statement.references if r.binds}
    spans = [statement.span, *(inner.span for inner in drawing)]
    uses = [r for symbol in given for r in symbol.references]
    return bool(given) and all(any(span.start <= r.start < span.end for span in spans) for r in uses)


def job_of(module: Module, statement: Statement) -> Job:
    """The job of a statement, by the library functions that it calls, itself or by functions that change no state.

    That may be methods of its objects, too. Input goes before drawing; a branch that also asks for some is about more.
    """
    if statement.kind is Kind.BRANCH and not asks_itself(module, statement):
        inner = [job_of(module, each) for each in statement.inner]
        if Job.INPUT in inner and 2 * inner.count(Job.INPUT) < len(inner):
            return Job.UPDATE
    calls = [call for inner in statement.walk() for call in inner.calls]
    found = {module.dialect.library.job_of(name) for name in called_by(calls)}
    told = {call.callee.path[0].name for call in calls if call.callee is not None and len(call.callee.path) == 1}
    methods = [function for function in module.all_functions if function.is_method and function.name in told]
    for function in (*(module.function(name) for name in dict.fromkeys(called_by(calls))), *methods):
        if function is not None and not _changes_state(module, function):
            inside = [call for inner in function.body.walk() for call in inner.calls]
            found |= {module.dialect.library.job_of(name) for name in called_by(inside)}
    return next((job for job in (Job.INPUT, Job.DRAW) if job.value in found), Job.UPDATE)


def only_draws(module: Module, run: Sequence[Statement]) -> bool:
    """Whether statements draw, or go where the last of them draws something."""
    jobs = [job_of(module, statement) is Job.DRAW for statement in run]
    return jobs[-1] and all(is_drawn or called_alone(s) in MOVING for is_drawn, s in zip(jobs, run, strict=True))


def _changes_state(module: Module, function: Function) -> bool:
    """Whether a function changes more than things of a library that are made once, as a window is."""
    written = (symbol for symbol in Effects.of(module).transitive[function].writes if is_state(symbol))
    values = (only_value(symbol) for symbol in written)
    return not all(only is not None and only.value.shape is Shape.CALL for only in values)


def chain_subject(statement: Statement) -> str | None:
    """The name that a chain of conditions asks about, where it asks about one thing in at least three branches.

    Of `event.key` that is `key`.
    """
    branches = [block for block in statement.blocks if block.role is not Role.OTHERWISE]
    if statement.kind is Kind.CHOICE and len(branches) >= _CHAIN and statement.references:
        return _said(last_name(statement.references[0]))
    if statement.kind is not Kind.BRANCH or len(branches) < _CHAIN:
        return None
    asked = Counter(
        (reference.symbol, last_name(reference), len(reference.path))
        for reference in statement.references
        if reference.symbol.imported is None
    )
    if not asked:
        return None
    (_, name, _), count = asked.most_common(1)[0]
    return _said(name) if count >= len(branches) - 1 else None


def _said(name: str) -> str:
    """What a chain asks about, in a word: what has too short a name is a command."""
    return name if len(name) >= _SHORTEST_NAME else _COMMAND


def actions(module: Module, statement: Statement) -> Iterator[tuple[str, Block]]:
    """The branches of a chain that each answer one word or key, with a name for what they do."""
    if chain_subject(statement) is None:
        return
    for condition, block in _conditions(module, statement):
        word = _word(module, condition)
        if len(word) > 1:
            yield (module.dialect.naming.joined("go", word) if word in _SIDES else word), block


def answers(module: Module, statement: Statement) -> Iterator[tuple[list[str], Block, int]]:
    """The branches of a statement that answer one word, key or kind, or all others of a chain.

    Each has names for what it does, and the fewest lines with which it deserves one.
    """
    if statement.kind not in (Kind.BRANCH, Kind.CHOICE):
        return
    subject, joined, menus = chain_subject(statement), module.dialect.naming.joined, Menus.of(module)
    for condition, block in _conditions(module, statement):
        key, word = _key(module, condition), _word(module, condition) or _kind(module, condition)
        word = word or _searched(module, condition)
        names = [*_deeds(module, word, block, subject), joined("handle", word)] if len(word) > 1 else []
        if key:
            names.append(joined("handle", "key", key))
        elif word and subject:
            names.append(joined("handle", subject, word))
        chosen = menus.name_for(condition) if subject else ""
        if names or chosen:
            fewest = 0 if chosen else _fewest_lines(subject, word, key)
            wishes = [chosen, joined(chosen, "all")] if chosen else []
            yield [*wishes, *names], block, fewest
    for block in statement.blocks:
        if block.role is Role.OTHERWISE and block.statements and subject:
            yield [joined("handle", "other", subject)], block, _LONG_BRANCH


def _deeds(module: Module, word: str, block: Block, subject: str | None) -> list[str]:
    """What is done on a word that one types: that itself, if it is a verb, or it is shown."""
    if subject is None or word in _SIDES:
        return []
    quiet = [s for s in block.statements if s.kind is not Kind.NOTHING]
    is_shown = bool(quiet) and all(only_says(module, statement) for statement in quiet)
    return [word] if word in VERBS else [module.dialect.naming.joined("show", word)] if is_shown else []


def _fewest_lines(subject: str | None, word: str, key: str) -> int:
    """How many lines a branch needs to deserve a name: none where the chain and the word tell what it is about."""
    if subject and len(word) > 1:
        return 0
    return _FEWEST_OF_KEY if key else _LONG_BRANCH


def _conditions(module: Module, statement: Statement) -> Iterator[tuple[str, Block]]:
    """The text of each condition of a statement, with the block that it leads to."""
    end = statement.start
    for block in statement.blocks:
        if block.role is not Role.OTHERWISE and block.statements:
            yield module.source.slice(Span(end, block.start)), block
        end = block.end


def _word(module: Module, condition: str) -> str:
    """The one word in quotes, or the one key, that a condition asks for."""
    words = [text.lower() for text in _QUOTED_WORD.findall(condition)]
    if not words:
        return _key(module, condition)
    return words[0] if len(words) == 1 and not module.dialect.library.keys_in(condition) else ""


def _key(module: Module, condition: str) -> str:
    """The one key that a condition asks for, as libraries write keys."""
    keys = module.dialect.library.keys_in(condition)
    return keys[0].lower() if len(keys) == 1 else ""


def _kind(module: Module, condition: str) -> str:
    """The constant that a condition compares something with, and does nothing else, in small letters."""
    constant = module.dialect.rules.compared_constant(condition)
    return module.dialect.naming.member_name(_EVENT_WORDS.findall(constant.lower()))


def _searched(module: Module, condition: str) -> str:
    """What a container holds in which a condition asks for something: of `coins` that is `coin`."""
    words = words_of(module.dialect.rules.searched_container(condition))
    return singular(words[-1]) if words and is_plural(words[-1]) else ""


def asks_itself(module: Module, statement: Statement) -> bool:
    """Whether the heading of a statement takes input, as a loop over events does."""
    return any(module.dialect.library.job_of(name) == Job.INPUT.value for name in called_by(statement.calls))


def done_to_each(module: Module, statement: Statement) -> Iterator[tuple[str, list[Statement]]]:
    """What a loop over things does to each of them, with a name that has the thing's own in it."""
    targets = [r for r in statement.references if r.form is Form.LOOP and r.binds]
    if statement.kind is not Kind.EACH or len(targets) != 1 or len(targets[0].name) < _SHORTEST_NAME:
        return
    body = statement.blocks[0].statements
    yield module.dialect.naming.joined(_verb_for_each(module, statement), targets[0].name), body


def _verb_for_each(module: Module, loop: Statement) -> str:
    """What a loop does to each of its things."""
    if asks_itself(module, loop):
        return "handle"
    does = {job_of(module, inner) for inner in loop.blocks[0].statements}
    if Job.INPUT in does:
        return "ask"
    return "draw" if does == {Job.DRAW} else "update"


def walked_things(module: Module, statement: Statement) -> str:
    """The name of what a loop goes over, where that says that it is several things; empty for any other statement."""
    if statement.kind is not Kind.EACH:
        return ""
    named = [last_name(r) for r in statement.references if r.mode.reads and r.symbol.imported is None]
    return next((name for name in named if any(map(is_plural, words_of(name)[-1:]))), "")


def chains(module: Module, block: Block) -> Iterator[tuple[str, list[Statement]]]:
    """The chains of a turn, each by itself; to the end of the turn where one may end the loop as well as the turn."""
    for statement in block.statements:
        subject = chain_subject(statement)
        if subject is not None:
            is_alone = not leaves([statement]) >= {Leave.BREAK, Leave.CONTINUE}
            run = [statement] if is_alone else block.statements[statement.index :]
            if len(run) < len(block.statements):
                yield module.dialect.naming.joined("handle", subject), run
