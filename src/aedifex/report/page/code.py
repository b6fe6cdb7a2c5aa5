"""Code as lines of a page, each linked with the line that it came from or went to."""

from __future__ import annotations

import io
from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cache
from itertools import dropwhile
from pathlib import Path

from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.errors import Place


@dataclass
class Line:
    """One line: its number, its text as HTML, and what it is linked with, as an anchor and in words."""

    number: int
    html: str
    anchor: str
    link: str = ""
    where: str = ""


@dataclass
class Listing:
    """One file. `mark` shows, for a line without a link, that it is new or gone."""

    name: str
    lines: list[Line] = field(default_factory=list)
    mark: str = ""


def listings(built: Program) -> tuple[list[Listing], list[Listing]]:
    """The files before and after, their lines linked both ways."""
    before = {path: _listing(module, "before") for path, module in built.origin.modules.items()}
    after = {path: _listing(module, "after") for path, module in built.modules.items()}
    came: dict[tuple[Path, int], list[Line]] = defaultdict(list)
    names: dict[str, str] = {}
    for path, listing in after.items():
        listing.mark = "+"
        for line in listing.lines:
            names[line.anchor] = f"{listing.name}, line {line.number}"
            place = built.original_place(Place(path, line.number))
            if place.line is None or place.path not in before or not _says_something(built, path, line.number):
                continue
            origin = before[place.path].lines[place.line - 1]
            line.link, line.where = origin.anchor, f"came from {place.path.name}, line {place.line}"
            came[place.path, place.line].append(line)
    for path, listing in before.items():
        listing.mark = "\N{MINUS SIGN}"
        for line in listing.lines:
            went = came.get((path, line.number))
            if went:
                line.link, line.where = went[0].anchor, f"went to {names[went[0].anchor]}"
    for listing in (*before.values(), *after.values()):
        listing.lines = list(dropwhile(lambda line: not line.html.strip(), listing.lines))
    return list(before.values()), list(after.values())


def _says_something(program: Program, path: Path, line: int) -> bool:
    return bool(program.modules[path].source.line(line).strip())


@cache
def _painter(language: str) -> Callable[[str], str]:
    """What colours code: made once, for it takes long to make."""
    from pygments.formatters import HtmlFormatter
    from pygments.lexers import get_lexer_by_name

    lexer, formatter = get_lexer_by_name(language, stripnl=False, ensurenl=True), HtmlFormatter(nowrap=True)

    def paint(text: str) -> str:
        out = io.StringIO()
        formatter.format(lexer.get_tokens(text), out)
        return out.getvalue()

    return paint


def _listing(module: Module, side: str) -> Listing:
    name, text = module.path.name, module.source.parse_view.decode()
    shown = _painter(module.dialect.name)(text).split("\n")
    slug = name.replace(".", "-")
    count = len(text.splitlines())
    return Listing(name, [Line(n, html, f"{side}-{slug}-{n}") for n, html in enumerate(shown[:count], 1)])
