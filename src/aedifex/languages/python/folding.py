"""Breaking a line that has grown too long, as the style guide breaks it: inside brackets, at commas or operators."""

from __future__ import annotations

import ast
import io
import tokenize
from collections.abc import Collection, Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import chain
from typing import NamedTuple

from aedifex.program.dialect.writer import Break

_OPEN = frozenset("([{")
_CLOSE = frozenset(")]}")
_ASKING = frozenset({"if", "elif", "while"})
_JOINING = frozenset({"and", "or"})
_LEVELS: tuple[frozenset[str], ...] = (
    frozenset({"for"}),
    frozenset({"if", "else"}),
    frozenset({"or"}),
    frozenset({"and"}),
    frozenset({"+", "-", "%"}),
)
"""Where a long expression is broken that has no commas, in this order: always before the word."""

_NOT_TOKENS = frozenset({tokenize.NL, tokenize.NEWLINE, tokenize.INDENT, tokenize.DEDENT, tokenize.ENDMARKER})
_UNPRINTED = frozenset({tokenize.COMMENT, *_NOT_TOKENS})


class _Token(NamedTuple):
    """A token of one line: its text, and where it begins and ends in characters of the line."""

    text: str
    start: int
    end: int


class _Line(NamedTuple):
    """The tokens of a line, and whether they are a statement by themselves."""

    number: int
    tokens: Sequence[_Token]
    is_statement: bool


@dataclass(frozen=True, slots=True)
class _Style:
    width: int
    unit: str


def breaks(text: str, lines: Collection[int], width: int, unit: str) -> list[Break]:
    """How the lines with these numbers can be broken, so that they fit a width in characters where that is possible.

    A line that is part of a longer text, or that has brackets open at its end, stays. The syntax tree is the same.
    """
    rows = text.split("\n")
    starts = [0]
    for row in rows:
        starts.append(starts[-1] + len(row.encode()) + 1)
    found: list[list[Break]] = []
    for line in _whole_lines(text, lines):
        row, at = rows[line.number - 1], starts[line.number - 1]
        margin = row[: len(row) - len(row.lstrip())]
        found.append([])
        for start, end, new in _merged(_Folder(line, _Style(width, unit)).of_line(margin)):
            before = at + len(row[:start].encode())
            found[-1].append(Break(before, before + len(row[start:end].encode()), new))
    together = list(chain.from_iterable(found))
    if _is_same(text, together):
        return together
    return list(chain.from_iterable(each for each in found if _is_same(text, each)))


def _merged(found: Iterable[Break]) -> list[Break]:
    """The breaks with those at one place as one."""
    by_start: dict[int, Break] = {}
    for start, end, text in found:
        before = by_start.get(start, Break(start, end, ""))
        by_start[start] = Break(start, max(before.end, end), before.text + text)
    return list(by_start.values())


def _is_same(text: str, found: Sequence[Break]) -> bool:
    data = text.encode()
    for start, end, new in sorted(found, reverse=True):
        data = data[:start] + new.encode() + data[end:]
    try:
        return ast.dump(ast.parse(text)) == ast.dump(ast.parse(data))
    except SyntaxError:
        return False


def _whole_lines(text: str, lines: Collection[int]) -> Iterator[_Line]:
    """Those lines that hold whole tokens and close all brackets that they open."""
    by_line: dict[int, list[_Token]] = {number: [] for number in lines}
    torn: set[int] = set()
    begun: dict[int, bool] = {}
    ended: set[int] = set()
    depth = opaque = 0
    first = (0, 0)
    for token in tokenize.generate_tokens(io.StringIO(text).readline):
        kind, line = tokenize.tok_name[token.type], token.start[0]
        if kind.endswith("STRING_START"):
            opaque += 1
            first = token.start if opaque == 1 else first
        if kind.endswith("STRING_END"):
            opaque -= 1
            if opaque == 0:
                _put(by_line, torn, first, token.end, "''")
        elif not opaque and token.type not in _UNPRINTED:
            begun.setdefault(line, depth == 0)
            depth += (token.string in _OPEN) - (token.string in _CLOSE)
            _put(by_line, torn, token.start, token.end, token.string)
        if token.type == tokenize.NEWLINE:
            ended.add(line)
    for number, tokens in sorted(by_line.items()):
        if number not in torn and tokens and _is_balanced(tokens):
            yield _Line(number, tokens, begun[number] and number in ended)


def _is_balanced(tokens: Sequence[_Token]) -> bool:
    depth = [0]
    for token in tokens:
        depth.append(depth[-1] + (token.text in _OPEN) - (token.text in _CLOSE))
    return min(depth) == 0 and depth[-1] == 0


def _put(
    by_line: dict[int, list[_Token]], torn: set[int], start: tuple[int, int], end: tuple[int, int], text: str
) -> None:
    if start[0] != end[0]:
        torn.update(range(start[0], end[0] + 1))
    elif start[0] in by_line:
        by_line[start[0]].append(_Token(text, start[1], end[1]))


class _Folder:
    """Breaks one line."""

    def __init__(self, line: _Line, style: _Style) -> None:
        self.tokens = tokens = line.tokens
        self.is_statement = line.is_statement
        self.style = style
        self.partner: dict[int, int] = {}
        waiting: list[int] = []
        for number, token in enumerate(tokens):
            if token.text in _OPEN:
                waiting.append(number)
            elif token.text in _CLOSE:
                self.partner[waiting.pop()] = number

    def of_line(self, margin: str) -> Iterator[Break]:
        """The breaks of the whole line."""
        end = len(self.tokens)
        first, last = self.value() if self.is_statement else (end, end)
        if first < last and (self.at_words(first, last, _JOINING) or not self.can_be_broken(0, end, margin)):
            is_short = len(margin) + len(self.style.unit) + self.size(first, last) <= self.style.width
            if is_short or any(self.at_words(first, last, level) for level in _LEVELS):
                yield from self.in_new_brackets(first, last, margin)
        else:
            yield from self.fold(0, end, margin)

    def value(self) -> tuple[int, int]:
        """From where to where the value of a statement goes that may be put in brackets; nowhere where it has none."""
        end = len(self.tokens)
        if self.tokens[0].text in _ASKING:
            return (1, end - 1) if self.tokens[-1].text == ":" else (end, end)
        if self.tokens[0].text == "return":
            return 1, end
        assigned = [number for number in self.outermost(0, end) if self.tokens[number].text == "="]
        return (assigned[-1] + 1, end) if assigned else (end, end)

    def can_be_broken(self, first: int, end: int, margin: str) -> bool:
        """Whether there are brackets that can be broken open."""
        return self.pair_to_break(first, end, self.style.width - len(margin.expandtabs(4))) is not None

    def fold(self, first: int, end: int, margin: str, behind: int = 0) -> Iterator[Break]:
        """The breaks of some tokens that begin a line with this margin, with so many characters `behind` them."""
        room = self.style.width - len(margin.expandtabs(4)) - behind
        if self.size(first, end) <= room:
            return
        pair = self.pair_to_break(first, end, room)
        if pair is None:
            return
        opening, closing = pair
        inner = margin + self.style.unit
        yield self.gap(opening, f"\n{inner}")
        rest = self.size(closing, end) + behind
        yield from self.body(opening + 1, closing, inner)
        yield self.gap(closing - 1, f"\n{margin}")
        yield from self.fold(closing, end, margin, behind) if rest > self.style.width else ()

    def body(self, first: int, end: int, margin: str) -> Iterator[Break]:
        """The breaks of what stands in brackets: on one line, else at its commas, else at its operators."""
        if self.size(first, end) <= self.style.width - len(margin.expandtabs(4)):
            return
        is_made = any(self.tokens[n].text == "for" for n in self.outermost(first, end))
        commas = [] if is_made else self.commas(first, end)
        if commas:
            begin = first
            for comma in [*commas, end]:
                if comma > begin:
                    yield from self.fold(begin, comma, margin, behind=1)
                if comma < end - 1:
                    yield self.gap(comma, f"\n{margin}")
                begin = comma + 1
            if self.tokens[end - 1].text != ",":
                at = self.tokens[end - 1].end
                yield Break(at, at, ",")
            return
        words = next((found for level in _LEVELS if (found := self.at_words(first, end, level))), [])
        begin = first
        for word in [*words, end]:
            yield from self.fold(begin, word, margin)
            if word < end:
                yield self.gap(word - 1, f"\n{margin}")
            begin = word

    def in_new_brackets(self, first: int, end: int, margin: str) -> Iterator[Break]:
        """The breaks of an expression that gets brackets of its own first."""
        inner = margin + self.style.unit
        start, stop = self.tokens[first].start, self.tokens[end - 1].end
        yield Break(start, start, f"(\n{inner}")
        yield from self.body(first, end, inner)
        yield Break(stop, stop, f"\n{margin})")

    # -- where

    def pair_to_break(self, first: int, end: int, room: int) -> tuple[int, int] | None:
        """The outermost brackets to be broken open: the longest of those that have something in front that fits."""
        pairs = [(n, self.partner[n]) for n in self.outermost(first, end) if n in self.partner]
        pairs = [pair for pair in pairs if pair[1] - pair[0] > 1 and self.size(first, pair[0] + 1) <= room]
        return max(pairs, key=lambda pair: self.size(*pair), default=None)

    def outermost(self, first: int, end: int) -> Iterator[int]:
        """The tokens that stand in no brackets within a range."""
        number = first
        while number < end:
            yield number
            number = self.partner.get(number, number) + (number not in self.partner)

    def commas(self, first: int, end: int) -> list[int]:
        """The commas between the parts of a range; those of a nameless function's parameters are none."""
        found: list[int] = []
        is_heading = False
        for number in self.outermost(first, end):
            text = self.tokens[number].text
            is_heading = (is_heading or text == "lambda") and text != ":"
            if text == "," and not is_heading:
                found.append(number)
        return found

    def at_words(self, first: int, end: int, words: frozenset[str]) -> list[int]:
        """Where such a word joins two parts of a range."""
        return [n for n in self.outermost(first, end) if n > first and self.tokens[n].text in words and self.joins(n)]

    def joins(self, number: int) -> bool:
        """Whether a word stands between two values: a sign in front of one does not."""
        before = self.tokens[number - 1].text
        is_sign = self.tokens[number].text in "+-" and (before in "=,:*/%+-<>" or before in ("and", "or", "not", "in"))
        return not is_sign and not (self.tokens[number].text == "%" and before in _OPEN)

    # -- text

    def size(self, first: int, end: int) -> int:
        """How long some tokens are in the line."""
        return self.tokens[end - 1].end - self.tokens[first].start if end > first else 0

    def gap(self, number: int, text: str) -> Break:
        """What stands behind a token in place of the white space there."""
        end = self.tokens[number + 1].start if number + 1 < len(self.tokens) else self.tokens[number].end
        return Break(self.tokens[number].end, end, text)
