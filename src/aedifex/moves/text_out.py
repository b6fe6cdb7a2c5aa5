"""text_out: a long text moves into a file beside the code, which is read once."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path, PurePosixPath
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.moves.kit.top_of_file import TopOfFile
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.errors import RefusedError, UsageError
from aedifex.source.text import Span
from aedifex.survey.long_texts import LongText, long_texts


@dataclass(frozen=True)
class TextOut:
    """Write the long text that begins on a line into `file`, named from the folder of the code, and read it there.

    Where the text has no name, the file's `constant` is what it is read into.
    """

    name: ClassVar[str] = "text_out"

    path: Path
    line: int
    file: str
    constant: str = ""

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        found = next((text for text in long_texts(module) if text.line == self.line), None)
        if found is None:
            lines = ", ".join(str(text.line) for text in long_texts(module))
            raise RefusedError(
                f"no long text begins on line {self.line} of {module.path.name}",
                advice=f"Long texts begin on line {lines}." if lines else "There are none in it.",
            )
        return _Moving(self, program, module, found).plan()


class _Moving(Planner):
    def __init__(self, move: TextOut, program: Program, module: Module, text: LongText) -> None:
        super().__init__(module)
        self.move = move
        self.program = program
        self.text = text
        self.top = TopOfFile(module, self.rewriter)

    @property
    def file(self) -> Path:
        """Where the text goes."""
        return self.module.path.parent / self.move.file

    def find_objections(self) -> None:
        at, maker = self.text.expression.start, self.writer.path_maker
        path = PurePosixPath(self.move.file)
        if path.is_absolute() or ".." in path.parts or self.file in self.program.modules:
            self.object(at, f"`{self.move.file}` is no file for a text beside the code", "Name another.")
        elif self.file in self.program.beside or self.file.exists():
            self.object(at, f"`{self.move.file}` is there already", "Name another file.")
        if self.module.unknown_stars or self.module.hindrances:
            self.object(at, "what names mean here cannot be followed", "Move the text by hand.")
        if not self.top.has(maker) and maker.name in self.module.names_in_use:
            self.object(at, f"`{maker.name}` means something else here", "Give that another name.")
        used = {"", *(name for module in self.program.modules.values() for name in module.names_in_use)}
        if self.text.symbol is None and self.move.constant in used:
            self.object(at, f"the name `{self.move.constant}` is in use already", "Choose another.")

    def write(self) -> None:
        self.top.bring(self.writer.path_maker)
        value = self.writer.reading_text(self.move.file)
        span = self.text.expression.span if self.text.symbol is not None else self.span_alone
        if self.text.symbol is None:
            self.top.define("".join(map(str, self.writer.variable(self.move.constant, [value]))), span.start)
            value = self.move.constant
        self.rewriting.changes.replace(self.module.path, span, value)
        self.rewriting.beside[self.file] = self.text.text.encode()

    @property
    def span_alone(self) -> Span:
        """The text, with the line breaks around it where it is all that stands in the parentheses of a call."""
        span, text = self.text.expression.span, self.module.source.slice
        call = Surroundings.of(self.module).call_around(self.text.expression)
        calls = call.statement.calls if call is not None and call.statement is not None else []
        inside = next((c.inside for c in calls if call is not None and c.span == call.span), None)
        if inside is None or text(inside).strip() != text(span):
            return span
        return inside


def _by_hand(program: Program, script: Path, given: Given) -> list[TextOut]:
    if not given["line"].isdigit():
        raise UsageError("say on which line the text begins")
    return [TextOut(script, int(given["line"]), given["file"], given["name"] or "")]


MOVE = Description(
    name="text_out",
    place=138,
    summary=(
        "A long text moves into a file beside the code, which is read when the program begins.\n"
        "Refused where the file is there already."
    ),
    term="Externalise Text",
    help="Write the long text that begins on a line into a file, and read it there.",
    parameters=(
        StepParameter("line", Takes.ONE, "LINE"),
        StepParameter("file", Takes.ONE, "FILE"),
        StepParameter("name", Takes.OPTION, "NAME", "What it is read into, where it has no name yet."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="2 texts/rules.txt",
        before='''\
kites = 2
rules = """
Fly no kite in a storm.
Fly no kite at night.
Let the ferry pass.
"""
print(rules, kites)
''',
        after={
            "harbour.py": """\
from pathlib import Path

kites = 2
rules = (Path(__file__).parent / "texts" / "rules.txt").read_text(encoding="utf-8")
print(rules, kites)
""",
        },
    ),
)
