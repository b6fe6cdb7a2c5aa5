"""How a file of JavaScript is written: what new code in it has to look like."""

from __future__ import annotations

import re
from collections import Counter
from dataclasses import dataclass

from aedifex.languages.javascript.sharing import Sharing, sharing_of
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Kind

_FROM = re.compile(rb"^(?:import|export)\b[^\n;'\"]*(?P<quote>['\"])", re.MULTILINE)
_NAMED = re.compile(rb"\bfunction\b[ *]*[\w$]+(?P<space> *)\(")
_SIMPLE = frozenset({Kind.ASSIGN, Kind.UPDATE, Kind.EXPRESSION, Kind.DECLARE, Kind.LEAVE})


@dataclass(frozen=True, slots=True)
class Style:
    """The mark that texts stand between, what ends a statement, the word for what is set once, how files share.

    `space` stands between the name of a function and its parameters; `private` is the mark of what only its class may
    use: `#` where the file is for engines that know it.
    """

    quote: str = '"'
    end: str = ";"
    keyword: str = "const"
    sharing: Sharing = Sharing.IMPORTS
    private: str = "_"
    space: str = ""


USUAL = Style()


def style_of(module: Module) -> Style:
    """The style that most of a file has."""
    data = module.source.parse_view
    quotes = Counter(chr(data[span.start]) for span in module.strings)
    quotes.update(found["quote"].decode() for found in _FROM.finditer(data))
    ends = Counter(data[s.end - 1 : s.end] == b";" for s in module.walk() if s.kind in _SIMPLE)
    spaces = Counter(bool(found["space"]) for found in _NAMED.finditer(data))
    words = {data[s.start : s.start + 3] for s in module.walk() if any(r.declares for r in s.references)}
    return Style(
        quote="'" if quotes["'"] > quotes['"'] else '"',
        end="" if ends[False] > ends[True] else ";",
        keyword="var" if b"var" in words and not words & {b"let", b"con"} else "const",
        sharing=sharing_of(module),
        private="#" if _declares_fields(module) else "_",
        space=" " if spaces[True] > spaces[False] else "",
    )


def _declares_fields(module: Module) -> bool:
    """Whether a class of the file declares a field: engines that read this know private ones as well."""
    inside = (inner for s in module.walk() if s.kind is Kind.CLASS for inner in s.inner)
    return any(inner.kind in (Kind.ASSIGN, Kind.DECLARE) for inner in inside)
