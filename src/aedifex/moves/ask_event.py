"""ask_event: what is called on an event asks the event to what it belongs, and no longer its own receiver."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Local, Parameter, Rewriting
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Block, Function, Lambda, ParameterKind
from aedifex.program.structure.own_names import uses_own
from aedifex.program.structure.state import is_state
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span

_EVENT = "event"
_MANY = 3
_NAMES = ("element", "target")


@dataclass(frozen=True)
class Asking:
    """A routine that is called on events: where it names its receiver, and what of the event says the same.

    `kept` is a name for that where it is asked for often, or later, when the event is over.
    """

    routine: Function | Lambda
    uses: tuple[Reference, ...]
    event: str
    member: str
    kept: str


@dataclass(frozen=True)
class AskEvent:
    """Let the functions that pages call on events ask these for what their receiver is."""

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
    """The functions with a receiver, called on nothing but events, that could ask these instead."""
    effects = Effects.of(module)
    for routine, member in _called_on_events(module):
        is_concerned = any(map(is_state, effects.transitive[routine].touches))
        is_at_once = not routine.is_postponed and module.dialect.rules.has_receiver(module, routine)
        if not is_concerned or not is_at_once:
            continue
        uses, event, body = _receivers(module, routine), _event_of(routine), routine.body
        if not uses or not event or body is None:
            continue
        is_later = any(use.scope.frame is not routine.scope for use in uses)
        can_keep = isinstance(body, Block) and bool(body.statements) and not body.statements[0].is_text
        kept = _free_name(routine) if can_keep and (is_later or len(uses) >= _MANY) else ""
        if kept or not is_later:
            yield Asking(routine, uses, event, member, kept)


def _called_on_events(module: Module) -> Iterator[tuple[Function | Lambda, str]]:
    """The functions that nothing but events call, with what these tell their elements by."""
    rules, surroundings = module.dialect.rules, Surroundings.of(module)
    for routine in module.routines:
        span = Span(routine.scope.start, routine.scope.end)
        written = surroundings.by_span.get(span) if isinstance(routine, Lambda) else None
        member = rules.event_member(module, written) if written is not None else ""
        if isinstance(routine, Lambda) and member:
            yield routine, member
    for function in module.functions:
        uses = [surroundings.of_reference(r) for r in function.symbol.references if r is not function.named]
        known = [use for use in uses if use is not None]
        members = {rules.event_member(module, use) for use in known if not rules.lets_go(module, use)}
        if len(known) == len(uses) and len(members) == 1 and not module.is_known_outside(function.name):
            member = members.pop()
            if member:
                yield function, member


def _receivers(module: Module, routine: Function | Lambda) -> tuple[Reference, ...]:
    """Where a routine names its receiver; empty where it asks for more that nothing declares."""
    symbol = routine.scope.symbols.get(module.dialect.writer.receiver)
    if symbol is None or not uses_own(routine):
        return ()
    own = [s for s in routine.scope.symbols.values() if s.references and not any(r.declares for r in s.references)]
    parameters = [parameter.reference.symbol for parameter in routine.parameters]
    is_alone = all(one is symbol or one in parameters for one in own)
    return tuple(symbol.references) if is_alone and not any(use.mode.writes for use in symbol.references) else ()


def _event_of(routine: Function | Lambda) -> str:
    """What a routine calls the event that it is given, or could; empty where that is not sure."""
    inside = _names_in(routine)
    if not routine.parameters:
        return _EVENT if _EVENT not in inside else ""
    first = routine.parameters[0]
    symbol = first.reference.symbol
    hidden = any(first.name in scope.symbols and scope is not routine.scope for scope in routine.scope.walk())
    is_kept = len(symbol.bindings) == 1 and first.kind is ParameterKind.PLAIN and first.default is None
    return first.name if is_kept and not hidden and first.reference.span == Span(first.start, first.end) else ""


def _free_name(routine: Function | Lambda) -> str:
    """A name for the element that means nothing in a routine; empty where there is none."""
    inside = _names_in(routine)
    return next((name for name in _NAMES if name not in inside), "")


def _names_in(routine: Function | Lambda) -> set[str]:
    scopes = list(routine.scope.walk())
    return {use.name for scope in scopes for use in scope.uses} | {name for scope in scopes for name in scope.symbols}


class _Asking(Planner):
    def __init__(self, module: Module, found: list[Asking]) -> None:
        super().__init__(module)
        self.found = found

    def write(self) -> None:
        for one in self.found:
            if not one.routine.parameters:
                self.rewriter.insert(one.routine.signature.start, one.event)
            asked = self.writer.member(one.event, one.member)
            if one.kept:
                self.keep(one.routine, one.kept, asked)
            for use in one.uses:
                event = Parameter(one.routine.name, one.event)
                self.rewriter.replace(use, one.kept or asked, Local(one.kept, one.routine) if one.kept else event)

    def keep(self, routine: Function | Lambda, name: str, value: str) -> None:
        """Give what is asked for a name of its own, before the first statement of a routine."""
        assert isinstance(routine.body, Block)
        first, (*said, end) = routine.body.statements[0], self.writer.variable(name, [value])
        line = self.module.source.line_start(first.start)
        if self.module.source.slice(Span(line, first.start)).strip():
            self.rewriter.insert(first.start, *said, " ")
        else:
            self.rewriter.insert(self.layout.lines(first).start, self.layout.margin(first), *said, end)


def _by_hand(program: Program, script: Path, given: Given) -> list[AskEvent]:
    return [AskEvent(script)]


MOVE = Description(
    name="ask_event",
    place=28,
    summary=(
        "What a page calls on an event asks the event for its element, and no longer `this`.\n"
        "Refused where something else may call it, too."
    ),
    term="-",
    help="Let functions that pages call on events ask these for their element.",
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
