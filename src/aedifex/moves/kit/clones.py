"""Runs of statements that are written alike elsewhere, and so can be the same call."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Block, Function, Statement
from aedifex.source.text import Span


def equal_runs(
    module: Module, run: Sequence[Statement], home: Statement
) -> Iterator[tuple[Function | None, list[Statement]]]:
    """The other runs with the same text as `run`, each with the routine it stands in, or None for the main code.

    `home` is the top-level statement above which a function of them would be defined: what may run before it is left
    out, and so is what stands inside another such run.
    """
    wanted = [_text(module, statement) for statement in run]
    if "" in wanted or any(span.start < run[-1].end and run[0].start < span.end for span in module.fixed):
        return
    effects, kinds = Effects.of(module), [statement.kind for statement in run]
    for routine, block in _blocks(module):
        first = effects.first_run_of(routine) if routine is not None else None
        if first is not None and first < home.index:
            continue
        at = 0
        while at + len(run) <= len(block.statements):
            found = block.statements[at : at + len(run)]
            same = [s.kind for s in found] == kinds and all(
                _text(module, s) == w for s, w in zip(found, wanted, strict=True)
            )
            if same and found[0] is not run[0] and _may_call(routine, found, home) and _is_apart(found, run):
                yield routine, list(found)
                at += len(run)
            else:
                at += 1


def _may_call(routine: Function | None, found: Sequence[Statement], home: Statement) -> bool:
    return routine is not None or found[0].outermost.index >= home.index


def _is_apart(found: Sequence[Statement], run: Sequence[Statement]) -> bool:
    return found[-1].end <= run[0].start or run[-1].end <= found[0].start


def _text(module: Module, statement: Statement) -> str:
    """A statement's text without the margin that it stands at."""
    source = module.source
    start = source.line_starts[source.line_of(statement.start) - 1]
    margin = source.slice(Span(start, statement.start))
    return source.slice(statement.span).replace(f"\n{margin}", "\n") if not margin.strip() else ""


def _blocks(module: Module) -> Iterator[tuple[Function | None, Block]]:
    """All blocks of the main code and of the script's plain functions."""
    places: list[tuple[Function | None, Block]] = [(None, module.block)]
    places += [(function, function.body) for function in module.functions]
    for routine, block in places:
        yield routine, block
        for statement in block.walk():
            yield from ((routine, inner) for inner in statement.blocks if inner.routine is None)
