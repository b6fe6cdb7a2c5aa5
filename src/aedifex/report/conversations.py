"""Conversations that are short to read: what is typed is cut to what is answered in another way than before."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable, Sequence

from aedifex.verify.running.trace import Entry

_ALIKE = 2
_NUMBER = re.compile(r"\d+")
_READS = "typed"
_SAYS = "out"

Answers = Callable[[Sequence[str]], Sequence[str]]
"""Plays a program with typed lines: what it says before it reads the first one, and then to each that it reads."""


def shortened(lines: Sequence[str], answers_of: Answers) -> tuple[str, ...]:
    """The lines that are answered in a way of their own, each with no more words than it takes for that.

    Of answers that differ in their numbers alone two are kept.
    """
    typed = _telling(lines, answers_of(lines))
    said = answers_of(typed)
    for count in (1, 2):
        plainer = [" ".join(line.split()[:count]) for line in typed]
        if plainer != typed:
            now = answers_of(plainer)
            told = zip(typed, plainer, said[1:], now[1:], strict=False)
            typed = [short if old == new else line for line, short, old, new in told]
    return tuple(_telling(typed, answers_of(typed)))


def answers_in(entries: Sequence[Entry]) -> list[str]:
    """What was said before the first line was read, and to each that was."""
    said = [""]
    for entry in entries:
        if entry.kind == _READS:
            said.append("")
        elif entry.kind == _SAYS:
            said[-1] += entry.text
    return said


def _telling(lines: Sequence[str], said: Sequence[str]) -> list[str]:
    """The lines that were read and answered in a new way, and the last one."""
    prompt, *answers = said
    known: Counter[str] = Counter()
    exact: set[str] = set()
    found = []
    for number, (line, answer) in enumerate(zip(lines, answers, strict=False), start=1):
        words = line.split()[:1]
        is_silent = not answer.replace(prompt, "").strip()
        said_so = f"{words} {answer}" if is_silent else answer
        kind = _NUMBER.sub("0", said_so)
        is_new = said_so not in exact and known[kind] < _ALIKE
        if is_new or number == len(answers):
            found.append(line)
            exact.add(said_so)
            known[kind] += 1
    return found
