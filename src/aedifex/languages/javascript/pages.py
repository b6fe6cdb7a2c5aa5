"""The JavaScript that stands in a page of HTML."""

from __future__ import annotations

import html
import os
import re
from collections.abc import Iterator
from pathlib import Path

from tree_sitter import Node

from aedifex.languages.tree.grammar import Grammar
from aedifex.source.text import Span

SUFFIXES = (".html", ".htm")
_NO_BREAK = re.compile(rb"[^\n]")
_ELEMENTS = frozenset({"element", "script_element", "style_element"})
_PRESSED = frozenset({"button", "a", "option", "label", "summary"})
_FIELDS = frozenset({"input", "textarea"})
_NOT_TYPED = frozenset({"button", "submit", "checkbox", "radio", "hidden", "reset", "image"})
_TITLES = ("title", "h1")
_LANGUAGES = frozenset({"", "module", "text/javascript", "application/javascript"})


def _pointer() -> object:
    import tree_sitter_html

    return tree_sitter_html.language()


GRAMMAR = Grammar(_pointer)


def is_page(path: Path) -> bool:
    """Whether a file is one."""
    return path.suffix.lower() in SUFFIXES


def code_of(page: bytes) -> bytes:
    """The page with all but its scripts blanked out: every name stands where it stood.

    The scripts of a page share one scope, so they are read as one.
    """
    code, end = bytearray(_NO_BREAK.sub(b" ", page)), 0
    for script in _scripts(page):
        for child in script.named_children:
            if child.type == "raw_text":
                if end:
                    code[end : end + 1] = b";"  # what the script before it left open ends there
                code[child.start_byte : child.end_byte] = page[child.start_byte : child.end_byte]
                end = child.end_byte
    return bytes(code)


def inline_scripts(page: bytes) -> list[Span]:
    """Where the scripts are that are written in a page."""
    written = (script for script in _scripts(page) if not _attributes(script, page).get("src"))
    inside = [child for script in written for child in script.named_children if child.type == "raw_text"]
    spans = [Span(child.start_byte, child.end_byte) for child in inside]
    return [span for span in spans if page[span.start : span.end].strip()]


def script_tags(page: bytes) -> list[tuple[Span, dict[str, str]]]:
    """Where the start tags of the scripts of a page are, in the order of the page, each with its attributes."""
    tags = ((script.named_children[0], _attributes(script, page)) for script in _scripts(page))
    return [(Span(tag.start_byte, tag.end_byte), attributes) for tag, attributes in tags]


def sources_of(page: bytes) -> list[str]:
    """The files that the scripts of a page are in, where they are not written there, in the order of the page."""
    found = (_attributes(script, page).get("src") for script in _scripts(page))
    return [source for source in found if source]


def files_of(path: Path, page: bytes) -> list[Path]:
    """Those of them that stand where the page at a path says, on this machine."""
    places = [path.parent / source for source in sources_of(page) if "//" not in source]
    return [Path(os.path.normpath(place)) for place in places if place.is_file()]


def title_of(page: bytes) -> str:
    """What a page says in its `title`, or else in its first heading, in one line; empty where it has neither."""
    shown = list(_shown(page))
    return next((text for wanted in _TITLES for name, text in shown if name == wanted and text), "")


def handlers_of(page: bytes) -> list[str]:
    """What is carried out when something happens to an element: the texts of its `onclick` and the like."""
    given = (item for element in _elements(page) for item in _attributes(element, page).items())
    return [text for name, text in given if name.startswith("on")]


def pressed_in(page: bytes) -> list[str]:
    """The texts on what can be pressed in a page, and chosen."""
    return [text for name, text in _shown(page) if name in _PRESSED and text]


def fields_of(page: bytes) -> int:
    """How many fields a page has into which something can be typed."""
    kinds = (_attributes(node, page).get("type", "text") for node in _elements(page) if _name(node, page) in _FIELDS)
    return sum(kind not in _NOT_TYPED for kind in kinds)


def _shown(page: bytes) -> Iterator[tuple[str, str]]:
    for node in _elements(page):
        name = _name(node, page)
        inside = [child for child in node.named_children if child.type in ("text", "entity")]
        text = page[inside[0].start_byte : inside[-1].end_byte].decode("utf-8", "replace") if inside else ""
        yield name, " ".join(html.unescape(text).split()) or _attributes(node, page).get("value", "")


def _elements(page: bytes) -> Iterator[Node]:
    """The elements of a page, in the order of its text."""
    waiting = [GRAMMAR.parse(page).root_node]
    while waiting:
        node = waiting.pop()
        if node.type in _ELEMENTS:
            yield node
        waiting.extend(reversed(node.named_children))


def _scripts(page: bytes) -> Iterator[Node]:
    """The script elements of a page whose language is JavaScript."""
    for element in _elements(page):
        kind = _attributes(element, page).get("type", "").strip().lower()
        if element.type == "script_element" and kind in _LANGUAGES:
            yield element


def _name(element: Node, page: bytes) -> str:
    tags = [tag for tag in element.named_children[:1] if tag.named_children]
    return (
        page[tags[0].named_children[0].start_byte : tags[0].named_children[0].end_byte].decode().lower() if tags else ""
    )


def _attributes(element: Node, page: bytes) -> dict[str, str]:
    """The attributes of an element."""
    found: dict[str, str] = {}
    for attribute in (node for tag in element.named_children[:1] for node in tag.named_children[1:]):
        name, *rest = attribute.named_children
        text = page[rest[0].start_byte : rest[0].end_byte].decode("utf-8", "replace") if rest else ""
        found[page[name.start_byte : name.end_byte].decode("utf-8", "replace").lower()] = text.strip("\"'")
    return found
