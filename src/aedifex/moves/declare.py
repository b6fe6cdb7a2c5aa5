"""declare: each name of a script has a declaration of its own, in a language that declares names."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.state import is_state
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span

_COMMA = re.compile(r"\s*,(?P<behind>.*)", re.DOTALL)


@dataclass(frozen=True)
class Declare:
    """Part the declarations of several names, and declare what is set without being declared."""

    name: ClassVar[str] = "declare"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: each name has a declaration of its own, or needs none.
        """
        module = module_of(program, self.path)
        if not is_for_declaring(module):
            raise RefusedError(f"each name of {module.path.name} has a declaration of its own, or needs none")
        return _Declaring(module).plan()


def is_for_declaring(module: Module) -> bool:
    """Whether a script declares several names at once, or sets some that it does not declare."""
    return any(_several(module)) or bool(_undeclared(module)) or any(_going_on(module))


def _several(module: Module) -> Iterator[tuple[Statement, list[Reference]]]:
    """The statements that declare several names, one by one, and what declares each."""
    for statement in module.block.statements:
        if statement.keyword is None or statement.blocks or statement.kind not in (Kind.ASSIGN, Kind.DECLARE):
            continue
        names = [r for r in statement.references if r.declares]
        targets = statement.assignment.targets if statement.assignment is not None else ()
        values = [pair.target for pair in statement.assignment.pairs] if statement.assignment is not None else []
        is_plain = all(r.form is Form.DECLARATION or r in values for r in names)
        if len(names) > 1 and is_plain and (not targets or len(targets) == len(names)):
            yield statement, names


def _undeclared(module: Module) -> list[Symbol]:
    """The variables that are set and that nothing declares, in a language that declares some."""
    if not module.dialect.writer.declares:
        return []
    symbols = [s for s in module.symbols if is_state(s) and not any(r.declares for r in s.references)]
    symbols = [s for s in symbols if s.name not in module.set_elsewhere]
    return [s for s in symbols if s.bindings and not any(r.mode is Mode.DELETE for r in s.references)]


def _going_on(module: Module) -> Iterator[tuple[Statement, str]]:
    """The statements that would go on with the one before, if that had another end, and what keeps them apart."""
    for statement in module.block.statements:
        if statement.kind in (Kind.EXPRESSION, Kind.ASSIGN, Kind.UPDATE):
            apart = module.dialect.writer.beginning(module.source.slice(statement.span)).head
            before = module.source.data[: statement.start].rstrip()
            if apart and not before.endswith(apart.encode()):
                yield statement, apart


class _Declaring(Planner):
    def write(self) -> None:
        for statement, names in _several(self.module):
            self.part(statement, names)
        for statement, apart in _going_on(self.module):
            self.rewriter.insert(statement.start, apart)
        self.declare(_undeclared(self.module))

    # -- several at once

    def part(self, statement: Statement, names: Sequence[Reference]) -> None:
        """A line for each, with the comments that stand beside them."""
        assert statement.keyword is not None
        source, margin = self.module.source, self.layout.margin(statement)
        handing_out = self.dialect.rules.words_handing_out(self.module, statement)
        word = f"{source.slice(handing_out)}{source.slice(statement.keyword)} "
        ends = {p.target: p.value.end for p in statement.assignment.pairs} if statement.assignment is not None else {}
        gaps = [Span(ends.get(one, one.end), other.start) for one, other in pairwise(names)]
        found = [_COMMA.fullmatch(source.slice(gap)) for gap in gaps]
        for gap, match in zip(gaps, found, strict=True):
            if match is None:
                return
            said = " ".join(match["behind"].split())
            text = f"{self.writer.ended('')}{f' {said}' if said else ''}\n{margin}{word}"
            if said.startswith("/*") or "\n" in match["behind"].strip():
                return
            self.rewriting.changes.replace(self.module.path, gap, text)

    # -- none

    def declare(self, symbols: Sequence[Symbol]) -> None:
        """Where a plain statement sets a name first, it declares it; the others are declared at the top."""
        word, first_set = self.writer.declares, [s for s in symbols if self.is_first_set(s.references[0])]
        above = [symbol.name for symbol in symbols if symbol not in first_set]
        first_statement = next((s for s in self.module.block.statements if not self.opens_file(s)), None)
        if above and first_statement is not None:
            lines = [f"{self.writer.ended(f'{word} {name}')}\n" for name in above]
            self.rewriter.insert(self.layout.lines(first_statement).start, *lines, "\n")
        for symbol in first_set:
            self.rewriter.insert(symbol.references[0].start, f"{word} ")

    def opens_file(self, statement: Statement) -> bool:
        return statement.is_text or statement.kind is Kind.IMPORT

    def is_first_set(self, first: Reference) -> bool:
        statement = first.statement
        given = statement.assignment if statement is not None else None
        return (
            statement is not None
            and given is not None
            and statement.kind is Kind.ASSIGN
            and statement.block is self.module.block
            and given.targets == (first.span,)
            and first.start == statement.start
            and not first.path
            and not any(r.symbol is first.symbol for r in statement.references if r is not first)
        )


def _by_hand(program: Program, script: Path, given: Given) -> list[Declare]:
    return [Declare(script)]


MOVE = Description(
    name="declare",
    place=3,
    summary=(
        "Each name has a declaration of its own: several are parted, missing ones are written.\n"
        "Only in languages that declare names; comments stay with what they stand beside."
    ),
    term="Split Declaration",
    help="Give each variable of a script a declaration of its own.",
    make=_by_hand,
    example=Example(
        language="javascript",
        words="",
        before="""\
let ferryX = 3, ferryLoad = []; // the ferry
tide = 0;

function rise() {
  tide += ferryX;
}

rise();
console.log(tide, ferryLoad);
""",
        after={
            "harbour.js": """\
let ferryX = 3;
let ferryLoad = []; // the ferry
let tide = 0;

function rise() {
  tide += ferryX;
}

rise();
console.log(tide, ferryLoad);
"""
        },
    ),
)
