"""ask_event: what is called on an event asks the event to what it belongs, and no longer its own receiver."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Parameter, Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Lambda, ParameterKind
from aedifex.program.structure.own_names import uses_own
from aedifex.program.structure.state import uses_state
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span

_EVENT = "event"


@dataclass(frozen=True)
class Asking:
    """A nameless routine that is called on events: where it names its receiver, what of the event says the same."""

    routine: Lambda
    uses: tuple[Reference, ...]
    event: str
    member: str


@dataclass(frozen=True)
class AskEvent:
    """Let the nameless functions that pages call on events ask these for what their receiver is."""

    name: ClassVar[str] = "ask_event"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: no function that has to do with variables of the script could ask its event.
        """
        module = module_of(program, self.path)
        found = list(asking(module))
        if not found:
            raise RefusedError(f"no function of {module.path.name} could ask its event for what it belongs to")
        return _Asking(module, found).plan()


def asking(module: Module) -> Iterator[Asking]:
    """The nameless functions with a receiver that could ask their event instead, as long as it is under way."""
    lambdas = {Span(r.scope.start, r.scope.end): r for r in module.routines if isinstance(r, Lambda)}
    for statement in module.walk():
        for call in statement.calls:
            member = module.dialect.rules.event_member(module, call) if len(call.arguments) > 1 else ""
            routine = lambdas.get(call.arguments[1].span) if member else None
            is_at_once = routine is not None and uses_state(routine) and not routine.is_postponed
            if routine is not None and is_at_once and module.dialect.rules.has_receiver(module, routine):
                uses, event = _receivers(module, routine), _event_of(routine)
                if uses and event:
                    yield Asking(routine, uses, event, member)


def _receivers(module: Module, routine: Lambda) -> tuple[Reference, ...]:
    """Where a routine names its receiver; empty where one inside does, which may run later, or it asks for more."""
    symbol = routine.scope.symbols.get(module.dialect.writer.receiver)
    if symbol is None or not uses_own(routine):
        return ()
    own = [s for s in routine.scope.symbols.values() if s.references and not any(r.declares for r in s.references)]
    parameters = [parameter.reference.symbol for parameter in routine.parameters]
    is_alone = all(one is symbol or one in parameters for one in own)
    is_near = all(use.scope.frame is routine.scope and not use.mode.writes for use in symbol.references)
    return tuple(symbol.references) if is_alone and is_near else ()


def _event_of(routine: Lambda) -> str:
    """What a routine calls the event that it is given, or could; empty where that is not sure."""
    inside = {use.name for scope in routine.scope.walk() for use in scope.uses}
    inside |= {name for scope in routine.scope.walk() for name in scope.symbols}
    if not routine.parameters:
        return _EVENT if _EVENT not in inside else ""
    first = routine.parameters[0]
    symbol = first.reference.symbol
    hidden = any(first.name in scope.symbols and scope is not routine.scope for scope in routine.scope.walk())
    is_kept = len(symbol.bindings) == 1 and first.kind is ParameterKind.PLAIN and first.default is None
    return first.name if is_kept and not hidden and first.reference.span == Span(first.start, first.end) else ""


class _Asking(Planner):
    def __init__(self, module: Module, found: list[Asking]) -> None:
        super().__init__(module)
        self.found = found

    def write(self) -> None:
        for one in self.found:
            if not one.routine.parameters:
                self.rewriter.insert(one.routine.signature.start, one.event)
            for use in one.uses:
                asked = Parameter(one.routine.name, one.event)
                self.rewriter.replace(use, self.writer.member(one.event, one.member), asked)


def _by_hand(program: Program, script: Path, given: Given) -> list[AskEvent]:
    return [AskEvent(script)]


MOVE = Description(
    name="ask_event",
    place=28,
    summary=(
        "What a page calls on an event asks the event for its element, and no longer `this`.\n"
        "Refused where that is asked for later, when the event is over."
    ),
    term="-",
    help="Let nameless functions that pages call on events ask these for their element.",
    make=_by_hand,
    example=Example(
        language="javascript",
        words="",
        before="""\
let moored = false;

if (typeof document !== "undefined") {
  document.getElementById("moor").addEventListener("click", function () {
    moored = !moored;
    this.textContent = moored ? "Cast off" : "Moor";
  });
}
""",
        after={
            "harbour.js": """\
let moored = false;

if (typeof document !== "undefined") {
  document.getElementById("moor").addEventListener("click", function (event) {
    moored = !moored;
    event.currentTarget.textContent = moored ? "Cast off" : "Moor";
  });
}
"""
        },
    ),
)
