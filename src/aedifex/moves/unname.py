"""unname: a name for an element that is told one thing at once, and not used again, goes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Reference, ScopeKind
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.obstacles import is_hard_to_echo
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span

_FETCHED = frozenset({Sense.NAME, Sense.CONSTANT, Sense.MEMBER, Sense.PART})


@dataclass(frozen=True)
class Passing:
    """A statement that names an element, that element, and the one use of the name, with which the next begins."""

    statement: Statement
    element: Expression
    use: Reference


@dataclass(frozen=True)
class Unname:
    """Let what a name stands for in passing stand in the one place that uses the name."""

    name: ClassVar[str] = "unname"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: no name is used so.
        """
        module = module_of(program, self.path)
        found = list(passing_names(module))
        if not found:
            raise RefusedError(
                "no name for an element is used once only, at the beginning of the next statement",
                advice="It must be the name of a local variable, and the statement a call of one of its methods.",
            )
        return _Unnaming(module, found).plan()


def passing_names(module: Module) -> Iterator[Passing]:
    """The names of elements in functions that serve for one call of a method, in the statement behind them."""
    trees, layout = Surroundings.of(module).by_statement, Layout.of(module)
    for function in module.all_functions:
        for statement in function.body.walk():
            behind = statement.block.statements[statement.index + 1 :]
            targets = [r for r in statement.references if r.binds]
            if statement.kind is not Kind.ASSIGN or len(targets) != 1 or not behind or len(trees[statement]) != 1:
                continue
            tree, symbol = trees[statement][0], targets[0].symbol
            uses = [r for r in symbol.references if r is not targets[0]]
            if tree.sense is not Sense.SET or len(tree.parts) != 2 or symbol.scope.kind is not ScopeKind.ROUTINE:
                continue
            if len(uses) != 1 or not _begins_with(behind[0], uses[0]) or not _is_element(tree.parts[1]):
                continue
            lines = Span(statement.start, behind[0].end)
            has_comments = any(lines.start <= comment.start < lines.end for comment in module.comments)
            is_echoed = is_hard_to_echo(module, uses[0]) or any(
                module.echo_at(r.start) is not None for r in (*statement.references, *uses)
            )
            if not has_comments and not is_echoed and all(map(layout.stands_alone, (statement, behind[0]))):
                yield Passing(statement, tree.parts[1], uses[0])


def _begins_with(statement: Statement, use: Reference) -> bool:
    """Whether a statement is a call of a method of what a name stands for."""
    is_call = use.path_mode is Mode.CALL and len(use.path) == 1
    return statement.kind is Kind.EXPRESSION and use.start == statement.start and is_call


def _is_element(value: Expression) -> bool:
    """Whether a value is an element of a container that is fetched by a plain key."""
    return value.sense is Sense.PART and all(part.sense in _FETCHED for part in value.walk())


class _Unnaming(Planner):
    def __init__(self, module: Module, found: list[Passing]) -> None:
        super().__init__(module)
        self.found = found

    def write(self) -> None:
        for passing in self.found:
            changes, path = self.rewriting.changes, self.module.path
            changes.replace(path, passing.use.span, self.rewriter.taken(passing.element.span))
            base = next(r for r in passing.statement.references if r.start == passing.element.start)
            self.rewriting.paths[base] = tuple(step.name for step in (*base.path, *passing.use.path))
            self.rewriter.drop([passing.use, *(r for r in passing.statement.references if r.binds)])
            self.rewriter.remove(self.layout.lines(passing.statement))


def _by_hand(_program: Program, script: Path, _given: Given) -> list[Unname]:
    return [Unname(script)]


MOVE = Description(
    name="unname",
    place=75,
    summary=(
        "A name for an element that is told one thing at once, and not used again, goes.\n"
        "The element stands where the name stood."
    ),
    term="Inline Variable",
    help="Let go of names for elements that serve for one call.",
    parameters=(),
    make=_by_hand,
    example=Example(
        language="python",
        words="",
        before="""\
class Lamp:
    def __init__(self, place):
        self.place = place

    def light(self):
        print(self.place, "is lit")


lamps = {"north": Lamp("the north pier"), "south": Lamp("the south pier")}


def light(place):
    if place in lamps:
        lamp = lamps[place]
        lamp.light()


light("south")
""",
        after={
            "harbour.py": """\
class Lamp:
    def __init__(self, place):
        self.place = place

    def light(self):
        print(self.place, "is lit")


lamps = {"north": Lamp("the north pier"), "south": Lamp("the south pier")}


def light(place):
    if place in lamps:
        lamps[place].light()


light("south")
""",
        },
    ),
)
