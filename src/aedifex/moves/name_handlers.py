"""name_handlers: what an application calls on requests becomes a function with a name, told to it by that."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call, Kind, Lambda, Statement
from aedifex.program.structure.routes import Routes
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.handler_names import handler_words


@dataclass(frozen=True)
class Nameless:
    """A handler without a name: the routine, the call that tells an application of it, and how it is told."""

    routine: Lambda
    statement: Statement
    call: Call
    verb: str


@dataclass(frozen=True)
class NameHandlers:
    """Write the nameless handlers of a script as functions above the statements that tell of them."""

    name: ClassVar[str] = "name_handlers"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: the script tells no application of a function without a name.
        """
        module = module_of(program, self.path)
        found = list(nameless_handlers(module))
        if not found:
            raise RefusedError(f"{module.path.name} tells no application of a function without a name")
        return _Naming(module, found).plan()


def nameless_handlers(module: Module) -> Iterator[Nameless]:
    """The nameless routines of which applications are told by statements of the top level."""
    routes = Routes.of(module)
    lambdas = {Span(r.scope.start, r.scope.end): r for r in module.routines if isinstance(r, Lambda)}
    for statement in module.block.statements if routes.applications else ():
        told = routes.telling(statement) if statement.kind is Kind.EXPRESSION else None
        for argument in told.arguments if told is not None else ():
            routine = lambdas.get(argument.span)
            if told is not None and told.callee is not None and routine is not None and not _uses_own(routine):
                yield Nameless(routine, statement, told, told.callee.path[-1].name or "")


def _uses_own(routine: Lambda) -> bool:
    """Whether a routine uses what it alone has and nothing declares."""
    own = {s for s in routine.scope.symbols.values() if not any(r.declares for r in s.references)}
    return routine.is_generator or any(use.symbol in own for scope in routine.scope.walk() for use in scope.uses)


class _Naming(Planner):
    def __init__(self, module: Module, found: list[Nameless]) -> None:
        super().__init__(module)
        self.found = found
        self.taken = {*module.names_in_use}

    def write(self) -> None:
        for handler in self.found:
            name, routine = self.free_name(handler), handler.routine
            frame = self.writer.function_frame(name, "", is_async=routine.is_async)
            opening, _, behind = frame.head.rpartition(")")
            signature = self.rewriter.taken(routine.signature)
            at = self.layout.own_lines(handler.statement).start
            pieces: list[Piece] = [opening, signature, f"){behind}", *self.body(routine), frame.tail, self.layout.gap]
            self.rewriter.insert(at, *pieces)
            self.rewriting.changes.replace(self.module.path, Span(routine.scope.start, routine.scope.end), name)

    def body(self, routine: Lambda) -> Iterator[Piece]:
        unit, block = self.layout.indent, routine.body
        if block is None:
            assert routine.expression is not None
            yield from (unit, *self.writer.returning([self.rewriter.taken(routine.expression)]), "\n")
        elif block.statements and self.layout.stands_alone(block.statements[0]):
            first = block.statements[0]
            lines = Span(self.layout.lines(first).start, self.layout.end_inside(block))
            yield from self.rewriter.lines_taken(lines, self.layout.margin(first), unit)
        elif block.statements:
            inside = Span(block.statements[0].start, block.statements[-1].end)
            yield from (unit, self.rewriter.taken(inside), "\n")

    def free_name(self, handler: Nameless) -> str:
        first = handler.call.arguments[0].span
        path = self.writer.text_value(self.module.source.slice(first)) or ""
        wish = self.dialect.naming.member_name(
            handler_words(handler.verb, path, [p.name for p in handler.routine.parameters])
        )
        names = (wish if n == 1 else f"{wish}{n}" for n in range(1, 99))
        name = next(n for n in names if n not in self.taken and self.dialect.rules.is_name(n))
        self.taken.add(name)
        return name


def _by_hand(program: Program, script: Path, given: Given) -> list[NameHandlers]:
    return [NameHandlers(script)]


MOVE = Description(
    name="name_handlers",
    place=29,
    summary=(
        "What an application calls on requests becomes a function with a name, by verb and path.\n"
        "Refused where it uses what only a function without a name has."
    ),
    term="Replace Anonymous Function with Named Function",
    help="Name the functions that an application is told of and that have no names.",
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
