"""Runs of statements that are written alike elsewhere, and so can be the same call."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Function, Statement
from aedifex.program.structure.blocks import plain_blocks
from aedifex.program.structure.plain_text import PlainText


def equal_runs(
    module: Module, run: Sequence[Statement], home: Statement
) -> Iterator[tuple[Function | None, list[Statement]]]:
    """The other runs with the same text as `run`, each with the routine it stands in, or None for the main code.

    They have no comments that it has not. `home` is the top-level statement above which a function of them would be
    defined: what may run before it is left out, and so is what stands inside another such run.
    """
    text = PlainText.of(module)
    wanted = [text.of_statement(statement) for statement in run]
    told = _comments(text, run)
    if "" in wanted or any(span.start < run[-1].end and run[0].start < span.end for span in module.fixed):
        return
    effects, kinds = Effects.of(module), [statement.kind for statement in run]
    for routine, block in plain_blocks(module):
        first = effects.first_run_of(routine) if routine is not None else None
        if first is not None and first < home.index:
            continue
        at = 0
        while at + len(run) <= len(block.statements):
            found = block.statements[at : at + len(run)]
            same = [s.kind for s in found] == kinds and all(
                text.of_statement(s) == w for s, w in zip(found, wanted, strict=True)
            )
            same = same and _comments(text, found) <= told
            if same and found[0] is not run[0] and _may_call(routine, found, home) and _is_apart(found, run):
                yield routine, list(found)
                at += len(run)
            else:
                at += 1


def _may_call(routine: Function | None, found: Sequence[Statement], home: Statement) -> bool:
    return routine is not None or found[0].outermost.index >= home.index


def _is_apart(found: Sequence[Statement], run: Sequence[Statement]) -> bool:
    return found[-1].end <= run[0].start or run[-1].end <= found[0].start


def _comments(text: PlainText, run: Sequence[Statement]) -> set[str]:
    return {comment.text for statement in run for comment in text.comments(statement)}
