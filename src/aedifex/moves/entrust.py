"""entrust: variables of which only the methods of a class know become fields of the class itself."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import class_of, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Instead, Renamed, Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Scope, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Statement
from aedifex.source.errors import RefusedError
from aedifex.survey.kinds.entrusted import entrusted, only_first_value


@dataclass(frozen=True)
class Entrust:
    """Give a class variables that only its methods use, for all its objects."""

    name: ClassVar[str] = "entrust"

    path: Path
    class_name: str
    variables: tuple[str, ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: something else uses one of the variables, or the script makes objects of the class itself.
        """
        module = module_of(program, self.path)
        statement, scope = class_of(module, self.class_name)
        known = {symbol.name: symbol for symbol in entrusted(module, scope)}
        unknown = [name for name in self.variables if name not in known]
        if unknown or not self.variables:
            told = ", ".join(f"`{name}`" for name in known)
            raise RefusedError(
                f"not only the methods of {self.class_name} know `{', '.join(unknown)}`",
                advice=f"It can have {told}." if told else "There is no variable that only it knows.",
            )
        return _Entrusting(module, statement, scope, [known[name] for name in self.variables]).plan()


class _Entrusting(Planner):
    def __init__(self, module: Module, home: Statement, scope: Scope, symbols: list[Symbol]) -> None:
        super().__init__(module)
        self.home = home
        self.scope = scope
        self.symbols = symbols

    def write(self) -> None:
        pieces: list[Piece] = []
        for symbol in self.symbols:
            statement = only_first_value(symbol)
            assert statement is not None  # else it is not entrusted
            lines = self.layout.lines(statement)
            pieces += self.rewriter.lines_taken(lines, indent=self.layout.indent)
            self.rewriter.remove(lines)
            self.rewrite_uses(symbol, statement)
        body = self.home.blocks[0].statements
        first = body[1] if body[0].is_text and len(body) > 1 else body[0]
        self.rewriter.insert(self.layout.lines(first).start, *pieces, "\n")

    def rewrite_uses(self, symbol: Symbol, given: Statement) -> None:
        owner = self.module.scope.symbols[self.scope.name]
        for reference in given.references:
            self.rewriting.destinations[reference] = Renamed(symbol.name)
        for reference in symbol.references:
            if reference.form is Form.DECLARATION:
                self.rewriter.drop_declaration(reference)
            elif reference.statement is not given:
                text = self.writer.member(owner.name, symbol.name)
                self.rewriting.paths[reference] = (symbol.name, *(step.name for step in reference.path))
                self.rewriter.replace(reference, text, Instead(owner))


def _by_hand(program: Program, script: Path, given: Given) -> list[Entrust]:
    return [Entrust(script, given["class"], tuple(given["variables"]))]


MOVE = Description(
    name="entrust",
    place=63,
    summary=(
        "Variables of which only the methods of a class know become fields of that class.\n"
        "Refused where something else uses them, or the script makes objects of the class."
    ),
    term="Move Field",
    help="Give a class whose objects a library makes the variables that only its methods use.",
    parameters=(
        StepParameter("variables", Takes.MANY, "VARIABLE..."),
        StepParameter("class", Takes.NEEDED, "NAME", "The class."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="lines --class Log",
        before="""\
import logging

lines = 0


class Log(logging.Handler):
    def emit(self, record):
        global lines
        lines += 1
        print(lines, record.getMessage())


logging.basicConfig(handlers=[type("Log", (Log,), {})()])
logging.warning("high tide")
""",
        after={
            "harbour.py": """\
import logging


class Log(logging.Handler):
    lines = 0

    def emit(self, record):
        Log.lines += 1
        print(Log.lines, record.getMessage())


logging.basicConfig(handlers=[type("Log", (Log,), {})()])
logging.warning("high tide")
""",
        },
    ),
)
