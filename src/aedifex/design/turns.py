"""How the main loop becomes a short list of calls: its jobs, what it does on a command, and a whole turn."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from itertools import groupby

from aedifex.program.program import Module
from aedifex.program.statements import Block, Kind, Statement
from aedifex.source.text import Span

LONG_TURN = 12
"""A main loop with more lines than this is worth dividing."""

_CHAIN = 3
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
    names = [
        ".".join([call.callee.name, *(step.name or "" for step in call.callee.path)])
        for inner in statement.walk()
        for call in inner.calls
        if call.callee is not None
    ]
    found = {module.dialect.job_of(name) for name in names}
    return next((job for job in ("take_input", "draw") if job in found), "update")


def called_alone(statement: Statement) -> str:
    """The function of which a statement is nothing but a call; empty for any other statement."""
    if statement.kind is not Kind.EXPRESSION or not statement.calls:
        return ""
    outermost = max(statement.calls, key=lambda call: call.end - call.start)
    callee = outermost.callee
    return "" if callee is None else callee.path[-1].name or "" if callee.path else callee.name


def chain_subject(statement: Statement) -> str | None:
    """The name that a chain of conditions asks about, where it asks about one thing in at least three branches.

    Of `event.key` that is `key`.
    """
    branches = [block for block in statement.blocks if block.role != "else"]
    if statement.kind is not Kind.BRANCH or len(branches) < _CHAIN:
        return None
    asked = Counter(
        (reference.symbol, tuple(step.name for step in reference.path))
        for reference in statement.references
        if reference.symbol.brought is None
    )
    if not asked:
        return None
    (symbol, path), count = asked.most_common(1)[0]
    return (path[-1] if path else symbol.name) if count >= len(branches) - 1 else None


def actions(module: Module, statement: Statement) -> Iterator[tuple[str, Block]]:
    """The branches of a chain that each answer one word or key, with a name for what they do."""
    if chain_subject(statement) is None:
        return
    end = statement.start
    for block in statement.blocks:
        if block.role != "else" and block.statements:
            word = _word(module.source.slice(Span(end, block.start)))
            if word:
                yield (f"go_{word}" if word in _SIDES else word), block
        end = block.end


def _word(condition: str) -> str:
    """The one word in quotes, or the one key, that a condition asks for."""
    words = re.findall(r"""["']([A-Za-z]\w*)["']|\bK_(\w\w+)""", condition)
    found = [text or key for text, key in words]
    return found[0].lower() if len(found) == 1 else ""


def tails(block: Block) -> Iterator[tuple[str, list[Statement]]]:
    """What a turn does from a chain on, to its end."""
    for statement in block.statements[1:]:
        subject = chain_subject(statement)
        if subject is not None:
            yield f"handle_{subject}", block.statements[statement.index :]
