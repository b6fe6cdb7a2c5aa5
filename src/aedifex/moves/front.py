"""front: what a library finds by its name hands on to another function, which can then become a method."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.design.drafting.naming import ACTION_WORDS, VERBS
from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Renamed, Rewriting, Variable
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, ParameterKind
from aedifex.program.structure.fronts import Fronts
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.words import words_of

_HANDLING, _ON, _DOING = "handle", "on", "do"
ANSWERING = "answer"
"""What is behind a front whose name says only who asks."""
_SETTING_UP = {"setup": ["set", "up"]}
_ALL = "all"
_PAST, _GIVEN = "ed", "given"


def name_behind(front: Function, module: Module) -> str:
    """What the function is called that one hands on to which is found by its name."""
    naming, words = module.dialect.naming, words_of(front.name)
    if module.dialect.rules.is_found_by_own_name(module, front.name):
        return naming.joined(_DOING, *words)
    if front.name in _SETTING_UP:
        return naming.joined(*_SETTING_UP[front.name])
    if words[0] == _ON and len(words) > 1:
        return naming.joined(_HANDLING, *words[1:])
    if words[0] in VERBS | ACTION_WORDS:
        return naming.joined(*words, _ALL)
    says_what = len(words) > 1 or words[-1].endswith(_PAST)
    return naming.joined(_HANDLING, *words) if says_what else ANSWERING


@dataclass(frozen=True)
class Front:
    """Let functions that are found by their names stand last, and hand on to others with names of their own."""

    name: ClassVar[str] = "front"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: no function that uses variables is found by its name, or one cannot be called by another.
        """
        module = module_of(program, self.path)
        fronts = Fronts.of(module)
        if not fronts.wanted or fronts.found:
            raise RefusedError(
                f"{module.path.name} has no functions that a library finds by their names and that could hand on",
                advice="Only those that use variables of the script need to, and none may wait or be decorated.",
            )
        return _Fronting(program, module, fronts).plan()


class _Fronting(Planner):
    def __init__(self, program: Program, module: Module, fronts: Fronts) -> None:
        super().__init__(module)
        self.fronts = fronts
        self.files = [other for other in program.modules.values() if other is not module]

    def find_objections(self) -> None:
        for function in self.fronts.wanted:
            named = [r for r in self.module.references_within(function.signature) if r.scope is not function.scope]
            taken_apart = [p for p in function.parameters if p.kind is ParameterKind.PATTERN and p.default is not None]
            if named:
                self.object(named[0].start, f"the parameters of `{function.name}` use names", "Use plain values.")
            if taken_apart:
                self.object(taken_apart[0].start, "a parameter that is taken apart has a default value", "")
            end = self.fronts.place.start if self.fronts.place is not None else len(self.module.source.data)
            named = [r for r in function.symbol.references if r.scope is self.module.scope and r.start < end]
            early = [r for r in named if r.mode is Mode.READ]
            if early and not self.dialect.rules.has_functions_early:
                self.object(early[0].start, f"`{function.name}` is handed on here, before its front is there", "")
            behind = name_behind(function, self.module)
            if behind in self.module.names_in_use:
                self.object(function.statement.start, f"`{behind}` is in use already", "Rename it.")

    def write(self) -> None:
        pieces = [piece for function in self.fronts.wanted for piece in self.front(function)]
        for function in self.fronts.wanted:
            words = self.dialect.rules.words_handing_out(self.module, function.statement)
            self.rewriting.changes.replace(self.module.path, words)
            name = name_behind(function, self.module)
            for reference in function.symbol.references:
                if reference.form is Form.ROUTINE or (reference.mode is Mode.CALL and not reference.path):
                    self.rewriter.replace(reference, name, Renamed(name))
                else:  # who looks at the function itself sees what stands in front
                    self.rewriting.destinations[reference] = Variable(function.name)
            for reference in (r for other in self.files for r in other.references if r.symbol.final is function.symbol):
                self.rewriting.destinations[reference] = Variable(reference.name)
        last = self.fronts.place
        if last is None:
            self.rewriter.insert(len(self.module.source.data), self.layout.gap, *pieces[:-1])
            return
        self.rewriter.insert(self.layout.lines(last).start, *pieces)

    def front(self, function: Function) -> list[str]:
        """A function under the name that is looked for."""
        statement, source = function.statement, self.module.source
        is_apart = any(parameter.kind is ParameterKind.PATTERN for parameter in function.parameters)
        waits = function.is_async or function.is_postponed
        head = source.slice(Span(statement.start, statement.header_end))
        signature, given = source.slice(function.signature), self.writer.handed_on(function.parameters)
        if is_apart:
            signature, given = self.with_names(function)
        if statement.keyword is not None or is_apart or waits:  # a value would not be there before all else is done
            words = source.slice(self.dialect.rules.words_handing_out(self.module, statement))
            head = f"{words}{self.writer.function_frame(function.name, signature).head}"
        call = self.writer.call(name_behind(function, self.module), given)
        gives_value = waits or any(inner.returned for inner in function.body.walk())
        text = self.writer.handing_on(head, call, "", self.layout.indent, gives_value=gives_value)
        return [text, self.layout.gap]

    def with_names(self, function: Function) -> tuple[str, list[str]]:
        """The parameters of a front, and what it hands on: what the other takes apart has a name here."""
        taken = {parameter.name for parameter in function.parameters}
        free = (name for name in (_GIVEN, *(f"{_GIVEN}{n}" for n in range(2, 99))) if name not in taken)
        signature, given = [], []
        for parameter in function.parameters:
            if parameter.kind is ParameterKind.PATTERN:
                given.append(next(free))
                signature.append(given[-1])
            else:
                given += self.writer.handed_on([parameter])
                signature.append(self.module.source.slice(Span(parameter.start, parameter.end)))
        return ", ".join(signature), given


def _by_hand(program: Program, script: Path, given: Given) -> list[Front]:
    return [Front(script)]


MOVE = Description(
    name="front",
    place=2,
    summary=(
        "What a library finds by its name hands on to a function with a name of its own.\n"
        "Refused where nothing is found by its name, or where that may be noticed."
    ),
    term="Extract Function",
    help="Let functions that a library finds by their names only hand on to others.",
    make=_by_hand,
    example=Example(
        language="python",
        words="",
        before="""\
import wsgiref.simple_server

asked = 0


def application(environ, start_response):
    global asked
    asked += 1
    start_response("200 OK", [])
    return [str(asked).encode()]


print(application({}, print))
""",
        after={
            "harbour.py": """\
import wsgiref.simple_server

asked = 0


def answer(environ, start_response):
    global asked
    asked += 1
    start_response("200 OK", [])
    return [str(asked).encode()]


print(answer({}, print))


def application(environ, start_response):
    return answer(environ, start_response)
""",
        },
    ),
)
