"""Short ways to read a text, to make a move, and to run a program."""

from __future__ import annotations

from pathlib import Path
from textwrap import dedent

from aedifex.construction.build import build
from aedifex.construction.output import new_files
from aedifex.construction.propose import propose
from aedifex.languages.python import DIALECT
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.move import Move
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.reading import read_program
from aedifex.source.text import SourceText

SCRIPT = Path("script.py")


def program_of(text: str, **others: str) -> Program:
    """A program of one script, and of other files by their names without suffix."""
    sources = [SourceText(SCRIPT, dedent(text).encode())]
    sources += [SourceText(Path(f"{name}.py"), dedent(other).encode()) for name, other in others.items()]
    return read_program(sources, DIALECT)


def module_of(text: str) -> Module:
    """The model of one text."""
    return program_of(text).main


def moved(text: str, *moves: Move) -> dict[str, str]:
    """The texts, by file name, after some moves on a script."""
    program = program_of(text)
    for move in moves:
        program = perform(program, move)
    return {path.name: module.source.data.decode() for path, module in program.modules.items()}


def written(text: str) -> str:
    """All that a draft of a script is built into, as one text."""
    program = program_of(text)
    files = new_files(program, build(program, propose(program)))
    return "".join(data.decode() for data in files.values())


def printed(text: str) -> str:
    """What a text prints when it is run."""
    import contextlib
    import io

    out = io.StringIO()
    with contextlib.redirect_stdout(out):
        exec(compile(dedent(text), "script.py", "exec"), {"__name__": "__main__"})
    return out.getvalue()
