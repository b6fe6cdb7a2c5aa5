"""How a file of JavaScript is written: what new code in it has to look like."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from aedifex.languages.javascript.sharing import Sharing, sharing_of
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Kind

_SIMPLE = frozenset({Kind.ASSIGN, Kind.UPDATE, Kind.EXPRESSION, Kind.DECLARE, Kind.LEAVE})


@dataclass(frozen=True, slots=True)
class Style:
    """The mark that texts stand between, what ends a statement, the word for what is set once, how files share."""

    quote: str = '"'
    end: str = ";"
    keyword: str = "const"
    sharing: Sharing = Sharing.IMPORTS


USUAL = Style()


def style_of(module: Module) -> Style:
    """The style that most of a file has."""
    data = module.source.parse_view
    quotes = Counter(chr(data[span.start]) for span in module.strings)
    ends = Counter(data[s.end - 1 : s.end] == b";" for s in module.walk() if s.kind in _SIMPLE)
    words = {data[s.start : s.start + 3] for s in module.walk() if any(r.declares for r in s.references)}
    return Style(
        quote="'" if quotes["'"] > quotes['"'] else '"',
        end="" if ends[False] > ends[True] else ";",
        keyword="var" if b"var" in words and not words & {b"let", b"con"} else "const",
        sharing=sharing_of(module),
    )
