"""Paragraphs of code: what stands under a comment, and what stands between blank lines."""

from __future__ import annotations

from collections.abc import Sequence

from aedifex.design.dividing.loop_body import Job, job_of
from aedifex.design.drafting.naming import is_resource
from aedifex.program.analysis.values import may_change_object
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.layout import Layout


class Paragraphs:
    """Divides statements that stand side by side in one file."""

    def __init__(self, module: Module) -> None:
        self.module = module

    def headed(self, statements: Sequence[Statement]) -> list[list[Statement]]:
        """Statements side by side, divided where a comment stands above one; what has another subject is in none."""
        found: list[list[Statement]] = []
        for statement in statements:
            if Layout.of(self.module).comment_above(statement):
                found.append([statement])
            elif found:
                found[-1].append(statement)
        return [run for run in found if not all(statement.is_text for statement in run)]

    def of_one_subject(self, paragraph: list[Statement]) -> list[Statement]:
        """A paragraph up to the blank line behind which nothing has to do with what it changes, or it with that."""
        first, *others = self.between_blanks(paragraph)
        kept = list(first)
        for group in others:
            is_other = group[0].kind is Kind.UPDATE and not self.has_to_do(kept, group[:1])
            if is_other or self.tells_on(kept, group) or not self.has_to_do(kept, group):
                break
            kept += group
        return kept

    def has_to_do(self, kept: Sequence[Statement], group: Sequence[Statement]) -> bool:
        """Whether some statements mention what others change, or the other way round."""
        is_looked_at = not self.changed(kept).isdisjoint(self.mentioned(group))
        return is_looked_at or not self.changed(group).isdisjoint(self.mentioned(kept))

    def tells_on(self, kept: Sequence[Statement], group: Sequence[Statement]) -> bool:
        """Whether statements only call, each a deed of its own, where those before them do not draw."""
        are_calls = all(statement.kind is Kind.EXPRESSION for statement in group)
        is_drawing = kept[-1].kind is Kind.EXPRESSION and job_of(self.module, kept[-1]) is Job.DRAW
        return are_calls and not is_drawing

    def changed(self, run: Sequence[Statement]) -> set[Symbol]:
        """What a run itself gives values to, or does something with."""
        inside = [r for statement in run for r in self.module.references_within(statement.span)]
        own = (r for r in inside if r.symbol.imported is None and not is_resource(r.symbol))
        return {r.symbol for r in own if r.mode.writes or may_change_object(r, self.module)}

    def mentioned(self, run: Sequence[Statement]) -> set[Symbol]:
        """All names in a run."""
        return {r.symbol for statement in run for r in self.module.references_within(statement.span)}

    def between_blanks(self, statements: Sequence[Statement]) -> list[list[Statement]]:
        """Statements side by side, divided where a blank line stands above one."""
        source = self.module.source
        found: list[list[Statement]] = []
        for statement in statements:
            above = source.line_of(statement.start) - 1
            if not found or not source.line(above).strip():
                found.append([])
            found[-1].append(statement)
        return found
