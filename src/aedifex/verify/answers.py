"""Answers that a design changes: a request for what is not there failed, and is told so now."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise, takewhile

from aedifex.verify.running.trace import Entry, Trace

_REQUEST, _ANSWER, _LOG = "request", "answer", "err"
_FAILED = ("500", "fails with ")
_NOT_FOUND = "404"
_LOGGED_AT = re.compile(r"\d\d:\d\d:\d\d,\d{3}")


@dataclass(frozen=True)
class AnswersMeant:
    """The requests, by their numbers, that failed in one run and are answered with "not found" in another."""

    numbers: frozenset[int] = frozenset()

    @classmethod
    def between(cls, before: Trace, after: Trace) -> AnswersMeant:
        """What two runs of the same requests tell."""
        pairs = enumerate(zip(_visits(before.entries), _visits(after.entries), strict=False))
        found = (n for n, (one, two) in pairs if one.answer.startswith(_FAILED) and two.answer.startswith(_NOT_FOUND))
        return cls(frozenset(found))

    def left_out_of(self, trace: Trace) -> Trace:
        """A run without what was done and said for these requests."""
        visits = [visit for n, visit in enumerate(_visits(trace.entries)) if n in self.numbers]
        if not visits:
            return trace
        gone = {at for visit in visits for at in range(visit.start + 1, visit.end)}
        first, kept = min(gone, default=0), (pair for pair in enumerate(trace.entries) if pair[0] not in gone)
        return replace(trace, entries=tuple(_without_clock(entry) if at > first else entry for at, entry in kept))


@dataclass(frozen=True)
class _Visit:
    """From which entry to which one a request is answered, with what is logged of it; and how the answer begins."""

    start: int
    end: int
    answer: str


def _without_clock(entry: Entry) -> Entry:
    """An entry without the time at which a line was logged: who fails looks at the clock, to say so."""
    return replace(entry, text=_LOGGED_AT.sub("", entry.text)) if entry.kind == _LOG else entry


def _visits(entries: Sequence[Entry]) -> Iterator[_Visit]:
    starts = [at for at, entry in enumerate(entries) if entry.kind == _REQUEST]
    for at, end in pairwise([*starts, len(entries)]):
        answers = [n for n in range(at, end) if entries[n].kind == _ANSWER]
        if answers:
            logged = takewhile(lambda entry: entry.kind == _LOG, entries[answers[-1] + 1 : end])
            yield _Visit(at, answers[-1] + 1 + len(list(logged)), entries[answers[0]].text)
        else:
            yield _Visit(at, at + 1, "")
