"""name_call: a call of what an object holds gets a name: a method of its class hands it on."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes, named
from aedifex.moves.kit.move import class_of, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Mode, Reference
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call, Kind, Statement, call_of
from aedifex.source.text import Span
from aedifex.survey.kinds.objects import is_object, member_names

_OTHERS = "given"


@dataclass(frozen=True)
class NameCalls:
    """Give methods of what `field` of a class holds names of the class's own; `names` has both."""

    name: ClassVar[str] = "name_call"

    path: Path
    class_name: str
    field: str
    names: tuple[tuple[str, str], ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Naming(self, module_of(program, self.path)).plan()


def calls_outside(module: Module, class_name: str, field: str) -> list[str]:
    """The methods, of what a field of a class's objects holds, that are called outside of the class."""
    statement, _ = class_of(module, class_name)
    found = calls_of_field(module, class_name, field)
    return [method for method, uses in found.items() if any(not _is_in(use, statement) for use in uses)]


def calls_of_field(module: Module, class_name: str, field: str) -> dict[str, list[Reference]]:
    """The calls of methods of what a field of a class's objects holds: by method, in the order of the text."""
    _, scope = class_of(module, class_name)
    holdings = Holdings.of(module)
    found: dict[str, list[Reference]] = defaultdict(list)
    for reference in module.references_by_first_step.get(field, ()):
        steps = [step for step in reference.path if step.kind is AccessKind.ATTRIBUTE]
        if len(steps) < 2 or steps[1].name is None or reference.path[1] is not steps[1]:
            continue
        is_call = len(reference.path) == 2 and reference.path_mode is Mode.CALL
        if is_call and is_object(holdings, holdings.of_symbol(reference.symbol), scope):
            found[steps[1].name].append(reference)
    return found


def _is_in(reference: Reference, statement: Statement) -> bool:
    return statement.start <= reference.start < statement.end


class _Naming(Planner):
    def __init__(self, move: NameCalls, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.statement, self.scope = class_of(module, move.class_name)
        self.uses = calls_of_field(module, move.class_name, move.field)

    def find_objections(self) -> None:
        taken = member_names(self.module, self.scope)
        for method, name in self.move.names:
            if name in taken or not self.dialect.rules.is_name(name):
                at = self.statement.start
                self.object(at, f"{self.move.class_name} has a member `{name}` already", "Choose another name.")
            taken.add(name)
            if not self.uses.get(method):
                at = self.statement.start
                self.object(at, f"nothing calls `{method}` of its `{self.move.field}`", "Name a method that is called.")
            for call in self.calls.get(method, ()):
                if any(argument.keyword or argument.stars for argument in call.arguments):
                    reason = f"`{method}` is not always called with plain arguments"
                    self.object(call.start, reason, "Leave its calls as they are.")

    @cached_property
    def calls(self) -> dict[str, list[Call]]:
        """The calls of each method."""
        found: dict[str, list[Call]] = {}
        for method, references in self.uses.items():
            calls = [call_of(reference) for reference in references]
            found[method] = [call for call in calls if call is not None]
        return found

    def write(self) -> None:
        unit = self.layout.indent
        pieces: list[Piece] = []
        for method, name in self.move.names:
            for reference in self.uses[method]:
                self.rewriting.changes.replace(
                    self.module.path,
                    Span(reference.end, reference.path[1].end),
                    self.writer.member("", name),
                )
                self.rewriting.paths[reference] = (name,)
            given = self.parameters(method)
            frame = self.writer.method_frame(name, given, unit, unit)
            target = self.writer.member(self.writer.receiver, self.move.field, method)
            call = self.writer.call(target, given)
            line = self.writer.returning([call]) if self.is_answer_used(method) else [call]
            pieces += ["\n", frame.head, unit * 2, *line, "\n", frame.tail]
        self.rewriter.insert(self.layout.own_lines(self.statement).end, *pieces)

    def parameters(self, method: str) -> list[str]:
        """Names for what a method is given; where that is not always as much, one for all that is not always there."""
        known = self.dialect.library.parameter_name
        counts = [len(call.arguments) for call in self.calls[method]]
        found: list[str] = []
        for number in range(min(counts)):
            wish = known(method, number) or self.dialect.naming.joined("value", str(number + 1))
            found.append(wish if wish not in found else self.dialect.naming.joined(wish, str(number + 1)))
        if max(counts) > min(counts):
            found.append(self.writer.all_others(self.dialect.naming.member_name([_OTHERS])))
        return found

    def is_answer_used(self, method: str) -> bool:
        """Whether any call of a method does something with what comes back."""
        return any(
            reference.statement is None
            or reference.statement.kind is not Kind.EXPRESSION
            or reference.statement.deed != call.span
            for reference, call in zip(self.uses[method], self.calls[method], strict=True)
        )


def _by_hand(program: Program, script: Path, given: Given) -> list[NameCalls]:
    return [NameCalls(script, given["class"], given["field"], tuple(named(text) for text in given["methods"]))]


MOVE = Description(
    name="name_call",
    place=31,
    summary=(
        "A call of what a field holds becomes a method with a name in the program's words.\n"
        "Refused where it is given arguments by keyword, or spread out."
    ),
    term="Hide Delegate",
    help="Give calls of what a field of a class holds names of the class's own.",
    parameters=(
        StepParameter("class", Takes.ONE, "CLASS"),
        StepParameter("field", Takes.ONE, "FIELD"),
        StepParameter("methods", Takes.MANY, "METHOD[=NAME]..."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="Screen window write=write_line",
        before="""\
import sys


class Screen:
    def __init__(self, window):
        self.window = window


screen = Screen(sys.stdout)
screen.window.write("quay\\n")
screen.window.write("lock\\n")
""",
        after={
            "harbour.py": """\
import sys


class Screen:
    def __init__(self, window):
        self.window = window

    def write_line(self, text):
        self.window.write(text)


screen = Screen(sys.stdout)
screen.write_line("quay\\n")
screen.write_line("lock\\n")
""",
        },
    ),
)
