"""Building programs of JavaScript in memory."""

from __future__ import annotations

from pathlib import Path

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.languages.javascript import DIALECT
from aedifex.program.model.program import Program
from aedifex.program.reading import read_program
from aedifex.source.errors import RefusedError, UnreadableError
from aedifex.source.text import SourceText


def program_of(text: str, name: str = "harbour.js") -> Program:
    """A program of one file."""
    source = DIALECT.files.opened(SourceText(Path(name), text.encode()))
    return read_program([source], DIALECT)


def built(text: str, name: str = "harbour.js") -> str:
    """What a script becomes, behind the files that it is given."""
    program = program_of(text, name)
    after = build(program, propose(program)).program
    beside = [module for path, module in after.modules.items() if path not in program.modules]
    return "".join(module.source.encode().decode() for module in (*beside, after.main))


def doubts(text: str) -> list[str]:
    """What the draft of a script is not sure of."""
    return propose(program_of(text)).doubts


def refusal(text: str, name: str = "harbour.js") -> str:
    """Why a script is not built; empty where it is."""
    try:
        built(text, name)
    except (RefusedError, UnreadableError) as error:
        return error.reason
    return ""
