"""Long texts that are written out in a file."""

from __future__ import annotations

from dataclasses import dataclass

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol

LONG_TEXT = 4
"""A text of so many lines, or more, is long."""


@dataclass(frozen=True, eq=False)
class LongText:
    """A text of several lines: where it stands, what it says, and the variable of the module that is given just it."""

    module: Module
    expression: Expression
    text: str
    symbol: Symbol | None

    @property
    def line(self) -> int:
        """The line on which it begins."""
        return self.module.source.line_of(self.expression.start)


def long_texts(module: Module) -> list[LongText]:
    """The long texts of a file, but for those that describe it, in the order of the text."""
    found: list[LongText] = []
    for tree in Surroundings.of(module).trees:
        if tree.sense is Sense.ALONE and tree.parts[0].sense is Sense.CONSTANT:
            continue
        for expression in tree.walk():
            if expression.sense is not Sense.CONSTANT or expression.statement is None:
                continue
            literal = module.source.slice(expression.span)
            if literal.count("\n") < LONG_TEXT - 1 or module.echo_at(expression.start) is not None:
                continue
            text = module.dialect.writer.text_value(literal)
            if text is not None:
                found.append(LongText(module, expression, text, _given_to(tree, expression)))
    return sorted(found, key=lambda text: text.expression.start)


def _given_to(tree: Expression, expression: Expression) -> Symbol | None:
    """The variable of the module that an assignment at the top level gives just this."""
    statement, target = tree.statement, tree.parts[0] if tree.parts else None
    if tree.sense is not Sense.SET or len(tree.parts) != 2 or tree.parts[1] is not expression or statement is None:
        return None
    reference = target.reference if target is not None and target.sense is Sense.NAME else None
    is_top = statement.block.owner is None and statement.block.routine is None
    return reference.symbol if reference is not None and is_top and len(reference.symbol.bindings) == 1 else None
