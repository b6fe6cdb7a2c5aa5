"""With what a variable is used, where comments divide long code into paragraphs."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from aedifex.design.dividing.paragraphs import Paragraphs
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.statements import Statement


class Beside:
    """What some variables of a module are used with."""

    def __init__(self, module: Module, variables: Collection[Symbol]) -> None:
        self.module = module
        self.variables = set(variables)
        self.paragraphs = Paragraphs(module)

    def is_only_with(self, variable: Symbol, others: Collection[Symbol]) -> bool:
        """Whether each use of a variable stands in a paragraph in which some others are used, and no more of them."""
        uses = [reference for reference in variable.references if reference.scope is not self.module.scope]
        paragraphs = [self._paragraph_around(use) for use in uses]
        return bool(uses) and all(self._is_about(paragraph, variable, others) for paragraph in paragraphs)

    def _is_about(self, paragraph: Sequence[Statement], variable: Symbol, others: Collection[Symbol]) -> bool:
        used = {r.symbol for statement in paragraph for r in self.module.references_within(statement.span)}
        beside = (used & self.variables) - {variable}
        return bool(beside) and beside <= set(others)

    def _paragraph_around(self, reference: Reference) -> Sequence[Statement]:
        """The statements under one comment around a reference, in the innermost block that comments divide."""
        statement = reference.statement
        while statement is not None:
            paragraphs = self.paragraphs.headed(statement.block.statements)
            if len(paragraphs) > 1:
                return next((each for each in paragraphs if statement in each), ())
            statement = statement.block.owner
        return ()
