"""What declared types say of things that become objects of a class."""

from __future__ import annotations

from collections.abc import Iterator

from aedifex.moves.kit.rewriter import Rewriter
from aedifex.program.analysis.holding.holding import Holding
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference
from aedifex.program.model.statements import Statement
from aedifex.source.text import Span

_DEEPEST = 2


class Retyping:
    """Declares what holds things of a kind, or containers of them, as holding objects of a class."""

    def __init__(self, module: Module, rewriter: Rewriter, holding: Holding) -> None:
        self.module = module
        self.rewriter = rewriter
        self.holding = holding
        self.holdings = Holdings.of(module)

    def write(self, class_name: str, made_at: int, *, without: Span | None = None) -> None:
        """Write the declarations anew, but for one that goes; above where the class stands it is named in quotes."""
        changes, writer = self.rewriter.rewriting.changes, self.module.dialect.writer
        gone: list[Reference] = []
        found = {declared: depth for declared, depth in self.declarations() if declared != without}
        for declared, depth in found.items():
            place = writer.place_of_type(self.module.source.slice(declared), depth)
            if place is None:
                continue
            span = Span(declared.start + place[0], declared.start + place[1])
            said = self.module.references_within(span)
            is_quoted = any(reference.form is Form.QUOTED for reference in said)
            is_known = is_quoted or made_at <= span.start or self.module.postpones_annotations
            if is_known or self.rewriter.quote_type(declared):
                changes.replace(self.module.path, span, class_name)
                gone += said
        self.rewriter.drop(gone)
        self.rewriter.forget_imports([*gone, *self.rewriter.type_names(without)])

    def declarations(self) -> Iterator[tuple[Span, int]]:
        """The types that are declared for such things, each with the number of containers around one."""
        for function in self.module.all_functions:
            for parameter in function.parameters:
                depth = self.depth(self.holdings.of_symbol(parameter.reference.symbol))
                if parameter.annotation is not None and depth is not None:
                    yield parameter.annotation, depth
        for tree in Surroundings.of(self.module).trees:
            if tree.sense is Sense.RETURN and tree.parts:
                around = self.holdings.routine_around(tree.start)
                depth = self.depth(self.holdings.of_expression(tree.parts[0]))
                if around is not None and around.result_type is not None and depth is not None:
                    yield around.result_type, depth
        for statement in self.module.walk():
            yield from self.declared_by(statement)

    def declared_by(self, statement: Statement) -> Iterator[tuple[Span, int]]:
        """What a statement declares of the variable that it sets."""
        assignment = statement.assignment
        if assignment is None or assignment.annotation is None:
            return
        for pair in assignment.pairs:
            depth = self.depth(self.holdings.of_symbol(pair.target.symbol))
            if depth is not None and not pair.target.path:
                yield assignment.annotation, depth

    def depth(self, holding: Holding) -> int | None:
        """How many containers deep such a thing is held; None where none is."""
        held: Holding | None = holding
        for depth in range(_DEEPEST + 1):
            if held is None:
                return None
            if held.now is self.holding.now:
                return depth
            held = held.now.element
        return None
