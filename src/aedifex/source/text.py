"""Reading source text so that writing it back unedited gives the same bytes."""

from __future__ import annotations

import bisect
import codecs
import hashlib
import io
import re
import tokenize
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path
from typing import NamedTuple, Protocol

from aedifex.source.content import content_of
from aedifex.source.errors import Place, UnreadableError

_LONE_RETURN = re.compile(rb"\r(?!\n)")
_NEWLINE = re.compile(rb"\r\n|\r|\n")


class Span(NamedTuple):
    """A half-open range of byte offsets into `SourceText.data`."""

    start: int
    end: int

    def holds(self, other: Span) -> bool:
        """Whether `other` lies within this span."""
        return self.start <= other.start and other.end <= self.end


class Surroundings(Protocol):
    """What stands around a text in its file."""

    def around(self, code: bytes) -> bytes:
        """The file's text with another text in the place of this one."""
        ...


@dataclass(frozen=True)
class SourceText:
    """One file's text.

    `data` is the text in UTF-8 without a byte order mark, its line endings untouched; all spans count its bytes.
    `encoding` and `mark` say how the file itself stores it, and `within` what stands around it there.
    """

    path: Path
    data: bytes
    encoding: str = "utf-8"
    mark: bytes = field(default=b"", repr=False)
    within: Surroundings | None = field(default=None, repr=False, compare=False)

    @classmethod
    def read(cls, path: Path) -> SourceText:
        """Read a file.

        Raises:
            UnreadableError: it is missing, a folder, binary, or not in the encoding that it declares.
        """
        if path.is_dir():
            raise UnreadableError("this is a folder, not a script", Place(path), "Name the script itself.")
        return cls.decode(content_of(path), path)

    @classmethod
    def decode(cls, raw: bytes, path: Path) -> SourceText:
        """Make a text from a file's bytes, by its byte order mark or its coding line (PEP 263)."""
        if b"\0" in raw:
            raise UnreadableError("this is a binary file, not a script", Place(path), "Name a file of Python source.")
        try:
            encoding, _ = tokenize.detect_encoding(io.BytesIO(raw).readline)
        except SyntaxError as error:
            raise UnreadableError(
                f"its text encoding cannot be told: {error}",
                Place(path, 1),
                "Save the file as UTF-8, or name its encoding in a coding line at the top.",
            ) from None
        if not codecs.lookup(encoding)._is_text_encoding:
            raise UnreadableError(
                f"{encoding} is no encoding of texts", Place(path, 1), "Save the file as UTF-8, and say so."
            )
        mark = codecs.BOM_UTF8 if raw.startswith(codecs.BOM_UTF8) else b""
        plain = "utf-8" if encoding == "utf-8-sig" else encoding
        body = raw[len(mark) :]
        try:
            text = body.decode(plain)
            data = text.encode("utf-8")
        except UnicodeError as error:
            at = getattr(error, "start", 0)
            raise UnreadableError(
                f"not readable as {plain}: byte {at} does not fit",
                Place(path, body.count(b"\n", 0, at) + 1),
                "Save the file as UTF-8, or name its encoding in a coding line at the top.",
            ) from None
        if text.encode(plain) != body:
            raise UnreadableError(
                f"its encoding, {plain}, does not survive reading and writing back",
                Place(path),
                "Save the file as UTF-8.",
            )
        return cls(path, data, plain, mark)

    def encode(self) -> bytes:
        """The bytes to store in the file.

        Raises:
            UnreadableError: the text holds a character that the file's own encoding lacks.
        """
        try:
            whole = self.within.around(self.data) if self.within is not None else self.data
            return self.mark + whole.decode("utf-8").encode(self.encoding)
        except UnicodeEncodeError as error:
            raise UnreadableError(
                f"the character {error.object[error.start]!r} cannot be written in {self.encoding}",
                Place(self.path),
                "Save the script as UTF-8 first.",
            ) from None

    def edited(self, data: bytes, within: Surroundings | None = None) -> SourceText:
        """The same file with other text in it, and other surroundings, where these are given."""
        return SourceText(self.path, data, self.encoding, self.mark, within or self.within)

    @cached_property
    def parse_view(self) -> bytes:
        """`data` with every lone carriage return as a newline: same length, same offsets."""
        return _LONE_RETURN.sub(b"\n", self.data) if b"\r" in self.data else self.data

    @cached_property
    def line_starts(self) -> list[int]:
        """The offset at which each line begins."""
        return [0, *(match.end() for match in re.finditer(rb"\n", self.parse_view))]

    @property
    def line_count(self) -> int:
        """How many lines the file has; a final newline does not begin another."""
        return len(self.line_starts) - (self.data.endswith((b"\n", b"\r")) or not self.data)

    def line_of(self, offset: int) -> int:
        """The line, counted from 1, that holds a byte offset."""
        return bisect.bisect_right(self.line_starts, offset)

    def lines_of(self, span: Span) -> tuple[int, int]:
        """The first and the last line that a stretch of the text stands on."""
        return self.line_of(span.start), self.line_of(max(span.start, span.end - 1))

    def line_start(self, offset: int) -> int:
        """Where the line that holds `offset` begins."""
        return self.line_starts[self.line_of(offset) - 1]

    def line_end(self, offset: int) -> int:
        """Where the line that holds `offset` ends, its line ending included."""
        line = self.line_of(offset)
        return self.line_starts[line] if line < len(self.line_starts) else len(self.data)

    def line(self, number: int) -> str:
        """The text of a line counted from 1, without its ending."""
        start = self.line_starts[number - 1]
        return self.slice(Span(start, self.line_end(start))).rstrip("\r\n")

    def slice(self, span: Span) -> str:
        """The text of a span."""
        return self.data[span.start : span.end].decode("utf-8")

    def slice_behind(self, offset: int) -> str:
        """The text from an offset to the end of its line, or of the next one that is not blank."""
        end = self.line_end(offset)
        return self.slice(Span(offset, end)) if self.data[offset:end].strip() else self.data[offset:].decode("utf-8")

    def slice_with(self, span: Span, words: Mapping[Span, str]) -> str:
        """The text of a span with other words in the places inside it, which do not overlap."""
        pieces, at = [], span.start
        for place, word in sorted((place, word) for place, word in words.items() if span.holds(place)):
            pieces += [self.slice(Span(at, place.start)), word]
            at = place.end
        return "".join([*pieces, self.slice(Span(at, span.end))])

    def place(self, offset: int) -> Place:
        """File and line of an offset."""
        return Place(self.path, self.line_of(offset))

    @cached_property
    def newline(self) -> str:
        """The line ending that the file uses most; a newline for a file without any."""
        counts = Counter(_NEWLINE.findall(self.data))
        return counts.most_common(1)[0][0].decode() if counts else "\n"

    @cached_property
    def digest(self) -> str:
        """`sha256:` and the hexadecimal digest of the file's bytes."""
        return "sha256:" + hashlib.sha256(self.encode()).hexdigest()
