"""Edits by span, and the provenance of every byte of their result.

An edit replaces a span by pieces: fresh text, or text *taken* from elsewhere in the program. Taken text may itself be
edited and indented anew. After `apply` one can ask where any old byte went, which is what lets a move prove itself.
"""

from __future__ import annotations

import bisect
import itertools
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import NamedTuple

from aedifex.source.text import SourceText, Span, Surroundings


@dataclass(frozen=True, slots=True)
class Taken:
    """Text carried over from `path`, with the edits inside it applied.

    Each line that begins inside the span, and not inside one of `fixed`, loses the prefix `dedent` and gains `indent`.
    """

    path: Path
    start: int
    end: int
    dedent: bytes = b""
    indent: bytes = b""
    fixed: tuple[Span, ...] = ()


Piece = str | Taken


@dataclass(frozen=True, slots=True)
class Edit:
    """Replace the bytes from `start` to `end` of the file at `path` by `pieces`."""

    path: Path
    start: int
    end: int
    pieces: tuple[Piece, ...] = ()


@dataclass(slots=True)
class Changes:
    """Edits of existing files, whole new files made of pieces, and files that have nothing left of their own.

    `around` gives texts that stand within others new surroundings.
    """

    edits: list[Edit] = field(default_factory=list)
    created: dict[Path, tuple[Piece, ...]] = field(default_factory=dict)
    deleted: set[Path] = field(default_factory=set)
    around: dict[Path, Surroundings] = field(default_factory=dict)

    def replace(self, path: Path, span: Span, *pieces: Piece) -> None:
        """Add an edit."""
        self.edits.append(Edit(path, span.start, span.end, pieces))


class _Carried(NamedTuple):
    old_start: int
    old_end: int
    new_path: Path
    new_start: int


class _Stand(NamedTuple):
    """New text that stands in place of old text: an edit, or what is put in right before text that goes."""

    path: Path
    old: Span
    new_path: Path
    new: Span

    def length(self) -> int:
        """How much old text it stands for."""
        return self.old.end - self.old.start


@dataclass(slots=True)
class Applied:
    """What came of some changes: the new texts, what is new around them, and where the old bytes went."""

    texts: dict[Path, bytes] = field(default_factory=dict)
    around: Mapping[Path, Surroundings] = field(default_factory=dict)
    _carried: dict[Path, list[_Carried]] = field(default_factory=dict)
    _reach: dict[Path, list[int]] = field(default_factory=dict)
    _by_new_path: dict[Path, list[tuple[_Carried, Path]]] = field(default_factory=dict)
    _replaced: dict[tuple[Path, int, int], tuple[Path, Span]] = field(default_factory=dict)
    _stands: list[_Stand] = field(default_factory=list)

    def new_span_of(self, path: Path, span: Span) -> tuple[Path, Span] | None:
        """Where an old span stands now: carried over whole, or replaced by an edit of exactly that span."""
        if (found := self._replaced.get((path, span.start, span.end))) is not None:
            return found
        runs = self._carried.get(path, [])
        at = bisect.bisect_right(runs, span.start, key=lambda run: run.old_start) - 1
        # Text may be carried over twice, and then a long run reaches past a later, shorter one.
        while at >= 0 and self._reach[path][at] >= span.end:
            run = runs[at]
            if run.old_end >= span.end:
                start = run.new_start + span.start - run.old_start
                return run.new_path, Span(start, start + span.end - span.start)
            at -= 1
        return None

    def old_offset_of(self, path: Path, span: Span) -> tuple[Path, int] | None:
        """The file and offset in the old texts of the first byte in a new span that was carried over."""
        runs = self._by_new_path.get(path, [])
        at = bisect.bisect_right(runs, span.start, key=lambda found: found[0].new_start) - 1
        for run, old in runs[max(at, 0) : at + 2]:
            begin = max(run.new_start, span.start)
            if begin < min(span.end, run.new_start + run.old_end - run.old_start):
                return old, run.old_start + begin - run.new_start
        return None

    def new_range_of(self, path: Path, first: Span, last: Span) -> tuple[Path, Span, Span] | None:
        """Where the first and the last byte of a stretch stand now.

        Where part of it went elsewhere, what stands in the place of that part is its first or last; what went as one
        is followed.
        """
        begin = self._edge(path, first, last, is_last=False)
        end = self._edge(path, last, first, is_last=True)
        return (begin[0], begin[1], end[1]) if begin is not None and end is not None and begin[0] == end[0] else None

    def _edge(self, path: Path, span: Span, other: Span, *, is_last: bool) -> tuple[Path, Span] | None:
        carried = self.new_span_of(path, span)
        parts = (s for s in self._stands if s.path == path and s.old.holds(span) and not s.old.holds(other))
        widest = max(parts, key=_Stand.length, default=None)
        if widest is None:
            return carried
        if carried is not None and carried[0] == widest.new_path and widest.new.holds(carried[1]):
            return carried
        at = widest.new.end - 1 if is_last else widest.new.start
        return widest.new_path, Span(at, at + 1)

    def old_edge_of(self, path: Path, line: Span, *, is_last: bool) -> tuple[Path, int] | None:
        """Where in the old texts stood a new line or, where it is all new, what begins or ends there in its place."""
        if (carried := self.old_offset_of(path, line)) is not None:
            return carried
        edges = ((stand, stand.new.end - 1 if is_last else stand.new.start) for stand in self._stands)
        within = [s for s, edge in edges if s.new_path == path and line.start <= edge <= line.end]
        if not within:
            return None
        widest = max(within, key=_Stand.length)
        return widest.path, widest.old.end - 1 if is_last else widest.old.start

    def note_carried(self, path: Path, run: _Carried) -> None:
        """Note that a run of old bytes of a file was carried over."""
        self._carried.setdefault(path, []).append(run)

    def note_replaced(self, edit: Edit, path: Path, span: Span) -> None:
        """Note what stands now where an edit was made."""
        self._replaced[edit.path, edit.start, edit.end] = (path, span)

    def has_made(self, edit: Edit) -> bool:
        """Whether an edit has been made."""
        return (edit.path, edit.start, edit.end) in self._replaced

    def settle(self) -> None:
        """Sort what was carried, and note how far the runs up to each reach."""
        for path, runs in self._carried.items():
            runs.sort()
            self._reach[path] = list(itertools.accumulate((run.old_end for run in runs), max))
            for run in runs:
                self._by_new_path.setdefault(run.new_path, []).append((run, path))
        for found in self._by_new_path.values():
            found.sort(key=lambda pair: pair[0].new_start)
        for (path, start, end), (new_path, new) in self._replaced.items():
            if new.start == new.end:
                new_path, new = self._replaced.get((path, start, start), (new_path, new))
            if start < end and new.start < new.end:
                self._stands.append(_Stand(path, Span(start, end), new_path, new))


class _Node:
    """An edit with the edits that lie inside its span."""

    __slots__ = ("edit", "inner")

    def __init__(self, edit: Edit) -> None:
        self.edit = edit
        self.inner: list[_Node] = []


def _nest(edits: Iterable[Edit]) -> list[_Node]:
    top: list[_Node] = []
    open_nodes: list[_Node] = []
    for edit in sorted(edits, key=_order):
        node = _Node(edit)
        while open_nodes and _is_after(edit, open_nodes[-1].edit):
            open_nodes.pop()
        if open_nodes and edit.end > open_nodes[-1].edit.end:
            raise ValueError(f"two edits of {edit.path} overlap at byte {edit.start}")
        (open_nodes[-1].inner if open_nodes else top).append(node)
        open_nodes.append(node)
    return top


def _order(edit: Edit) -> tuple[int, bool, int]:
    return edit.start, edit.start != edit.end, -edit.end


def _is_after(edit: Edit, other: Edit) -> bool:
    # An insertion on the edge of another edit stands beside it, not inside.
    return edit.start >= other.end or edit.start == edit.end == other.start


class _Writer:
    """Writes the new text of one file, noting where each part came from."""

    def __init__(
        self,
        path: Path,
        nodes: Mapping[Path, Sequence[_Node]],
        texts: Mapping[Path, SourceText],
        result: Applied,
    ) -> None:
        self.path = path
        self.nodes = nodes
        self.texts = texts
        self.result = result
        self.newline = (texts.get(path) or next(iter(texts.values()))).newline
        self.out = bytearray()

    def fresh(self, text: str) -> None:
        self.out += text.replace("\n", self.newline).encode("utf-8")

    def copy(self, path: Path, start: int, end: int) -> None:
        if start < end:
            run = _Carried(start, end, self.path, len(self.out))
            self.result.note_carried(path, run)
            self.out += self.texts[path].data[start:end]

    def pieces(self, pieces: Iterable[Piece]) -> None:
        for piece in pieces:
            if isinstance(piece, str):
                self.fresh(piece)
            else:
                self.taken(piece)

    def taken(self, piece: Taken) -> None:
        inside = _within(self.nodes.get(piece.path, ()), Span(piece.start, piece.end))
        self.stretch(piece.path, piece.start, piece.end, inside, piece)

    def stretch(self, path: Path, start: int, end: int, nodes: Sequence[_Node], shift: Taken | None = None) -> None:
        """Write old text from `start` to `end` with `nodes` carried out inside it."""
        at = start
        for node in nodes:
            self.lines(path, at, node.edit.start, shift)
            if node.edit.pieces and node.edit.start < node.edit.end:
                self.margin(path, node.edit.start, shift)
            here = len(self.out)
            self.pieces(node.edit.pieces)
            self.result.note_replaced(node.edit, self.path, Span(here, len(self.out)))
            at = node.edit.end
        self.lines(path, at, end, shift)

    def lines(self, path: Path, start: int, end: int, shift: Taken | None) -> None:
        if shift is None or not (shift.dedent or shift.indent):
            self.copy(path, start, end)
            return
        text = self.texts[path].parse_view
        at = start
        while at < end:
            newline = text.find(b"\n", at, end)
            stop = end if newline < 0 else newline + 1
            at = self.margin(path, at, shift)
            self.copy(path, at, stop)
            at = stop

    def margin(self, path: Path, at: int, shift: Taken | None) -> int:
        """At the beginning of a line that is to be shifted, write its new margin; return where the old one ends."""
        text = self.texts[path].parse_view
        begins_line = at == 0 or text[at - 1 : at] == b"\n"
        if shift is None or not begins_line or _is_blank(text, at):
            return at
        if any(fixed.start < at < fixed.end for fixed in shift.fixed):
            return at
        self.out += shift.indent
        return at + len(shift.dedent) if text.startswith(shift.dedent, at) else at


def _is_blank(text: bytes, start: int) -> bool:
    end = text.find(b"\n", start)
    return not text[start : end if end >= 0 else len(text)].strip()


def _end(node: _Node) -> int:
    return node.edit.end


def _is_all_fresh(edit: Edit) -> bool:
    """Whether an edit puts new words in the place of old ones, rather than taking text away or elsewhere."""
    return bool(edit.pieces) and all(isinstance(piece, str) for piece in edit.pieces)


def _puts_lines_in(edit: Edit) -> bool:
    """Whether an edit puts whole lines in: they are meant to stay, whatever goes around them."""
    last = edit.pieces[-1] if edit.start == edit.end and edit.pieces else ""
    return isinstance(last, str) and last.endswith("\n") and bool("".join(map(str, edit.pieces)).strip())


def _within(nodes: Sequence[_Node], span: Span) -> list[_Node]:
    """The outermost edits that lie inside `span`, without any that covers all of it."""
    found: list[_Node] = []
    # Side by side they stand in the order of the text, so those that end before the span can be skipped at once.
    for at in range(bisect.bisect_left(nodes, span.start, key=_end), len(nodes)):
        node = nodes[at]
        edit = node.edit
        if edit.start > span.end:
            break
        if edit.start == span.start and span.end == edit.end and _is_all_fresh(edit):
            found.append(node)
        elif edit.start <= span.start and span.end <= edit.end:
            found += _within(node.inner, span)
        elif edit.start == edit.end and (edit.start == span.start or edit.start == span.end):
            continue
        elif span.start <= edit.start and edit.end <= span.end:
            found.append(node)
        elif edit.start < span.end and span.start < edit.end:
            found += _within(node.inner, span)
    return found


def apply(texts: Mapping[Path, SourceText], changes: Changes) -> Applied:
    """Carry out changes on the texts of a program.

    Raises:
        ValueError: two edits overlap without one lying inside the other, or lines that are put in come nowhere.
    """
    by_path: dict[Path, list[Edit]] = {}
    for edit in changes.edits:
        by_path.setdefault(edit.path, []).append(edit)
    nodes = {path: _nest(edits) for path, edits in by_path.items()}
    result = Applied(around=changes.around)
    for path, text in texts.items():
        if path in changes.deleted:
            continue
        writer = _Writer(path, nodes, texts, result)
        writer.stretch(path, 0, len(text.data), nodes.get(path, ()))
        result.texts[path] = bytes(writer.out)
    for path, pieces in changes.created.items():
        writer = _Writer(path, nodes, texts, result)
        writer.pieces(pieces)
        result.texts[path] = bytes(writer.out)
    for edit in changes.edits:
        if _puts_lines_in(edit) and not result.has_made(edit):
            raise ValueError(f"lines put into {edit.path} at byte {edit.start} are lost")
    result.settle()
    return result
