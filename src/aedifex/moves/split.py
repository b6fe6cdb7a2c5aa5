"""split: what a main loop goes over has a name of its own, and the variable that functions use is given it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of, symbol_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.state import is_used_in_routine
from aedifex.survey.words import singular, words_of


@dataclass(frozen=True)
class Split:
    """Let the loops of the main code that give a variable its values do so in a statement of its own."""

    name: ClassVar[str] = "split"

    path: Path
    variable: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Splitting(self, module_of(program, self.path)).plan()


def variables_of_loops(module: Module) -> Iterator[Symbol]:
    """The variables to which loops of the main code give values, and which functions use."""
    if module.hindrances:
        return
    for symbol in module.scope.symbols.values():
        if is_used_in_routine(symbol) and any(targets(module, symbol)):
            yield symbol


def targets(module: Module, symbol: Symbol) -> Iterator[Expression]:
    """Where loops of the main code give a variable each of their values, on lines of their own."""
    surroundings = Surroundings.of(module)
    for reference in symbol.bindings:
        name = surroundings.of_reference(reference)
        around = surroundings.around(name) if name is not None else None
        if around is not None and around.sense is Sense.TUPLE:
            around = surroundings.around(around)
        loop = around.statement if around is not None and around.sense is Sense.WALK else None
        is_main = loop is not None and loop.kind is Kind.EACH and reference.scope is module.scope
        inner = loop.blocks[0].statements if loop is not None and is_main else []
        if name is not None and around is not None and inner and surroundings.around(around) is None:
            if around.parts[0].start <= name.start < around.parts[0].end and Layout.of(module).stands_alone(inner[0]):
                yield name


class _Splitting(Planner):
    def __init__(self, move: Split, module: Module) -> None:
        super().__init__(module)
        self.symbol = symbol_of(module, move.variable)
        self.targets = list(targets(module, self.symbol)) if self.symbol in variables_of_loops(module) else []

    def find_objections(self) -> None:
        at, name = self.symbol.references[0].start, self.symbol.name
        if not self.targets:
            reason = f"no loop of the main code gives `{name}`, which functions use, its values"
            self.object(at, reason, "Leave it as it is.")
        if self.free_name is None:
            self.object(at, f"no name is free for what a loop gives `{name}`", "Leave it as it is.")

    @property
    def free_name(self) -> str | None:
        """What a loop calls its value: the variable's name in the singular, or with a word before it."""
        naming, used = self.dialect.naming, self.module.names_in_use
        *words, last = words_of(self.symbol.name) or [self.symbol.name]
        wishes = [naming.member_name([*words, singular(last)])]
        wishes += [naming.joined(word, self.symbol.name) for word in ("next", "this", "new")]
        return next((wish for wish in wishes if wish not in used and not self.dialect.rules.is_taken(wish)), None)

    def write(self) -> None:
        name = self.free_name
        assert name is not None
        for target in self.targets:
            assert target.statement is not None and target.reference is not None
            first = target.statement.blocks[0].statements[0]
            self.rewriting.changes.replace(self.module.path, target.span, name)
            self.rewriting.dropped.add(target.reference)
            line = self.writer.assignment(self.symbol.name, [name])
            self.rewriter.insert(self.layout.lines(first).start, self.layout.margin(first), *line)


def _by_hand(program: Program, script: Path, given: Given) -> list[Split]:
    return [Split(script, given["variable"])]


MOVE = Description(
    name="split",
    place=19,
    summary=(
        "The variable of a main loop that functions use gets its values in a line of the loop.\n"
        "Refused where no function uses it."
    ),
    term="Split Variable",
    help="Give what a loop goes over a name of the loop's own, and the variable its value in the loop.",
    parameters=(StepParameter("variable", Takes.ONE, "VARIABLE"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="hours",
        before="""\
def tell(word):
    print(word, hours)


for hours in range(3):
    tell("high")
""",
        after={
            "harbour.py": """\
def tell(word):
    print(word, hours)


for hour in range(3):
    hours = hour
    tell("high")
""",
        },
    ),
)
