"""How a file is laid out: which lines and comments belong to a statement, sections, indentation."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.model.module import Comment, Module
from aedifex.program.model.statements import Block, Kind, Statement
from aedifex.source.text import Span

_RULE = re.compile(r"^#*\s*[-=*#~_ ]{2,}|[-=*#~_]{3,}\s*$")
_WORD = re.compile(r"[A-Z]?[a-z]+|[A-Z]+")
_FEW_WORDS = 4
_SHORT_WORD = 2
_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS})
_WHOLES = frozenset("app application example game page program script simulation sketch".split())
_APART = ";"
"""What may stand before a statement to keep it apart from the line above."""
_BLANK_OR_APART = f" \t\f{_APART}"
_ORNAMENT = "#-=*~_ \t:"


@dataclass(frozen=True, slots=True)
class Heading:
    """A section heading: the lines that make it, its words, and whether a rule of dashes or the like sets it off."""

    span: Span
    text: str
    is_ruled: bool


class Layout(Analysis):
    """Answers questions on the layout of one module."""

    def __init__(self, module: Module) -> None:
        self.module = module
        self.source = module.source
        self._sections: dict[Block, list[Heading | None]] = {}
        self._comments = {comment.start: comment for comment in module.comments}
        alone = {self.source.line_of(c.start): c for c in module.comments if c.alone}
        self._alone = {line: comment for line, comment in alone.items() if line > module.header_lines}

    @cached_property
    def indent(self) -> str:
        """One step of indentation, as the file does it; four spaces where it has none."""
        for statement in self.module.walk():
            for block in statement.blocks:
                if block.statements and block.owner is not None:
                    inner = self.margin(block.statements[0])
                    outer = self.margin(statement)
                    if inner.startswith(outer) and len(inner) > len(outer) and inner.isspace():
                        return inner[len(outer) :]
        return self.module.dialect.writer.unit

    def margin(self, statement: Statement) -> str:
        """The white space before a statement on its line; empty when something else stands there."""
        start = self.source.line_start(statement.start)
        text = self.source.slice(Span(start, statement.start)).rstrip(_APART)
        return text if text.isspace() or not text else ""

    def stands_alone(self, statement: Statement) -> bool:
        """Whether no other statement shares its lines."""
        before = self.source.slice(Span(self.source.line_start(statement.start), statement.start))
        end = self.source.line_end(self._last(statement))
        after = self.source.slice(Span(statement.end, end))
        if before.strip(_BLANK_OR_APART):
            return False
        rest = after.lstrip(_BLANK_OR_APART)
        return not rest.strip() or statement.end + len(after[: len(after) - len(rest)].encode()) in self._comments

    def _last(self, statement: Statement) -> int:
        return max(statement.start, statement.end - 1)

    def trailing_comment(self, statement: Statement) -> Comment | None:
        """The comment at the end of the statement's last line."""
        line_end = self.source.line_end(self._last(statement))
        for comment in self.module.comments:
            if statement.end <= comment.start < line_end:
                return comment
        return None

    def gap_before(self, at: int) -> str:
        """The line breaks that a definition put in at an offset needs, to have room enough above it."""
        before = self.source.data[:at].replace(b"\r", b"")
        if not before.strip():
            return ""
        gap = self.module.dialect.writer.gap
        blank = len(before) - len(before.rstrip(b"\n")) - 1
        return "\n" * max(0, gap - max(0, blank))

    @property
    def gap(self) -> str:
        """The line breaks between two definitions at the margin."""
        return "\n" * self.module.dialect.writer.gap

    def lines(self, statement: Statement) -> Span:
        """The whole lines of a statement with the comments that belong to it.

        Those are the comment at its end, the comment lines above it down from the statement before, and the comment
        lines right below it that a blank line parts from what follows.
        """
        return Span(self._start_with_comments(statement), self._end_with_comments(statement))

    def own_lines(self, statement: Statement) -> Span:
        """The whole lines of a statement without the comment lines above and below."""
        return Span(self.source.line_start(statement.start), self.source.line_end(self._last(statement)))

    def end_inside(self, block: Block) -> int:
        """Where the lines of what stands in a block end: above the line that closes it, where one does."""
        last = block.statements[-1]
        if self.source.slice(Span(last.end, block.end)).strip() and block.end > last.end:
            return self.source.line_start(block.end - 1)
        return self.lines(block.owner if block.owner is not None else last).end

    def behind_blank(self, at: int) -> int:
        """Where the first line begins that is not blank, from a line's beginning on; the same at the file's end."""
        line = self.source.line_of(at)
        while line < self.source.line_count and self._is_blank(line):
            line += 1
        return self.source.line_starts[line - 1]

    def is_blank_above(self, at: int) -> bool:
        """Whether the line above that of an offset is blank."""
        line = self.source.line_of(at)
        return line > 1 and self._is_blank(line - 1)

    def _start_with_comments(self, statement: Statement) -> int:
        first = line = self.source.line_of(statement.start)
        floor = self._line_after_previous(statement)
        if statement.block.owner is None and self._is_first(statement):
            floor = self._below_file_header(floor, statement)
        while line - 1 >= floor and (self._is_blank(line - 1) or line - 1 in self._alone):
            line -= 1
            if line in self._alone:
                first = line
        return self.source.line_starts[first - 1]

    def _is_first(self, statement: Statement) -> bool:
        """Whether nothing stands above a top-level statement but what says how the file is to be read."""
        return all(s.kind is Kind.NOTHING for s in statement.block.statements[: statement.index])

    def _below_file_header(self, first: int, statement: Statement) -> int:
        """The first line below the comments that open the file: a blank line parts them from its first statement.

        Without such a line they open the file as well, unless they have a word of a name that the statement sets, and
        none of a variable that is about something else, or for all that the file is.
        """
        line = self.source.line_of(statement.start)
        while first < line and self._is_blank(first):
            first += 1  # what stands above is no part of this text
        blank = [number for number in range(first, line) if self._is_blank(number)]
        if blank:
            return blank[-1] + 1
        said = {
            word for number in range(first, line) if number in self._alone for word in _words(self._alone[number].text)
        }
        named = {word for reference in statement.references if reference.binds for word in _words(reference.name)}
        while line > first and self._is_directive(line - 1):
            line -= 1
        others = [set(_words(symbol.name)) for symbol in self.module.scope.symbols.values() if symbol.bindings]
        is_about_all = any(said & other for other in others if named.isdisjoint(other)) or bool(said & _WHOLES - named)
        is_its_own = bool(said & named) and not is_about_all
        return first if is_its_own or statement.kind in _DEFINING else line

    def _line_after_previous(self, statement: Statement) -> int:
        block = statement.block
        if statement.index > 0:
            end = self._end_with_comments(block.statements[statement.index - 1])
            return self.source.line_of(max(0, end - 1)) + 1
        if block.owner is not None:
            return self.source.line_of(block.owner.start) + 1
        return self.module.header_lines + 1

    def _end_with_comments(self, statement: Statement) -> int:
        end = self.source.line_end(self._last(statement))
        line = self.source.line_of(self._last(statement)) + 1
        start = line
        margin = self.margin(statement)
        while line in self._alone and self.margin_of(line) == margin and not self._is_heading(line):
            line += 1
        if line > start and self._is_blank(line) and line <= self.source.line_count:
            return self.source.line_starts[line - 1]
        return end

    def margin_of(self, line: int) -> str:
        """The white space before the text of a line."""
        text = self.source.line(line)
        return text[: len(text) - len(text.lstrip())]

    def _is_blank(self, line: int) -> bool:
        return not 1 <= line <= self.source.line_count or not self.source.line(line).strip()

    def _is_heading(self, line: int) -> bool:
        return line in self._alone and _RULE.search(self._alone[line].text.rstrip()) is not None

    def _is_directive(self, line: int) -> bool:
        """Whether a comment line speaks to an editor or a tool: no heading, whatever its words."""
        return line in self._alone and self.module.dialect.rules.is_directive(self._alone[line].text)

    def comment_above(self, statement: Statement) -> str:
        """The last comment line right above a statement, without its marks."""
        comment = self._alone.get(self.source.line_of(statement.start) - 1)
        if comment is None or self.module.dialect.rules.is_directive(comment.text):
            return ""
        return comment.text.strip(_ORNAMENT)

    def heading(self, statement: Statement) -> Heading | None:
        """The section heading that stands right above a statement."""
        line = self.source.line_of(statement.start) - 1
        while line >= 1 and self._is_blank(line):
            line -= 1
        last = line
        while line >= 1 and line in self._alone and not self._is_directive(line):
            line -= 1
        lines = range(line + 1, last + 1)
        words = [self._alone[number].text.strip(_ORNAMENT) for number in lines]
        text = " ".join(word for word in words if word)
        is_ruled = any(self._is_heading(number) for number in lines)
        is_apart = self._is_blank(line) or self._is_directive(line)
        is_short = len(lines) == 1 and len(text.split()) <= _FEW_WORDS and is_apart
        if not lines or not (is_ruled or is_short):
            return None
        end = self.source.line_end(self.source.line_starts[last - 1])
        return Heading(Span(self.source.line_starts[line], end), text, is_ruled)

    def section(self, statement: Statement) -> list[Statement]:
        """The statements of the section that a top-level statement stands in."""
        heading = self.section_of(statement)
        headings = self._sections[statement.outermost.block]
        first = last = statement.outermost.index
        while first > 0 and headings[first - 1] is heading:
            first -= 1
        while last + 1 < len(headings) and headings[last + 1] is heading:
            last += 1
        return statement.outermost.block.statements[first : last + 1]

    def section_of(self, statement: Statement) -> Heading | None:
        """The heading of the section that a top-level statement stands in."""
        statement = statement.outermost
        block = statement.block
        if block not in self._sections:
            headings: list[Heading | None] = []
            for each in block.statements:
                headings.append(self.heading(each) or (headings[-1] if headings else None))
            self._sections[block] = headings
        return self._sections[block][statement.index]


def _words(text: str) -> set[str]:
    """The words of a text in small letters, without what makes many of one."""
    return {word.lower().rstrip("s") for word in _WORD.findall(text) if len(word) > _SHORT_WORD}
