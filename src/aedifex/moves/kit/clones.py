"""Runs of statements that are written alike elsewhere, and so can be the same call."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Function, Statement
from aedifex.program.structure.blocks import plain_blocks
from aedifex.program.structure.plain_text import PlainText
from aedifex.program.structure.run_shapes import ShapeOf


@dataclass(frozen=True)
class Twin:
    """A run that is written like another, with the routine it stands in, or None for the main code."""

    routine: Function | None
    run: Sequence[Statement]


def equal_runs(module: Module, run: Sequence[Statement], home: Statement) -> Iterator[Twin]:
    """The other runs with the same text as `run`, but for the margin and for comments that it has and they have not.

    `home` is the top-level statement above which a function of them would be defined: what may run before it is left
    out, and so is what stands inside another such run.
    """
    text = PlainText.of(module)
    wanted = [text.of_statement(statement) for statement in run]
    if "" not in wanted:
        yield from _runs_like(module, run, home, lambda found: [text.of_statement(s) for s in found] == wanted)


def alike_runs(module: Module, run: Sequence[Statement], home: Statement, shape_of: ShapeOf) -> Iterator[Twin]:
    """The other runs that do the same as `run` with other values, by what tells their shapes; as for `equal_runs`."""
    wanted = shape_of(run)
    if wanted is None:
        return

    def is_like(found: Sequence[Statement]) -> bool:
        shape = shape_of(found)
        return shape is not None and shape.text == wanted.text

    yield from _runs_like(module, run, home, is_like)


def _runs_like(
    module: Module, run: Sequence[Statement], home: Statement, is_like: Callable[[Sequence[Statement]], bool]
) -> Iterator[Twin]:
    if any(span.start < run[-1].end and run[0].start < span.end for span in module.fixed):
        return
    effects, kinds, told = Effects.of(module), [statement.kind for statement in run], _comments(module, run)
    for routine, block in plain_blocks(module):
        first = effects.first_run_of(routine) if routine is not None else None
        if first is not None and first < home.index:
            continue
        at = 0
        while at + len(run) <= len(block.statements):
            found = block.statements[at : at + len(run)]
            is_other = [s.kind for s in found] == kinds and found[0] is not run[0] and _is_apart(found, run)
            if is_other and _may_call(routine, found, home) and is_like(found) and _comments(module, found) <= told:
                yield Twin(routine, list(found))
                at += len(run)
            else:
                at += 1


def _may_call(routine: Function | None, found: Sequence[Statement], home: Statement) -> bool:
    return routine is not None or found[0].outermost.index >= home.index


def _is_apart(found: Sequence[Statement], run: Sequence[Statement]) -> bool:
    return found[-1].end <= run[0].start or run[-1].end <= found[0].start


def _comments(module: Module, run: Sequence[Statement]) -> set[str]:
    text = PlainText.of(module)
    return {comment.text for statement in run for comment in text.comments(statement)}
