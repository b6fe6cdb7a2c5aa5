"""How carved statements that may leave a loop or their function tell the place of their call where control goes."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import Enum

from aedifex.program.analysis.flow import leaves, ways_out_of
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Function, Kind, Leave, Role, Statement

_STEERING = frozenset({Leave.RETURN, Leave.BREAK, Leave.CONTINUE})


class ExitSignal(Enum):
    """What a carved function answers: nothing, whether to go on, or what its caller answers in turn."""

    NOTHING = "nothing"
    GO_ON = "whether to go on"
    SAME = "what the caller answers"


@dataclass(frozen=True)
class ControlExits:
    """The ways out of a run: what it answers, what the caller does when the answer is no, and which ways say yes.

    `action` is the text of what the caller does then.

    `refusal` says in a plain sentence why there is no clear form.
    """

    answer: ExitSignal = ExitSignal.NOTHING
    way: Leave | None = None
    action: str = ""
    yes: frozenset[Leave] = frozenset()
    refusal: str = ""


def control_exits(module: Module, run: Sequence[Statement], routine: Function | None) -> ControlExits:
    """The clear form, if there is one, for a run of statements of a routine, or of the main code."""
    ways = leaves(run) & _STEERING
    if not ways:
        return ControlExits()
    if any(way.label for way in ways_out_of(run)):
        return ControlExits(refusal="leaves what is around it by a label")
    if Leave.RETURN in ways:
        return _returning(module, run, routine, ways)
    if _ends_turn(run[-1]):
        if ways == {Leave.CONTINUE}:
            return ControlExits(ExitSignal.NOTHING)
        leave = module.dialect.writer.leave(Leave.BREAK)
        return ControlExits(ExitSignal.GO_ON, Leave.BREAK, leave, frozenset({Leave.CONTINUE}))
    if len(ways) == 1:
        way = next(iter(ways))
        return ControlExits(ExitSignal.GO_ON, way, module.dialect.writer.leave(way))
    return ControlExits(refusal="leaves a loop around it in one case and goes on with it in another")


def _returning(module: Module, run: Sequence[Statement], routine: Function | None, ways: set[Leave]) -> ControlExits:
    if ways != {Leave.RETURN}:
        return ControlExits(refusal="returns from the function in one case and steers a loop in another")
    returns = [statement for statement, _ in steering(run)]
    texts = {module.source.slice(statement.span) for statement in returns}
    if routine is not None and _is_at_end(run[-1], routine):
        bare = "".join(piece for piece in module.dialect.writer.returning([]) if isinstance(piece, str))
        return ControlExits() if texts == {bare} else ControlExits(ExitSignal.SAME)
    if len(texts) > 1 or any(statement.references or statement.calls for statement in returns):
        return ControlExits(refusal="returns a value from the function around it")
    if routine is not None and texts == {_said_at_end(module, run[-1], routine)}:
        return ControlExits()
    return ControlExits(ExitSignal.GO_ON, Leave.RETURN, texts.pop())


def _outermost(last: Statement) -> Statement:
    """The outermost branch that ends with a statement, or the statement itself."""
    while last is last.block.statements[-1]:
        owner = last.block.owner
        if owner is None or owner.kind not in (Kind.BRANCH, Kind.CHOICE):
            break
        last = owner
    return last


def _ends_turn(last: Statement) -> bool:
    """Whether nothing comes behind a statement in the turn of a loop: it ends there, in a branch or not."""
    last = _outermost(last)
    owner = last.block.owner
    is_body = last.block.role is Role.BODY and owner is not None and owner.is_loop
    return is_body and last is last.block.statements[-1]


def _said_at_end(module: Module, last: Statement, routine: Function) -> str:
    """The `return` with which a routine ends right behind a statement, or the branches that end with it."""
    last = _outermost(last)
    behind = last.block.statements[last.index + 1 :]
    is_it = last.block is routine.body and len(behind) == 1 and behind[0].kind is Kind.LEAVE
    return module.source.slice(behind[0].span) if is_it else ""


def _is_at_end(last: Statement, routine: Function) -> bool:
    """Whether nothing comes behind a statement: its routine ends there, in a branch or not."""
    last = _outermost(last)
    return last.block is routine.body and last is last.block.statements[-1]


def with_last_return(run: Sequence[Statement], routine: Function | None) -> list[Statement]:
    """A run that returns, together with the one `return` that follows it at the end of its function."""
    statements = run[0].block.statements
    after = statements[run[-1].index + 1 :]
    at_end = routine is not None and run[0].block is routine.body and len(after) == 1
    if at_end and after[0].kind is Kind.LEAVE and Leave.RETURN in leaves(run) & after[0].leaves:
        return [*run, after[0]]
    return list(run)


def steering(run: Sequence[Statement]) -> Iterator[tuple[Statement, Leave]]:
    """The statements of a run that leave it for a loop or a function around it, with the way that they go."""
    for statement in run:
        yield from _steering(statement, _STEERING)


def _steering(statement: Statement, outer: frozenset[Leave]) -> Iterator[tuple[Statement, Leave]]:
    if statement.kind is Kind.LEAVE:
        yield from ((statement, way) for way in statement.leaves & outer)
    for block in statement.blocks:
        if block.routine is None:
            for inner in block.statements:
                yield from _steering(inner, outer - statement.absorbs(block))
