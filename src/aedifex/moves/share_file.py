"""share_file: what functions each read from a file or write to it stands in one place."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path, PurePath
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Statement
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.kinds.file_uses import FileUse, file_uses, heading_of
from aedifex.survey.words import words_of

_THING = "data"
_FILE = "file"


@dataclass(frozen=True)
class ShareFile:
    """Let functions of their own read and write the file that `opened` says, as it is written there."""

    name: ClassVar[str] = "share_file"

    path: Path
    opened: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: no functions open that file only to read it, or to write one thing to it.
        """
        module = module_of(program, self.path)
        groups = file_uses(module).get(self.opened)
        if groups is not None:
            return _Sharing(module, self.opened, groups).plan()
        raise RefusedError(
            f"no functions of {module.path.name} open {self.opened} in the same way, to read it or to write one thing",
            advice="Each must do so in two lines of its own: the heading, and what is read or written.",
        )


class _Sharing(Planner):
    def __init__(self, module: Module, opened: str, groups: list[list[FileUse]]) -> None:
        super().__init__(module)
        self.opened = opened
        self.groups = groups
        written = self.writer.text_value(opened)
        words = [word for word in words_of(PurePath(written).stem if written else opened) if word.isalpha()]
        named = [word for word in words if word != _FILE]
        self.thing = self.dialect.naming.member_name(named or [_THING])
        self.constant = opened if written is None else self.dialect.naming.constant_name([*words_of(self.thing), _FILE])

    def find_objections(self) -> None:
        first = self.groups[0][0].statement
        wanted = [self.function(group[0]) for group in self.groups]
        wanted += [self.constant] if self.constant != self.opened else []
        for name in wanted:
            if name in self.module.names_in_use or not self.dialect.rules.is_name(name):
                self.object(first.start, f"the name `{name}` is in use already", "Rename what has it.")
        for reference in self.module.references_within(self.groups[0][0].opened):
            setting = next((b.statement for b in reference.symbol.bindings), None)
            if setting is None or setting.start > self.place.start:
                self.object(reference.start, f"`{reference.name}` is set below the first function", "Set it above.")

    def function(self, use: FileUse) -> str:
        """What the function is called that does what a statement does."""
        return self.dialect.naming.joined("load" if use.reads else "save", self.thing)

    @property
    def place(self) -> Statement:
        """The first definition of the script."""
        return next(s for s in self.module.block.statements if s.kind in (Kind.ROUTINE, Kind.CLASS))

    def write(self) -> None:
        for group in self.groups:
            for use in group:
                self.write_call(use)
        at, gap = self.layout.lines(self.place).start, self.layout.gap
        pieces: list[Piece] = [self.layout.gap_before(at)]
        if self.constant != self.opened:
            pieces += [*self.writer.variable(self.constant, [self.opened]), gap]
        for group in sorted(self.groups, key=lambda group: not group[0].reads):
            pieces += [*self.definition(group[0]), gap]
        self.rewriter.insert(at, *pieces)

    def write_call(self, use: FileUse) -> None:
        """The call in place of a statement: what it writes is given, what it reads gets its name or goes back."""
        changes, path, whole = self.rewriting.changes, self.module.path, use.statement.span
        call = self.writer.call(self.function(use), [])
        if use.given is not None:
            changes.replace(path, Span(whole.start, use.given.start), call[:-1])
            changes.replace(path, Span(use.given.end, whole.end), call[-1])
        elif use.target is not None:
            changes.replace(path, whole, self.writer.result([use.target.name], call))
        else:
            changes.replace(path, whole, *self.writer.returning([call]))
        self.rewriter.drop(r for r in self.module.references_within(whole) if r is not use.given)

    def definition(self, use: FileUse) -> list[Piece]:
        """The function that does what a statement does."""
        unit = self.layout.indent
        signature = self.thing if use.given is not None else ""
        frame = self.writer.function_frame(self.function(use), signature)
        head = self.text(heading_of(self.module, use.statement), use)
        deed = self.text(use.deed, use)
        body = deed if use.given is not None else "".join(map(str, self.writer.returning([deed])))
        return [frame.head, f"{unit}{head}\n{unit * 2}{body.rstrip()}\n", frame.tail]

    def text(self, part: Span, use: FileUse) -> str:
        """A part of a statement with the names that hold in the function."""
        named = {use.opened: self.constant}
        named |= {use.given.span: self.thing} if use.given is not None else {}
        return self.module.source.slice_with(part, named)


def _by_hand(_program: Program, script: Path, given: Given) -> list[ShareFile]:
    return [ShareFile(script, given["file"])]


MOVE = Description(
    name="share_file",
    place=3,
    summary=(
        "What functions each read from a file or write to it stands in one place.\n"
        "Refused where they do so in different ways, or more is done while it is open."
    ),
    term="Extract Function",
    help="Read and write a file in one place.",
    parameters=(StepParameter("file", Takes.ONE, "FILE"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="LOG",
        before="""\
LOG = "gauge.txt"


def note(rain):
    line = f"{rain} mm"
    with open(LOG, "w") as file:
        file.write(line)


def show():
    with open(LOG) as file:
        text = file.read()
    print(text)


def count():
    with open(LOG) as f:
        return f.read()


note(4)
show()
print(len(count()))
""",
        after={
            "harbour.py": """\
LOG = "gauge.txt"


def load_log():
    with open(LOG) as file:
        return file.read()


def save_log(log):
    with open(LOG, "w") as file:
        file.write(log)


def note(rain):
    line = f"{rain} mm"
    save_log(line)


def show():
    text = load_log()
    print(text)


def count():
    return load_log()


note(4)
show()
print(len(count()))
""",
        },
    ),
)
