"""prefix: routes whose paths all begin alike are told to a part of the application that begins so."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting, Variable
from aedifex.moves.kit.top_of_file import TopOfFile
from aedifex.program.analysis.values import only_value
from aedifex.program.dialect.library import ApplicationPart
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Argument, Statement, final_name
from aedifex.program.structure.routes import Routes, told_by
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.words import words_of

_LARGEST_TEXT = 1 << 20


@dataclass(frozen=True)
class Prefix:
    """Tell routes to a part of the application that has the beginning of their paths."""

    name: ClassVar[str] = "prefix"

    path: Path
    prefix: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: the paths do not all begin so, or something may tell the difference.
        """
        return _Prefixing(self, module_of(program, self.path)).plan()


class _Prefixing(Planner):
    def __init__(self, move: Prefix, module: Module) -> None:
        super().__init__(module)
        self.prefix = move.prefix.rstrip("/")
        self.routes = Routes.of(module)
        first = [told_by(statement).symbol for statement in self.routes.registrations[:1]]
        made = self.routes.applications.get(first[0], "") if first else ""
        part = self.dialect.library.part_of_application(made)
        if part is None:
            raise RefusedError(f"{module.path.name} tells no application of routes that could have a part for them")
        self.application: Symbol = first[0]
        self.part: ApplicationPart = part

    @cached_property
    def told(self) -> list[tuple[Statement, Argument]]:
        """The registrations of routes, each with its path."""
        return [
            (statement, call.arguments[0])
            for statement in self.routes.registrations
            for call in statement.calls
            if call.span == statement.deed and final_name(call.callee) == self.part.telling and call.arguments
        ]

    @cached_property
    def variable(self) -> str:
        """A free name for the part."""
        step = self.dialect.naming.joined(*words_of(self.prefix))
        wishes = (step, self.dialect.naming.joined(step, "pages"), self.dialect.naming.joined(step, "routes"))
        return next((name for name in wishes if name and name not in self.module.names_in_use), "")

    def find_objections(self) -> None:
        for statement in self.routes.registrations:
            if told_by(statement).symbol is not self.application:
                self.object(statement.start, "another application is told of routes too", "Leave the prefix out.")
        for statement, path in self.told:
            if not re.match(rf"""["']{re.escape(self.prefix)}(/|["'])""", self.module.source.slice(path.span)):
                self.object(statement.start, f"the path does not begin with `{self.prefix}`", "Leave the prefix out.")
        if not self.told or not self.variable:
            self.object(0, "no route could have this prefix", "Leave it out.")
        seen = next((where for where, text in self.texts() if self.part.is_seen_in(text)), None)
        if seen is not None:
            reason = f"{seen} asks for routes by their names, which would have that of the part before them"
            self.object(0, reason, "Leave the prefix out.")

    def texts(self) -> list[tuple[str, str]]:
        """The script, and the texts in the folders that its library reads, each with its name."""
        found = [(self.module.path.name, self.module.source.data.decode("utf-8", "replace"))]
        for folder in self.part.folders:
            for file in sorted((self.module.path.parent / folder).rglob("*")):
                if file.is_file() and file.stat().st_size < _LARGEST_TEXT:
                    found.append((file.name, file.read_text("utf-8", "replace")))
        return found

    def write(self) -> None:
        TopOfFile(self.module, self.rewriter).bring(self.part.imported)
        for statement, path in self.told:
            self.rewriter.replace(told_by(statement), self.variable, Variable(self.variable))
            begin = path.start + 1
            self.rewriting.changes.replace(self.module.path, Span(begin, begin + len(self.prefix.encode())), "")
        only = only_value(self.application)
        assert only is not None  # an application is made once
        made = self.layout.lines(only.statement)
        part = self.part.made(self.variable, self.prefix)
        self.rewriter.insert(made.end, *self.writer.assignment(self.variable, [part]))
        end = self.layout.lines(self.routes.registrations[-1]).end
        self.rewriter.insert(end, f"{self.part.joined(self.application.name, self.variable)}\n")


def prefix_of(program: Program) -> str:
    """The step with which all paths of a script's routes begin; empty where there is none."""
    step = Routes.of(program.main).common_step
    return f"/{step}" if step else ""


def with_prefix(program: Program, prefix: str) -> Program:
    """The program with its routes told to a part of the application that begins so; the same if it has that already.

    Raises:
        RefusedError: as for the move.
    """
    applications, slice_of = Routes.of(program.main).applications, program.main.source.slice
    made = {symbol: slice_of(only.value.span) for symbol in applications if (only := only_value(symbol)) is not None}
    for part in filter(None, map(program.dialect.library.part_of_application, applications.values())):
        if any(text == part.made(symbol.name, prefix) for symbol, text in made.items()):
            return program
    return perform(program, Prefix(program.main.path, prefix))


def _by_hand(program: Program, script: Path, given: Given) -> list[Prefix]:
    return [Prefix(script, given["prefix"])]


MOVE = Description(
    name="prefix",
    place=46,
    summary=(
        "Routes whose paths begin alike are told to a part of the application that begins so.\n"
        "Refused where something asks for routes by their names, which would change."
    ),
    term="Extract Route Prefix",
    help="Tell routes to a part of the application that has the beginning of all their paths.",
    parameters=(StepParameter("prefix", Takes.ONE, "PREFIX"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="/tide",
        before="""\
from flask import Flask

app = Flask(__name__)


def now():
    return "rising"


app.add_url_rule("/tide/now", view_func=now)
""",
        after={
            "harbour.py": """\
from flask import Flask, Blueprint

app = Flask(__name__)
tide = Blueprint("tide", __name__, url_prefix="/tide")


def now():
    return "rising"


tide.add_url_rule("/now", view_func=now)
app.register_blueprint(tide)
""",
        },
    ),
)
