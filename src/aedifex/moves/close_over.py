"""close_over: a function inside another means by the receiver's name what the one around it means."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.dialect.writer import Replacement, RoutineSpans
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Lambda, Routine
from aedifex.program.structure.own_names import uses_own
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span


@dataclass(frozen=True)
class CloseOver:
    """Write the functions that stand in others, or in the main code, so that they have no receiver of their own."""

    name: ClassVar[str] = "close_over"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: no function needs that, or none can be written so.
        """
        module = module_of(program, self.path)
        if not is_for_closing(module):
            raise RefusedError(f"no function of {module.path.name} that uses its variables has a receiver of its own")
        return _Closing(module).plan()


def is_for_closing(module: Module) -> bool:
    """Whether some functions would have a receiver of their own that use what becomes a member."""
    return any(_closings(module))


def _closings(module: Module) -> Iterator[tuple[Span, list[Replacement]]]:
    """The text of each such function, and what to put where in it."""
    for routine in module.routines:
        if not _is_inside(routine) or not _uses_members(routine) or uses_own(routine) or _calls_itself(routine):
            continue
        whole = (
            routine.statement.span if isinstance(routine, Function) else Span(routine.scope.start, routine.scope.end)
        )
        body = routine.body if isinstance(routine, Function | Lambda) else None
        if body is None or (isinstance(routine, Function) and not _is_only_called_behind(module, routine)):
            continue
        at = whole.start
        named = routine.named.span if isinstance(routine, Function) else Span(at, at)
        spans = RoutineSpans(named, routine.signature, Span(body.start, body.end)).counted_from(at)
        text, before = module.source.data[at : whole.end], module.source.slice(Span(0, at))
        changes = module.dialect.writer.as_closure(text, spans, before, module.source.slice_behind(whole.end))
        if changes:
            yield whole, changes


def _is_inside(routine: Routine) -> bool:
    """Whether a routine is a value, or stands in another: it is no function of the script, and no method."""
    if isinstance(routine, Lambda):
        return True
    assert isinstance(routine, Function)
    return not routine.is_method and routine.statement.block.owner is not None and not routine.is_generator


def _uses_members(routine: Routine) -> bool:
    """Whether it uses variables or functions of the script, which may become members."""
    uses = (use for scope in routine.scope.walk() for use in scope.uses)
    return any(use.symbol.is_module_level and use.symbol.imported is None for use in uses)


def _calls_itself(routine: Routine) -> bool:
    """Whether a nameless routine uses the name that it has for itself alone."""
    around = routine.scope.parent
    is_named = isinstance(routine, Lambda) and around is not None and around.start == routine.scope.start
    return is_named and any(use.symbol.scope is around for scope in routine.scope.walk() for use in scope.uses)


def _is_only_called_behind(module: Module, function: Function) -> bool:
    """Whether a function inside another is used below it only, where a value has its name, and makes no objects."""
    rules, others = module.dialect.rules, [r for r in function.symbol.references if r is not function.named]
    is_plain = not any(r.mode.writes or rules.makes_object(module, r) for r in others)
    is_plain = is_plain and not any(r.path and rules.customises_access(r.path[0].name or "") for r in others)
    return is_plain and _is_used_behind(module, function, function.statement.end, set())


def _is_used_behind(module: Module, function: Function, at: int, known: set[Function]) -> bool:
    """Whether nothing uses a function before a place has been passed, nor others that use it and are there early."""
    known.add(function)
    outside = [r for r in function.symbol.references if r is not function.named and not r.scope.within(function.scope)]
    beside = [f for f in module.all_functions if f not in known and f.symbol.scope is function.symbol.scope]
    early = [f for f in beside if any(r.scope.within(f.scope) for r in outside)]
    return all(r.start > at for r in outside) and all(_is_used_behind(module, f, at, known) for f in early)


class _Closing(Planner):
    def write(self) -> None:
        for whole, changes in _closings(self.module):
            for start, end, text in changes:
                place = Span(whole.start + start, whole.start + end)
                self.rewriting.changes.replace(self.module.path, place, text)


def _by_hand(program: Program, script: Path, given: Given) -> list[CloseOver]:
    return [CloseOver(script)]


MOVE = Description(
    name="close_over",
    place=4,
    summary=(
        "Inner functions that use variables of the script become closures without a receiver.\n"
        "Those that use their own, or their own arguments, stay as they are."
    ),
    term="Replace Function with Lambda",
    help="Write inner functions so that they have no receiver of their own, in languages where functions have one.",
    make=_by_hand,
    example=Example(
        language="javascript",
        words="",
        before="""\
let tide = 0;

setTimeout(function () {
  tide += 1;
  console.log(tide);
}, 10);
""",
        after={
            "harbour.js": """\
let tide = 0;

setTimeout(() => {
  tide += 1;
  console.log(tide);
}, 10);
"""
        },
    ),
)
