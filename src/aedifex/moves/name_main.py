"""name_main: the nameless function that is the whole program gets a name, and is called or handed on by that."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Block, Call, Kind, Lambda, Statement
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.main_function import holds_state
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span

_LATER = ("start", "begin", "play", "open")
_NOTHING = re.compile(r"(?:[\s();!+~-]|void\b)*")


@dataclass(frozen=True)
class NameMain:
    """Write the one statement of a script, and the function without a name in it, as a function and its use."""

    name: ClassVar[str] = "name_main"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: the script is no such statement.
        """
        module = module_of(program, self.path)
        found = nameless_main(module)
        if found is None:
            raise RefusedError(f"{module.path.name} is not one function without a name")
        statement, routine, body = found
        return _Naming(module, statement, routine, body).plan()


def nameless_main(module: Module) -> tuple[Statement, Lambda, Block] | None:
    """The one statement that a script is, and the nameless function in it that is the whole program."""
    main = MainCode.of(module)
    if len(main.statements) != 1 or any(s.kind in (Kind.ROUTINE, Kind.CLASS) for s in main.staying):
        return None
    statement = main.statements[0]
    inside = [r for r in module.routines if isinstance(r, Lambda) and r.statement is statement and r.body is not None]
    outer = [r for r in inside if not any(r.scope is not o.scope and r.scope.within(o.scope) for o in inside)]
    if len(outer) != 1 or not holds_state(outer[0]) or statement.kind not in (Kind.EXPRESSION, Kind.ASSIGN):
        return None
    declares = any(r.declares and r.symbol.scope is module.scope for r in statement.references)
    is_plain = not (declares or outer[0].is_async or outer[0].is_generator)
    body = outer[0].body
    return (statement, outer[0], body) if is_plain and body is not None and body.statements else None


class _Naming(Planner):
    def __init__(self, module: Module, statement: Statement, routine: Lambda, body: Block) -> None:
        super().__init__(module)
        self.statement = statement
        self.routine = routine
        self.body = body

    @cached_property
    def call(self) -> Call | None:
        """The call of the function, where the statement is nothing else."""
        scope, deed, slice_of = self.routine.scope, self.statement.deed, self.module.source.slice
        for call in self.statement.calls:
            if call.callee is None and call.inside is not None and call.inside.start > scope.end:
                around = (Span(deed.start, scope.start), Span(scope.end, call.inside.start), Span(call.end, deed.end))
                if all(_NOTHING.fullmatch(slice_of(span)) for span in around):
                    return call
        return None

    @cached_property
    def name(self) -> str:
        """What people start programs with, or what starts this one: the first such name that is free."""
        wishes = (*([self.dialect.rules.entry] if self.call is not None else []), *_LATER)
        return next((name for name in wishes if name not in self.module.names_in_use), wishes[0])

    def find_objections(self) -> None:
        at = self.statement.start
        if self.name in self.module.names_in_use:
            self.object(at, f"the name `{self.name}` is in use already", "Rename it.")
        if not self.layout.stands_alone(self.body.statements[0]):
            self.object(at, "the function begins on the line of its heading", "Break the line.")

    def write(self) -> None:
        first, path = self.body.statements[0], self.module.path
        lines = Span(self.layout.lines(first).start, self.layout.end_inside(self.body))
        frame = self.writer.function_frame(self.name, "")
        opening, _, behind = frame.head.rpartition(")")
        taken = self.rewriter.lines_taken(lines, self.layout.margin(first), self.layout.indent)
        signature = self.rewriter.taken(self.routine.signature)
        pieces: list[Piece] = [opening, signature, f"){behind}", *taken, frame.tail, self.layout.gap]
        if self.call is not None and self.call.inside is not None:
            given = self.rewriter.taken(self.call.inside)
            self.rewriting.changes.replace(path, self.statement.deed, *pieces, f"{self.name}(", given, ")")
            return
        scope = self.routine.scope
        self.rewriter.insert(self.statement.start, *pieces)
        self.rewriting.changes.replace(path, Span(scope.start, scope.end), self.name)


def _by_hand(program: Program, script: Path, given: Given) -> list[NameMain]:
    return [NameMain(script)]


MOVE = Description(
    name="name_main",
    place=1,
    summary=(
        "The nameless function that is the whole program gets a name, and is used by that.\n"
        "`unfold` or `enclose` then bring what is in it to the top level."
    ),
    term="Replace Anonymous Function with Named Function",
    help="Give the function without a name that is the whole program a name.",
    make=_by_hand,
    example=Example(
        language="javascript",
        words="",
        before="""\
(function () {
  let tide = 0;

  function rise() {
    tide += 1;
  }

  rise();
  console.log(tide);
})();
""",
        after={
            "harbour.js": """\
function main() {
  let tide = 0;

  function rise() {
    tide += 1;
  }

  rise();
  console.log(tide);
}

main();
"""
        },
    ),
)
