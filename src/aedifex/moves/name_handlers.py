"""name_handlers: what is called on requests and events, and has no name, becomes a function told by its name."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.named_function import function_named
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call, Kind, Lambda, Statement, final_name
from aedifex.program.structure.own_names import uses_own
from aedifex.program.structure.routes import Routes
from aedifex.program.structure.state import uses_state
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.handler_names import event_words, handler_words, kept_things
from aedifex.survey.words import singular, words_of

_VAGUE = frozenset("api app controller handler index main module route router server".split())
_MEMBER = re.compile(r"(?P<owner>.+)\.(?P<event>on\w+)$", re.DOTALL)


@dataclass(frozen=True)
class Nameless:
    """A handler without a name: the routine, the statement that hands it on, and a name for it.

    One that a table has without writing its `key` before it is nameless too.
    """

    routine: Lambda
    statement: Statement
    wish: str
    key: str = ""


@dataclass(frozen=True)
class NameHandlers:
    """Write the nameless handlers of a script as functions above the statements that tell of them."""

    name: ClassVar[str] = "name_handlers"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: the script hands on no handler without a name.
        """
        module = module_of(program, self.path)
        found = list(nameless_handlers(module))
        if not found:
            raise RefusedError(f"{module.path.name} hands on no handler without a name")
        return _Naming(module, found).plan()


def nameless_handlers(module: Module) -> Iterator[Nameless]:
    """The nameless routines that the top level hands to applications, listeners, clocks, and to other files."""
    lambdas = {
        Span(r.scope.start, r.scope.end): r
        for r in module.routines
        if isinstance(r, Lambda) and r.scope.parent is module.scope and not _uses_own(module, r)
    }
    for statement in module.block.statements if lambdas else ():
        if statement.kind not in (Kind.EXPRESSION, Kind.ASSIGN):
            continue
        told = Routes.of(module).telling(statement)
        for call in sorted(statement.calls, key=lambda call: call.end):  # what is chained begins alike
            for argument in call.arguments:
                routine = lambdas.get(argument.span)
                words = _words(module, call, routine, told) if routine is not None else []
                if routine is not None and words:
                    yield Nameless(routine, statement, module.dialect.naming.member_name(words))
        if module.dialect.rules.hands_out(module, statement):
            yield from _handed_out(module, statement, lambdas)
        else:
            yield from _set_as_member(module, statement, lambdas)


def _handed_out(module: Module, statement: Statement, lambdas: dict[Span, Lambda]) -> Iterator[Nameless]:
    """The routines that other files get under names of their own, alone or in a table."""
    given = statement.assignment
    if given is None or given.value is None:
        return
    for span, routine in lambdas.items():
        if not (given.value.span.start <= span.start and span.end <= given.value.span.end and uses_state(routine)):
            continue
        name, key = module.dialect.rules.handed_out_as(module, statement, span)
        if name:
            yield Nameless(routine, statement, name, key)


def _words(module: Module, call: Call, routine: Lambda, told: Call | None) -> list[str]:
    """The words of a name for a routine that a call is given; none where it needs none.

    A path that an application was `told` is that of all calls behind it, too: `router.route("/").get(…).post(…)`.
    """
    library, parameters = module.dialect.library, [p.name for p in routine.parameters]
    slice_of, text_value = module.source.slice, module.dialect.writer.text_value
    owner, _, last = slice_of(Span(call.start, call.arguments[0].start)).rpartition(".")
    how = final_name(call.callee) or last.strip("( ")
    if told is not None and told.callee is not None and call.start == told.start:
        made = Routes.of(module).applications.get(told.callee.symbol, "")
        home = _about(module) or kept_things(module) if library.makes_part(made) else []
        path = text_value(slice_of(told.arguments[0].span)) if told.arguments else None
        text = slice_of(Span(routine.scope.start, routine.scope.end))
        return handler_words(how, path or "", parameters, home, text)
    said = text_value(slice_of(call.arguments[0].span)) or ""
    return event_words(how, said, owner) if library.keeps_handler(how) and _is_busy(routine) else []


def _about(module: Module) -> list[str]:
    """What all routes of a file are about, by the file's name: of `kites.routes.js` that is kites."""
    return [word for word in words_of(module.path.stem) if singular(word) not in _VAGUE]


def _set_as_member(module: Module, statement: Statement, lambdas: dict[Span, Lambda]) -> Iterator[Nameless]:
    """A routine that becomes what an object calls on an event: `canvas.onclick = function …`."""
    given = statement.assignment
    routine = lambdas.get(given.value.span) if given is not None and given.value is not None else None
    if given is None or routine is None or len(given.targets) != 1 or not _is_busy(routine):
        return
    found = _MEMBER.search(module.source.slice(given.targets[0]))
    if found is not None:
        words = event_words("on", found["event"].removeprefix("on"), found["owner"])
        yield Nameless(routine, statement, module.dialect.naming.member_name(words))


def _is_busy(routine: Lambda) -> bool:
    """Whether a routine has something to do with variables of the script, in a body of its own."""
    return routine.body is not None and uses_state(routine)


def _uses_own(module: Module, routine: Lambda) -> bool:
    """Whether a routine uses what it alone has and nothing declares, or what the code around it has so."""
    receiver = module.dialect.writer.receiver
    uses = (use for scope in routine.scope.walk() for use in scope.uses)
    around = (use for use in uses if use.name == receiver and not use.symbol.scope.within(routine.scope))
    return routine.is_generator or uses_own(routine) or any(True for _ in around)


class _Naming(Planner):
    def __init__(self, module: Module, found: list[Nameless]) -> None:
        super().__init__(module)
        self.found = found
        self.taken = {*module.names_in_use}

    def write(self) -> None:
        for handler in self.found:
            name, routine = self.free_name(handler.wish), handler.routine
            at = self.layout.own_lines(self.first_beside(handler)).start
            self.rewriter.insert(at, *function_named(self.rewriter, routine, name), self.layout.gap)
            named = name if handler.key in ("", name) else f"{handler.key}: {name}"
            self.rewriting.changes.replace(self.module.path, Span(routine.scope.start, routine.scope.end), named)

    def first_beside(self, handler: Nameless) -> Statement:
        """The first of the statements that tell of handlers line below line, down to that of one: they stay together.

        A routine that has first values for what it is given stands right above: these are worked out there.
        """
        first = handler.statement
        telling = {other.statement for other in self.found}
        while first.index and not any(p.default is not None for p in handler.routine.parameters):
            above = first.block.statements[first.index - 1]
            if above not in telling or self.layout.own_lines(above).end != self.layout.lines(first).start:
                break
            first = above
        return first

    def free_name(self, wish: str) -> str:
        rules = self.dialect.rules
        names = (wish if n == 1 else f"{wish}{n}" for n in range(1, 99))
        name = next(n for n in names if n not in self.taken and rules.is_name(n) and not rules.is_taken(n))
        self.taken.add(name)
        return name


def _by_hand(program: Program, script: Path, given: Given) -> list[NameHandlers]:
    return [NameHandlers(script)]


MOVE = Description(
    name="name_handlers",
    place=29,
    summary=(
        "What is called on requests and events becomes a function named by what it answers to.\n"
        "Refused where it uses what only a function without a name has."
    ),
    term="Replace Anonymous Function with Named Function",
    help="Name the functions that applications, listeners and clocks are told of and that have no names.",
    make=_by_hand,
    example=Example(
        language="javascript",
        words="",
        before="""\
const express = require("express");

const app = express();
const berths = [];

app.get("/berths", (request, response) => {
  response.json(berths);
});

app.listen(8000);
""",
        after={
            "harbour.js": """\
const express = require("express");

const app = express();
const berths = [];

function listBerths(request, response) {
  response.json(berths);
}

app.get("/berths", listBerths);

app.listen(8000);
"""
        },
    ),
)
