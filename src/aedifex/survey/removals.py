"""Where code takes an object out of the container that holds it, if it is so."""

from __future__ import annotations

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.values import given_values
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode
from aedifex.program.model.statements import Block, Kind, Role
from aedifex.survey.questions import ORDERING, Question


class Removals(Analysis):
    """Tells the decisions on which an object goes."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        tests = (tree for tree in Holdings.of(module).trees if tree.sense is Sense.TEST)
        self.conditions = {part for test in tests for part in test.parts}

    def on(self, question: Question) -> bool:
        """Whether a decision is all that a branch asks, and the object goes there because it has come to some limit."""
        if question.parameters or not _asks_for_limits(question.expression):
            return False
        block = self._branch(question)
        use = question.uses[0].reference
        if block is None or use is None or question.uses[0].sense is not Sense.NAME:
            return False
        slice_of = self.module.source.slice
        places = {slice_of(value.span) for value in given_values(use.symbol)}
        for statement in block.statements:
            for reference in statement.references:
                if reference.path_mode is Mode.DELETE and slice_of(reference.reach) in places:
                    return True
            for call in statement.calls:
                method = call.callee.path[-1].name if call.callee is not None and call.callee.path else None
                takes_out = method and self.module.dialect.library.handling_by_method(method) is Handling.COMPARES
                if takes_out and [slice_of(argument.span) for argument in call.arguments] == [use.name]:
                    return True
        return False

    def _branch(self, question: Question) -> Block | None:
        """The block that runs if the answer is yes."""
        expression, statement = question.expression, question.expression.statement
        if statement is None or statement.kind is not Kind.BRANCH or expression not in self.conditions:
            return None
        blocks = [b for b in statement.blocks if b.role is not Role.OTHERWISE and b.statements]
        return next((block for block in blocks if block.start >= expression.end), None)


def _asks_for_limits(expression: Expression) -> bool:
    """Whether an expression compares by order, or says that one of several such comparisons holds, or all."""
    if expression.sense is Sense.EITHER:
        return all(_asks_for_limits(part) for part in expression.parts)
    return expression.operator in ORDERING
