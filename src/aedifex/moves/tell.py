"""tell: what other code decides by an object's fields, the object says itself."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.member_access import base_of, root_of
from aedifex.moves.kit.move import class_of, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.members import Members, Mentions
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.survey.kinds.objects import member_names
from aedifex.survey.questions import Question, Questions

_MOST_TOLD = 6


@dataclass(frozen=True)
class Tell:
    """Give a class a method that answers what `asks` asks, and let all code ask that which asks the same.

    `asks` is the condition as it stands in a method, with the receiver for the object.
    """

    name: ClassVar[str] = "tell"

    path: Path
    class_name: str
    asks: str
    method: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Telling(self, program, module_of(program, self.path)).plan()


class _Telling(Planner):
    def __init__(self, move: Tell, program: Program, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.statement, self.scope = class_of(module, move.class_name)
        self.members = Members(Mentions.of(program), module, self.scope)
        self.asked = [q for q in Questions.of(module).everywhere() if q.text == move.asks and q.scope is self.scope]

    def find_objections(self) -> None:
        at = self.statement.start
        if not self.asked:
            reason = f"nothing asks `{self.move.asks}` of {self.move.class_name}, or it is not certain whose that is"
            known = asked_of(self.module, self.move.class_name)[:_MOST_TOLD]
            listed = ", ".join(f"`{text}`" for text in known)
            self.object(at, reason, f"What is asked of it: {listed}." if listed else "Leave it as it is.")
            return
        if self.move.method in member_names(self.module, self.scope):
            reason = f"{self.move.class_name} has a member `{self.move.method}` already"
            self.object(at, reason, "Choose another name.")
        if self.members.all.are_looked_up_by_text:
            reason = f"members of {self.move.class_name} may be reached by their text, and there would be one more"
            self.object(at, reason, "Leave it as it is.")
        if not self.members.is_plain:
            reason = f"{self.move.class_name} inherits or is inherited from, so the method might be another's"
            self.object(at, reason, "Leave it as it is.")

    def write(self) -> None:
        unit = self.layout.indent
        first = self.asked[0]
        frame = self.writer.method_frame(self.move.method, first.parameters, unit, unit)
        body: list[Piece] = [frame.head, unit * 2, *self.writer.returning([self.move.asks]), "\n", frame.tail]
        self.rewriter.insert(self.layout.own_lines(self.statement).end, "\n", *body)
        for question in self.asked:
            self.ask(question)

    def ask(self, question: Question) -> None:
        """The call in place of the decision."""
        use, given = question.uses[0], list(question.given[:1])
        pieces: list[Piece] = [self.rewriter.taken(use.span), self.writer.member("", self.move.method)]
        pieces += [*self.writer.creation("", [self.rewriter.taken(g.span) for g in given])]
        self.rewriting.changes.replace(self.module.path, question.expression.span, *pieces)
        reference, depth = base_of(question.fields[0])
        base, length = root_of(given[0]) if given else (None, 0)
        kept = {reference, base}
        within = self.module.references_within(question.expression.span)
        self.rewriter.drop(other for other in within if other not in kept)
        if reference is not None:
            path = [step.name for step in reference.path[:depth]]
            self.rewriting.paths[reference] = (*path, self.move.method)
        if base is not None and question.is_of_two:
            self.rewriting.paths[base] = tuple(step.name for step in base.path[:length])


def asked_of(module: Module, class_name: str) -> list[str]:
    """What code asks of objects of a class, in the words of a method."""
    found = (q for q in Questions.of(module).everywhere() if q.scope.name == class_name)
    return list(dict.fromkeys(question.text for question in found))


def _by_hand(program: Program, script: Path, given: Given) -> list[Tell]:
    return [Tell(script, given["class"], given["asks"], given["method"])]


MOVE = Description(
    name="tell",
    place=62,
    summary=(
        "What other code decides by an object's fields becomes a method that answers it.\n"
        "Refused where it is not certain whose fields they are, or that there is an object."
    ),
    term="Extract Method, Move Method",
    help="Let the objects of a class answer a question that other code decides, given as a method would ask it.",
    parameters=(
        StepParameter("asks", Takes.ONE, "CONDITION"),
        StepParameter("method", Takes.ONE, "NAME"),
        StepParameter("class", Takes.NEEDED, "NAME", "The class."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="'self.load >= 2' is_full --class Ferry",
        before="""\
class Ferry:
    def __init__(self):
        self.load = 0


ferry = Ferry()
for cart in ["hay", "milk", "wool"]:
    if ferry.load >= 2:
        print("no room for", cart)
    else:
        ferry.load += 1
""",
        after={
            "harbour.py": """\
class Ferry:
    def __init__(self):
        self.load = 0

    def is_full(self):
        return self.load >= 2


ferry = Ferry()
for cart in ["hay", "milk", "wool"]:
    if ferry.is_full():
        print("no room for", cart)
    else:
        ferry.load += 1
""",
        },
    ),
)
