"""The script of a page, as a text of its own: at the margin, on the lines that it has in the page.

Where several are written in a page, it is the longest: the others are mostly there to count visitors.
"""

from __future__ import annotations

from functools import cached_property

from aedifex.languages.javascript import pages
from aedifex.languages.javascript.reader.grammar import GRAMMAR
from aedifex.languages.tree.grammar import below
from aedifex.source.text import SourceText, Span

_BLANKS = b" \t"
_REMARK = b"//"


class PageCode:
    """A page around its script.

    `code` is the script with empty lines for what stands above it in the page, and without the white space that all
    its lines begin with; `around` puts the text that it has become back into the page.
    """

    def __init__(self, page: bytes, script: Span) -> None:
        self.page = page
        self.script = script

    @cached_property
    def code(self) -> bytes:
        """The script as a text of its own."""
        fixed = _lines_inside_texts(self._lines)
        lines = [
            line if number in fixed else line.removeprefix(self.margin).lstrip(_BLANKS if not line.strip() else b"")
            for number, line in enumerate(self._lines)
        ]
        return b"\n" * self.page.count(b"\n", 0, self._begin) + b"\n".join(lines).rstrip() + b"\n"

    @cached_property
    def beside(self) -> bytes:
        """The other scripts of the page, on the lines where they are, one behind the other."""
        own = bytes(32 if byte != 10 else byte for byte in self.page[self.script.start : self.script.end])
        return pages.code_of(self.page[: self.script.start] + own + self.page[self.script.end :])

    @property
    def _begin(self) -> int:
        """Where the script begins: with its first line, unless that is the one of the element."""
        text = self.page[self.script.start : self.script.end]
        first, newline, _ = text.partition(b"\n")
        return self.script.start + len(first) + 1 if newline and not first.strip() else self.script.start

    @cached_property
    def _lines(self) -> list[bytes]:
        return self.page[self._begin : self.script.end].rstrip().replace(b"\r", b"").split(b"\n")

    @cached_property
    def margin(self) -> bytes:
        """The white space that all lines of the script begin with; code that was put out of use at the edge is none."""
        fixed = _lines_inside_texts(self._lines)
        lines = [line for n, line in enumerate(self._lines) if line.strip() and n not in fixed]
        lines = [line for line in lines if not line.startswith(_REMARK)] or lines
        margins = [line[: len(line) - len(line.lstrip(_BLANKS))] for line in lines]
        first = margins[0] if margins else b""
        while first and not all(margin.startswith(first) for margin in margins):
            first = first[:-1]
        return first

    def with_text(self, at: int, text: bytes) -> PageCode:
        """The page with a text put in at an offset outside of its script."""
        page = self.page[:at] + text + self.page[at:]
        more = len(text) if at <= self.script.start else 0
        return PageCode(page, Span(self.script.start + more, self.script.end + more))

    def around(self, code: bytes) -> bytes:
        """The page with another text in the place of its script."""
        if code == self.code:
            return self.page
        lines = code.replace(b"\r", b"").strip(b"\n").rstrip().split(b"\n")
        fixed = _lines_inside_texts(lines)
        text = b"\n".join(
            line if number in fixed or not line.strip() else self.margin + line for number, line in enumerate(lines)
        )
        whole = self.page[self._begin : self.script.end]
        behind = whole[len(whole.rstrip()) :]
        newline = b"\r\n" if b"\r\n" in self.page else b"\n"
        return self.page[: self._begin] + text.replace(b"\n", newline) + behind + self.page[self.script.end :]


def opened(source: SourceText) -> SourceText:
    """The text of a page's script, which knows the page around it; any other text as it is."""
    if not pages.is_page(source.path):
        return source
    scripts = pages.inline_scripts(source.data)
    if not scripts:
        return source
    page = PageCode(source.data, max(scripts, key=lambda script: script.end - script.start))
    return SourceText(source.path, page.code, source.encoding, source.mark, page)


def page_of(source: SourceText) -> bytes:
    """The page that a text stands in, or is."""
    return source.within.page if isinstance(source.within, PageCode) else source.parse_view


def code_of(source: SourceText) -> bytes:
    """The JavaScript of a file: all of a script, and of a page what stands in its script elements."""
    is_whole = source.within is not None or not pages.is_page(source.path)
    return source.parse_view if is_whole else pages.code_of(source.parse_view)


def code_of_text(data: bytes) -> bytes:
    """The JavaScript of a text: of a page, which begins with an element, what stands in its scripts."""
    return pages.code_of(data) if data.lstrip().startswith(b"<") else data


def _lines_inside_texts(lines: list[bytes]) -> set[int]:
    """The numbers of the lines that begin inside a text."""
    root = GRAMMAR.parse(b"\n".join(lines)).root_node
    return {
        number
        for node in below(root)
        if node.type in ("template_string", "string")
        for number in range(node.start_point[0] + 1, node.end_point[0] + 1)
    }
