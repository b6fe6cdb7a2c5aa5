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
from aedifex.program.dialect.naming import Naming
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function
from aedifex.program.structure.fronts import Fronts
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.words import words_of

_HANDLING, _ON = "handle", "on"
ANSWERING = "answer"
"""What is behind a front whose name says only who asks."""
_SETTING_UP = {"setup": ["set", "up"]}
_ALL = "all"
_PAST = "ed"


def name_behind(front: Function, naming: Naming) -> str:
    """What the function is called that one hands on to which is found by its name."""
    words = words_of(front.name)
    if front.name in _SETTING_UP:
        return naming.joined(*_SETTING_UP[front.name])
    if words[0] == _ON and len(words) > 1:
        return naming.joined(_HANDLING, *words[1:])
    if words[0] in VERBS | ACTION_WORDS:
        return naming.joined(*words, _ALL)
    return naming.joined(_HANDLING, *words) if words[-1].endswith(_PAST) else ANSWERING


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
        return _Fronting(module, fronts).plan()


class _Fronting(Planner):
    def __init__(self, module: Module, fronts: Fronts) -> None:
        super().__init__(module)
        self.fronts = fronts

    def find_objections(self) -> None:
        for function in self.fronts.wanted:
            named = [r for r in self.module.references_within(function.signature) if r.scope is not function.scope]
            if named:
                self.object(named[0].start, f"the parameters of `{function.name}` use names", "Use plain values.")
            end = self.fronts.place.start if self.fronts.place is not None else len(self.module.source.data)
            named = [r for r in function.symbol.references if r.scope is self.module.scope and r.start < end]
            early = [r for r in named if r.mode is Mode.READ]
            if early:
                self.object(early[0].start, f"`{function.name}` is handed on here, before its front is there", "")
            if name_behind(function, self.dialect.naming) in self.module.names_in_use:
                self.object(
                    function.statement.start,
                    f"`{name_behind(function, self.dialect.naming)}` is in use already",
                    "Rename it.",
                )

    def write(self) -> None:
        pieces = [piece for function in self.fronts.wanted for piece in self.front(function)]
        for function in self.fronts.wanted:
            name = name_behind(function, self.dialect.naming)
            for reference in function.symbol.references:
                if reference.form is Form.ROUTINE or (reference.mode is Mode.CALL and not reference.path):
                    self.rewriter.replace(reference, name, Renamed(name))
                else:  # who looks at the function itself sees what stands in front
                    self.rewriting.destinations[reference] = Variable(function.name)
        last = self.fronts.place
        if last is None:
            self.rewriter.insert(len(self.module.source.data), self.layout.gap, *pieces[:-1])
            return
        self.rewriter.insert(self.layout.lines(last).start, *pieces)

    def front(self, function: Function) -> list[str]:
        """A function under the name that is looked for."""
        statement = function.statement
        head = self.module.source.slice(Span(statement.start, statement.header_end))
        if statement.keyword is not None:  # a value would not be there before all else has been carried out
            head = self.writer.function_frame(function.name, self.module.source.slice(function.signature)).head
        call = self.writer.call(name_behind(function, self.dialect.naming), self.writer.handed_on(function.parameters))
        gives_value = any(inner.returned for inner in function.body.walk())
        text = self.writer.handing_on(head, call, "", self.layout.indent, gives_value=gives_value)
        return [text, self.layout.gap]


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
