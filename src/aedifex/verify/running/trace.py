"""The trace of one run: what a program did to the outside world, in order."""

from __future__ import annotations

import json
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any

Unplaced = Callable[[Iterable[str]], Iterator[str | None]]
"""What leaves out of printed lines what they tell of lines of code: `Runner.without_places`."""

_PRINTED = ("out", "err")
_ENDS = ("error", "exit")
_STREAMS = {"out": "prints", "err": "prints to standard error", "typed": "reads"}


@dataclass(frozen=True)
class Entry:
    """One thing that a program did.

    `where` is the file and line of the program that caused it, `thread` the thread in which it did so, or the process
    that it forked, empty for the first; neither is compared.
    """

    kind: str
    text: str
    where: str = field(default="", compare=False)
    thread: str = field(default="", compare=False)

    def __str__(self) -> str:
        return f"{_STREAMS.get(self.kind, self.kind)} {self.text!r}" if self.kind in _STREAMS else self.text


@dataclass(frozen=True)
class Ending:
    """How a run ended: its exit code, the error that ended it, the library it missed, and why it was stopped.

    `ran_out` says that the error is that of a program which asks for more lines than the scenario has; `made_up` are
    the files that it asked for, which are not there, and for which made-up ones stood.
    """

    code: int = 0
    error: str = ""
    missing: str = ""
    stopped: str = ""
    where: str = ""
    ran_out: bool = False
    made_up: tuple[str, ...] = ()

    @property
    def is_early(self) -> bool:
        """Whether an error of the program's own ended it."""
        return bool(self.error) and not self.ran_out

    def __str__(self) -> str:
        if self.error:
            return self.error + (f" ({self.where})" if self.where else "")
        return self.stopped or f"exit code {self.code}"


@dataclass(frozen=True)
class Trace:
    """All entries of one run: what it did, how it ended, what it left.

    `threads` has them thread by thread, where there are several: in which order threads come to their turn is chance.
    """

    entries: tuple[Entry, ...]
    threads: tuple[Entry, ...] = ()
    ending: Ending = Ending()

    @property
    def is_hollow(self) -> bool:
        """Whether there is nothing to compare but that it ended."""
        did_nothing = all(entry.kind in _ENDS for entry in self.entries)
        return did_nothing and not self.ending.stopped and (bool(self.ending.error) or not self.ending.code)

    def by_thread(self) -> Trace:
        """The same run with its entries thread by thread."""
        return Trace(self.threads, (), self.ending) if self.threads else self

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


def read_trace(
    data: bytes,
    places: Mapping[str, str],
    raw: Mapping[str, bytes],
    written: Iterable[str],
    unplaced: Unplaced,
    code: int = 0,
) -> Trace | None:
    """Read what the child wrote down; None where it did not come to its end.

    `places` gives the words for the paths where the program ran, which are another in each run. `raw` is what reached
    the real standard streams, `written` says in words what became of files. `unplaced` leaves out of printed lines what
    they tell of lines of code. `code` is that with which a process ended that had become another program.
    """

    def said(text: str) -> str:
        for path, word in places.items():
            text = text.replace(path, word)
        return text

    entries: list[Entry] = []
    ending: Ending | None = None
    end: list[Entry] = []
    for line in data.splitlines():
        try:
            kind, text, where, thread = json.loads(line)
        except ValueError:
            return None
        if kind == "end":
            told = json.loads(said(text))
            told["code"] = code if told.get("became") else told["code"]
            entries = [entry for entry in entries if entry not in end]  # one that was not the last after all
            end = list(_end(told, where))
            entries += end
            ending = _ending(told, where)
        else:
            entries.append(Entry(kind, said(text), where, thread))
    if ending is None:
        return None
    after: list[Entry] = []
    for name, given in raw.items():
        lines = said(given.decode("utf-8", "backslashreplace")).splitlines(keepends=True)
        after += [Entry("raw", f"{name} outside of its own streams: {line}") for line in unplaced(lines) if line]
    after += [Entry("file", said(text)) for text in written]
    whole = [*_without_places(_lines(entries), unplaced), *after]
    if not any(entry.thread for entry in entries):
        return Trace(tuple(whole), (), ending)
    entries.sort(key=lambda entry: entry.thread)
    return Trace(tuple(whole), (*_without_places(_lines(entries), unplaced), *after), ending)


def _without_places(entries: Iterable[Entry], unplaced: Unplaced) -> Iterator[Entry]:
    found = list(entries)
    texts = {kind: unplaced([e.text for e in found if e.kind == kind]) for kind in _PRINTED}
    for entry in found:
        if entry.kind not in _PRINTED:
            yield entry
            continue
        text = next(texts[entry.kind])
        if text is not None:
            yield Entry(entry.kind, text, entry.where, entry.thread)


def _ending(told: Mapping[str, Any], where: str) -> Ending:
    message = f": {told['message']}" if told.get("message") else ""
    error = f"{told['error']}{message}" if "error" in told else ""
    return Ending(
        told["code"],
        error,
        told.get("missing", ""),
        told.get("stopped", ""),
        where,
        bool(told.get("ran_out")),
        tuple(told.get("made_up", ())),
    )


def _end(told: Mapping[str, Any], where: str) -> Iterator[Entry]:
    ending = _ending(told, where)
    if ending.error:
        yield Entry("error", f"stops with {ending.error}", where)
    for kind in ("uncovered", "outside", "stopped"):
        if kind in told:
            yield Entry(kind, str(told[kind]))
    how = "ends at once" if "at_once" in told else "ends"
    yield Entry("exit", f"{how} with exit code {ending.code}, having waited {told['seconds']} s")


def _lines(entries: Iterable[Entry]) -> Iterator[Entry]:
    """Join what is printed piece by piece into lines; whatever comes between ends a piece."""
    waiting: Entry | None = None
    for entry in entries:
        if entry.kind not in _PRINTED:
            if waiting is not None:
                yield waiting
                waiting = None
            yield entry
            continue
        if waiting is not None and (waiting.kind, waiting.thread) != (entry.kind, entry.thread):
            yield waiting
            waiting = None
        text = (waiting.text if waiting is not None else "") + entry.text
        where = waiting.where if waiting is not None else entry.where
        *whole, rest = text.split("\n")
        for number, line in enumerate(whole):
            yield Entry(entry.kind, line + "\n", where if number == 0 else entry.where, entry.thread)
        waiting = Entry(entry.kind, rest, entry.where if whole else where, entry.thread) if rest else None
    if waiting is not None:
        yield waiting
