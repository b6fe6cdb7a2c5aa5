"""The elements by which pages load a script, and those of other files before them."""

from __future__ import annotations

import os
import re
from collections.abc import Iterator, Sequence
from pathlib import Path, PurePosixPath
from typing import NamedTuple

from aedifex.languages.javascript import pages
from aedifex.languages.javascript.page_code import PageCode, page_of
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.edits import Changes
from aedifex.source.text import Span

_PLAIN = frozenset({"src", "type", "defer", "charset", "language"})
_PATH = re.compile(r"""(?P<before>\bsrc\s*=\s*)(?P<path>"[^"]*"|'[^']*'|[^\s>]+)""", re.IGNORECASE)
_LOOKING_AROUND = re.compile(
    rb"\.\s*(?:children|childNodes|childElementCount|scripts|currentScript|outerHTML"
    rb"|(?:first|last)(?:Element)?Child|(?:next|previous)(?:Element)?Sibling)\b"
    rb"|['\"`]script\b|:nth-|:first-|:last-"
)


class Loader(NamedTuple):
    """A page that loads a script: the start tag by which it does, and where the tag stands in the whole page."""

    page: Module
    at: Span
    tag: str

    def tag_of(self, path: str) -> str:
        """The element that loads the file at a path from the script's folder instead."""
        loaded = _PATH.search(self.tag)
        if loaded is None:
            return f'{self.tag[:-1].rstrip()} src="{path}"></script>'
        beside = PurePosixPath(loaded["path"].strip("\"'")).with_name(path)
        return f'{self.tag[: loaded.end("before")]}"{beside}"{self.tag[loaded.end() :]}</script>'


def loaders(program: Program) -> list[Loader]:
    """How the pages of a program load its script: none where an element more would be noticed, or has no place."""
    found = [
        (loader, attributes) for page in program.modules.values() for loader, attributes in _loading(page, program)
    ]
    is_noticed = any(_LOOKING_AROUND.search(page_of(module.source)) for module in program.modules.values())
    is_plain = all(attributes.keys() <= _PLAIN and attributes.get("type") != "module" for _, attributes in found)
    return [loader for loader, _ in found] if is_plain and not is_noticed else []


def load_before(program: Program, paths: Sequence[Path], changes: Changes) -> None:
    """Add an element for each of some files to every page that loads the script, before the one that does."""
    folder = program.main.path.parent
    names = [Path(os.path.relpath(path, folder)).as_posix() for path in paths]
    for loader in loaders(program):
        page, at = loader.page, loader.at.start
        whole = page_of(page.source)
        margin = whole[whole.rfind(b"\n", 0, at) + 1 : at].decode()
        between = f"\n{margin}" if not margin.strip() else ""
        text = "".join(f"{loader.tag_of(name)}{between}" for name in names)
        within = page.source.within
        if isinstance(within, PageCode):
            newline = "\r\n" if b"\r\n" in whole else "\n"
            changes.around[page.path] = within.with_text(at, text.replace("\n", newline).encode())
        else:
            changes.replace(page.path, Span(at, at), text)


def _loading(page: Module, program: Program) -> Iterator[tuple[Loader, dict[str, str]]]:
    """The element of a page that is, or loads, the script of the program."""
    if not pages.is_page(page.path):
        return
    whole, within = page_of(page.source), page.source.within
    for at, attributes in pages.script_tags(whole):
        source = attributes.get("src", "")
        is_it = bool(source) and Path(os.path.normpath(page.path.parent / source)) == program.main.path
        if page is program.main:
            is_it = isinstance(within, PageCode) and within.script.start == at.end
        if is_it:
            yield Loader(page, at, whole[at.start : at.end].decode()), attributes
