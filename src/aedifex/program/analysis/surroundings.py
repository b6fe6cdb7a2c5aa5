"""What stands around an expression."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference
from aedifex.program.model.statements import Block, Kind, Role, Statement
from aedifex.source.text import Span


class Surroundings(Analysis):
    """The expression around each expression of a file, and the one that each name is."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.trees = list(module.dialect.files.expressions(module))
        self._around: dict[Expression, Expression] = {}
        self._named: dict[Reference, Expression] = {}
        for tree in self.trees:
            for expression in tree.walk():
                for part in expression.parts:
                    self._around[part] = expression
                if expression.reference is not None:
                    self._named[expression.reference] = expression

    @cached_property
    def by_statement(self) -> Mapping[Statement | None, list[Expression]]:
        """The expressions of each statement; none for one that has none."""
        found: dict[Statement | None, list[Expression]] = defaultdict(list)
        for tree in self.trees:
            found[tree.statement].append(tree)
        return found

    def conditions(self, statement: Statement) -> list[Expression]:
        """What a choice or a loop asks, in the order of the text."""
        return [tree.parts[0] for tree in self.by_statement.get(statement, ()) if tree.sense is Sense.TEST]

    def cases(self, statement: Statement) -> list[tuple[Block, Expression]]:
        """The branches of a choice that have a condition, each with its own."""
        blocks = [block for block in statement.blocks if block.role is not Role.OTHERWISE]
        asked = self.conditions(statement) if statement.kind is Kind.BRANCH else []
        return list(zip(blocks, asked, strict=True)) if len(asked) == len(blocks) else []

    @cached_property
    def by_span(self) -> Mapping[Span, Expression]:
        """The expressions by where they stand; of several in one place the innermost."""
        return {expression.span: expression for tree in self.trees for expression in tree.walk()}

    def around(self, expression: Expression) -> Expression | None:
        """What an expression is a part of; None for a whole statement's."""
        return self._around.get(expression)

    def call_around(self, expression: Expression) -> Expression | None:
        """The call that is given an expression, as it stands or as part of what is worked out for it."""
        around = self.around(expression)
        call = around if around is None or around.sense is Sense.CALL else self.around(around)
        return call if call is not None and call.sense is Sense.CALL else None

    def is_called(self, expression: Expression) -> bool:
        """Whether an expression is what a call calls."""
        around = self.around(expression)
        return around is not None and around.sense is Sense.CALL and around.parts[0] is expression

    def method_call(self, expression: Expression | None) -> Expression | None:
        """The call of a method of what an expression gives; None where no such is called."""
        member = self.around(expression) if expression is not None else None
        is_method = member is not None and member.sense is Sense.MEMBER and self.is_called(member)
        return self.around(member) if member is not None and is_method else None

    def of_reference(self, reference: Reference) -> Expression | None:
        """The name that a reference is."""
        return self._named.get(reference)
