"""The trace of one run: what a program did to the outside world, in order."""

from __future__ import annotations

import json
from collections.abc import Collection, Iterable, Iterator
from dataclasses import dataclass, field
from pathlib import Path

_STREAMS = {"out": "prints", "err": "prints to standard error", "typed": "reads"}


@dataclass(frozen=True)
class Entry:
    """One thing that a program did. `where` is the file and line of the program that caused it; it is not compared."""

    kind: str
    text: str
    where: str = field(default="", compare=False)

    def __str__(self) -> str:
        return f"{_STREAMS.get(self.kind, self.kind)} {self.text!r}" if self.kind in _STREAMS else self.text


@dataclass(frozen=True)
class Trace:
    """All entries of one run, the way it ended last."""

    entries: tuple[Entry, ...]

    def first_difference(self, other: Trace, leaving_out: Collection[int] = ()) -> int | None:
        """The index of the first entry in which two traces differ; None where they are the same.

        Entries at the indices of `leaving_out` are only compared by their kind.
        """
        for index, (one, two) in enumerate(zip(self.entries, other.entries, strict=False)):
            if one.kind != two.kind or (one != two and index not in leaving_out):
                return index
        shorter, longer = sorted((len(self.entries), len(other.entries)))
        return None if shorter == longer else shorter

    def unlike(self, other: Trace) -> set[int]:
        """The indices of entries that differ from those of another run of the same program, up to where they part."""
        until = self.parting(other)
        return {
            index
            for index, (one, two) in enumerate(zip(self.entries[:until], other.entries, strict=False))
            if one != two
        } | ({until} if until is not None and until < len(self.entries) else set())

    def parting(self, other: Trace) -> int | None:
        """Where two runs of one program go different ways, so that later entries no longer answer each other."""
        for index, (one, two) in enumerate(zip(self.entries, other.entries, strict=False)):
            if one.kind != two.kind:
                return index
        if len(self.entries) == len(other.entries):
            return None
        return self.first_difference(other)


def read_trace(path: Path, folder: str, raw: dict[str, bytes], written: Iterable[str]) -> Trace | None:
    """Read what the child wrote down; None where it did not come to its end.

    `folder` is where the program ran: that path is left out of texts. `raw` is what reached the real standard streams,
    `written` says in words what became of files.
    """
    entries: list[Entry] = []
    ended = False
    with path.open(encoding="utf-8") as file:
        for line in file:
            try:
                kind, text, where = json.loads(line)
            except ValueError:
                return None
            if kind == "end":
                entries += _ending(json.loads(text.replace(folder, "<folder>")), where)
                ended = True
            else:
                entries.append(Entry(kind, text.replace(folder, "<folder>"), where))
    for name, data in raw.items():
        if data:
            text = data.decode("utf-8", "backslashreplace").replace(folder, "<folder>")
            entries.append(Entry("raw", f"{name} outside of Python's own streams: {text}"))
    entries += [Entry("file", text.replace(folder, "<folder>")) for text in written]
    return Trace(tuple(_lines(entries))) if ended else None


def _ending(ending: dict[str, object], where: str) -> Iterator[Entry]:
    if "error" in ending:
        message = f": {ending['message']}" if ending.get("message") else ""
        yield Entry("error", f"stops with {ending['error']}{message}", where)
    if "uncovered" in ending:
        yield Entry("uncovered", str(ending["uncovered"]))
    if "outside" in ending:
        yield Entry("outside", str(ending["outside"]))
    if "stopped" in ending:
        yield Entry("stopped", str(ending["stopped"]))
    yield Entry("exit", f"ends with exit code {ending['code']}, having waited {ending['seconds']} s")


def _lines(entries: Iterable[Entry]) -> Iterator[Entry]:
    """Join what is printed piece by piece into lines; whatever comes between ends a piece."""
    waiting: Entry | None = None
    for entry in entries:
        if entry.kind not in ("out", "err"):
            if waiting is not None:
                yield waiting
                waiting = None
            yield entry
            continue
        if waiting is not None and waiting.kind != entry.kind:
            yield waiting
            waiting = None
        text = (waiting.text if waiting is not None else "") + entry.text
        where = waiting.where if waiting is not None else entry.where
        *whole, rest = text.split("\n")
        for number, line in enumerate(whole):
            yield Entry(entry.kind, line + "\n", where if number == 0 else entry.where)
        waiting = Entry(entry.kind, rest, entry.where if whole else where) if rest else None
    if waiting is not None:
        yield waiting
