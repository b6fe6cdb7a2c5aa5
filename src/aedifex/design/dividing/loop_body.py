"""How the main loop becomes a short list of calls: its jobs, what it does on a command, and a whole turn."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from itertools import groupby

from aedifex.design.dividing.names_from_calls import last_name
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference
from aedifex.program.model.statements import Block, Kind, Statement
from aedifex.source.text import Span

LONG_TURN = 12
"""A main loop with more lines than this is worth dividing."""

_CHAIN = 3
_LONG_BRANCH = 6
_FEWEST_OF_KEY = 4
_SHORTEST_NAME = 3
_KEYS = re.compile(r"\bK_(\w+)")
_KIND = re.compile(r"^\W*(?:\w+\W+)?[\w.]+\s*(?:==|\bis\b)\s*(?:\w+\.)*([A-Z][A-Z0-9_]{2,})\s*:?\s*$")
_EVENT_WORDS = re.compile(
    "mouse|button|key|joy|axis|ball|hat|device|controller|window|text|drop|file|finger|user|wheel|motion|input|edit|"
    "resize|enter|leave|focus|begin|complete|added|removed|up|down|[a-z0-9]+"
)
_LOOPS = frozenset({Kind.LOOP, Kind.EACH})
_SIDES = frozenset({"left", "right", "up", "down", "north", "south", "east", "west", "forward", "back", "home"})


def longest_loop(statements: Sequence[Statement]) -> Statement | None:
    """The loop in which code spends its time: the longest of those that stand in it directly."""
    loops = [s for s in statements if s.kind in _LOOPS and s.blocks and s.blocks[0].statements]
    return max(loops, key=lambda loop: loop.end - loop.start, default=None)


def jobs(module: Module, block: Block) -> Iterator[tuple[str, list[Statement]]]:
    """The runs of statements of a block that do one job: take input, draw, or what lies between."""
    named = [(_job_of(module, statement), statement) for statement in block.statements]
    if len({job for job, _ in named}) < 2:
        return
    for job, run in groupby(named, key=lambda pair: pair[0]):
        yield job, [statement for _, statement in run]


def _job_of(module: Module, statement: Statement) -> str:
    """The job of a statement, by the library functions that it calls: input goes before drawing."""
    calls = (call for inner in statement.walk() for call in inner.calls)
    names = [_called(call.callee) for call in calls if call.callee is not None]
    found = {module.dialect.job_of(name) for name in names}
    return next((job for job in ("take_input", "draw") if job in found), "update")


def chain_subject(statement: Statement) -> str | None:
    """The name that a chain of conditions asks about, where it asks about one thing in at least three branches.

    Of `event.key` that is `key`.
    """
    branches = [block for block in statement.blocks if block.role != "else"]
    if statement.kind is Kind.CHOICE and len(branches) >= _CHAIN and statement.references:
        return last_name(statement.references[0])
    if statement.kind is not Kind.BRANCH or len(branches) < _CHAIN:
        return None
    asked = Counter(
        (reference.symbol, last_name(reference), len(reference.path))
        for reference in statement.references
        if reference.symbol.brought is None
    )
    if not asked:
        return None
    (_, name, _), count = asked.most_common(1)[0]
    return name if count >= len(branches) - 1 else None


def actions(module: Module, statement: Statement) -> Iterator[tuple[str, Block]]:
    """The branches of a chain that each answer one word or key, with a name for what they do."""
    if chain_subject(statement) is None:
        return
    for condition, block in _conditions(module, statement):
        word = _word(condition)
        if word and len(word) > 1:
            yield (f"go_{word}" if word in _SIDES else word), block


def answers(module: Module, statement: Statement) -> Iterator[tuple[list[str], Block, int]]:
    """The branches of a statement that answer one word, key or kind, or all others of a chain.

    Each has names for what it does, and the fewest lines with which it deserves one.
    """
    if statement.kind not in (Kind.BRANCH, Kind.CHOICE):
        return
    subject = chain_subject(statement)
    for condition, block in _conditions(module, statement):
        key, word = _key(condition), _word(condition) or _kind(condition)
        names = [f"handle_{word}"] if len(word) > 1 else []
        names += [f"handle_key_{key}"] if key else [f"handle_{subject}_{word}"] if word and subject else []
        if names:
            yield names, block, 0 if subject and len(word) > 1 else _FEWEST_OF_KEY if key else _LONG_BRANCH
    for block in statement.blocks:
        if block.role == "else" and block.statements and subject:
            yield [f"handle_other_{subject}"], block, _LONG_BRANCH


def _conditions(module: Module, statement: Statement) -> Iterator[tuple[str, Block]]:
    """The text of each condition of a statement, with the block that it leads to."""
    end = statement.start
    for block in statement.blocks:
        if block.role != "else" and block.statements:
            yield module.source.slice(Span(end, block.start)), block
        end = block.end


def _word(condition: str) -> str:
    """The one word in quotes, or the one key, that a condition asks for."""
    words = [text.lower() for text in re.findall(r"""["']([A-Za-z]\w*)["']""", condition)]
    return words[0] if len(words) == 1 and not _KEYS.search(condition) else "" if words else _key(condition)


def _key(condition: str) -> str:
    """The one key that a condition asks for, as libraries write keys."""
    keys = _KEYS.findall(condition)
    return keys[0].lower() if len(keys) == 1 else ""


def _kind(condition: str) -> str:
    """The constant that a condition compares something with, and does nothing else, in small letters."""
    found = _KIND.search(condition)
    return "_".join(_EVENT_WORDS.findall(found[1].lower())) if found is not None else ""


def done_to_each(module: Module, statement: Statement) -> Iterator[tuple[str, list[Statement]]]:
    """What a loop over things does to each of them, with a name that has the thing's own in it."""
    targets = [r for r in statement.references if r.form is Form.LOOP and r.binds]
    if statement.kind is not Kind.EACH or len(targets) != 1 or len(targets[0].name) < _SHORTEST_NAME:
        return
    body = statement.blocks[0].statements
    names = [_called(call.callee) for call in statement.calls if call.callee is not None]
    asks = any(module.dialect.job_of(name) == "take_input" for name in names)
    jobs_done = {_job_of(module, inner) for inner in body}
    verb = "handle" if asks else "draw" if jobs_done == {"draw"} else "update"
    yield f"{verb}_{targets[0].name}", body


def _called(callee: Reference) -> str:
    return ".".join([callee.name, *(step.name or "" for step in callee.path)])


def tails(block: Block) -> Iterator[tuple[str, list[Statement]]]:
    """What a turn does from a chain on, to its end."""
    for statement in block.statements[1:]:
        subject = chain_subject(statement)
        if subject is not None:
            yield f"handle_{subject}", block.statements[statement.index :]
