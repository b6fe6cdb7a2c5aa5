"""enclose: the body of the routine that is the program comes to the top level; its heading and callers wait.

It is `unfold` for a routine whose name and parameters must stay, as a wrapper, a `try` or another file calls it. `lift`
puts the heading back around two lines, and the callers behind it.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import pairwise
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.description import Description
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import declare_at_top
from aedifex.moves.kit.rewriting import Awaited, Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.enclosed import Enclosed
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.main_function import gives_value
from aedifex.program.structure.whole_routine import WholeRoutine, keeps_doc, whole_routine_of
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span


@dataclass(frozen=True)
class Enclose:
    """Bring the body of the routine that is the program to the top level."""

    name: ClassVar[str] = "enclose"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        whole = whole_routine_of(module)
        if whole is None:
            raise RefusedError(f"{module.path.name} has no routine that is the whole program")
        return _Enclosing(program, module, whole).plan()


def enclosed(program: Program) -> Program:
    """The program with the body of its whole routine at the top level; the same if it has none, or that is refused."""
    module = program.main
    whole = whole_routine_of(module)
    if whole is None:
        return program
    try:
        after = perform(program, Enclose(module.path))
    except RefusedError:
        return program
    taken = _taken_away(module, whole)
    after.main.waiting_names = taken.names
    after.main.answers.clear()  # some were found before it was known that anything waits
    return replace(after, enclosed=taken)


def _given(module: Module, whole: WholeRoutine) -> tuple[tuple[str, str], ...]:
    """A name that nothing has for the value of each parameter that is used."""
    joined, used = module.dialect.naming.joined, module.names_in_use
    symbols = whole.function.scope.symbols
    return tuple(
        (p.name, next(w for n in range(99) if (w := joined("given", p.name, *([str(n)] if n else []))) not in used))
        for p in whole.function.parameters
        if p.name not in symbols or len(symbols[p.name].references) > 1
    )


def _taken_away(module: Module, whole: WholeRoutine) -> Enclosed:
    function, source, layout = whole.function, module.source, Layout.of(module)
    heading = Span(function.statement.start, function.statement.header_end)
    above = Span(layout.lines(function.statement).start, layout.own_lines(function.statement).start)
    text = f"{source.slice(above)}{source.slice(heading)}".strip()
    if keeps_doc(module, function):
        text += f"\n{source.slice(layout.own_lines(function.body.statements[0])).rstrip()}"
    spans = [layout.lines(user) for user in whole.users]
    between = [source.slice(Span(one.end, other.start)) for one, other in pairwise(spans)]
    used = [source.slice(span).removesuffix("\n") for span in spans]
    gaps = [blank if not blank.strip() else "" for blank in [*between, ""]]
    closing = "".join(f"{lines}\n{gap}" for lines, gap in zip(used, gaps, strict=False))
    names = {r.name for r in module.references_within(heading)}
    names |= {r.name for user in whole.users for r in module.references_within(user.span)}
    return Enclosed(
        function.name,
        text,
        closing.lstrip("\n"),
        frozenset(names - {function.name, *(p.name for p in function.parameters)}),
        _given(module, whole),
        gives_value(function),
        function.is_async,
    )


class _Enclosing(Planner):
    def __init__(self, program: Program, module: Module, whole: WholeRoutine) -> None:
        super().__init__(module)
        self.program = program
        self.whole = whole

    def write(self) -> None:
        function = self.whole.function
        data = self.module.source.data
        self.rewriter.insert(len(data), *([] if data.endswith(b"\n") else ["\n"]), *self.body())
        for statement in (function.statement, *self.whole.users):
            self.rewriter.remove(self.layout.lines(statement))
        self.rewriter.drop(self.module.references_within(Span(function.statement.start, function.statement.header_end)))
        for user in self.whole.users:
            self.rewriter.drop(self.module.references_within(user.span))
        declare_at_top(self.rewriter, function.scope)
        for module in self.program.modules.values():
            for reference in (r for r in module.references if r.final is function.symbol):
                if reference not in self.rewriting.dropped:
                    self.rewriting.destinations[reference] = Awaited(reference.name)

    def body(self) -> list[Piece]:
        """The routine's statements, its parameters given to variables before them."""
        function = self.whole.function
        first = function.body.statements[0]
        margin = self.layout.margin(first)
        start, end = self.layout.lines(first).start, self.layout.end_inside(function.body)
        pieces: list[Piece] = []
        given = _given(self.module, self.whole)
        if keeps_doc(self.module, function):
            start = self.layout.own_lines(first).end
        elif function.doc is not None and given:
            behind = self.layout.own_lines(first).end
            pieces += self.rewriter.lines_taken(Span(start, behind), dedent=margin)
            start = behind
        for name, value in given:
            pieces += self.writer.variable(name, [value])
        return pieces + (self.rewriter.lines_taken(Span(start, end), dedent=margin) if start < end else [])


MOVE = Description(
    name="enclose",
    place=2,
    summary=(
        "The body of the routine that is the program comes to the top level; what calls it waits.\n"
        "`lift` puts the routine back, as two lines under its old name."
    ),
    term="",
)
