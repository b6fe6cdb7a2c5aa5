"""The text of statements without what says nothing to the language: their margin and their comments."""

from __future__ import annotations

from collections.abc import Sequence

from aedifex.program.analysis.cached import Analysis
from aedifex.program.model.module import Comment, Module
from aedifex.program.model.statements import Statement
from aedifex.source.text import Span


class PlainText(Analysis):
    """Tells the text of a statement as it would be at the margin, without comments."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self._known: dict[Statement, str] = {}

    def of_statement(self, statement: Statement) -> str:
        """The text; empty for a statement that shares its first line with something else."""
        if statement not in self._known:
            self._known[statement] = self.with_marks(statement, [])
        return self._known[statement]

    def comments(self, statement: Statement) -> list[Comment]:
        """The comments inside a statement, and behind it on its last line."""
        source = self.module.source
        end = source.line_end(max(statement.start, statement.end - 1))
        return [comment for comment in self.module.comments if statement.start <= comment.start < end]

    def with_marks(self, statement: Statement, marks: Sequence[tuple[Span, str]]) -> str:
        """The text with other words at some places of the statement, which do not overlap."""
        source = self.module.source
        margin = source.slice(Span(source.line_start(statement.start), statement.start))
        if margin.strip():
            return ""
        comments = [comment.span for comment in self.comments(statement) if comment.start < statement.end]
        pieces: list[str] = []
        at = statement.start
        for span, word in sorted([*marks, *((span, "") for span in comments)]):
            pieces += [source.slice(Span(at, span.start)), word]
            at = span.end
        text = "".join([*pieces, source.slice(Span(at, statement.end))]).replace(f"\n{margin}", "\n")
        return "\n".join(line.rstrip() for line in text.split("\n") if line.strip()) if comments else text
