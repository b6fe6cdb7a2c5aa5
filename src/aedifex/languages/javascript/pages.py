"""The JavaScript that stands in a page of HTML."""

from __future__ import annotations

from collections.abc import Iterator

from tree_sitter import Node

from aedifex.languages.tree.grammar import Grammar

SUFFIXES = (".html", ".htm")
_LANGUAGES = frozenset({"", "module", "text/javascript", "application/javascript"})


def _pointer() -> object:
    import tree_sitter_html

    return tree_sitter_html.language()


GRAMMAR = Grammar(_pointer)


def code_of(page: bytes) -> bytes:
    """The page with all but its scripts blanked out: every name stands where it stood.

    The scripts of a page share one scope, so they are read as one.
    """
    code = bytearray(b" " * len(page))
    for at, byte in enumerate(page):
        if byte == ord(b"\n"):
            code[at] = byte
    end = 0
    for script in _scripts(page):
        for child in script.named_children:
            if child.type == "raw_text":
                if end:
                    code[end : end + 1] = b";"  # what the script before it left open ends there
                code[child.start_byte : child.end_byte] = page[child.start_byte : child.end_byte]
                end = child.end_byte
    return bytes(code)


def sources_of(page: bytes) -> list[str]:
    """The files that the scripts of a page are in, where they are not written there, in the order of the page."""
    found = (_attributes(script, page).get("src") for script in _scripts(page))
    return [source for source in found if source]


def handlers_of(page: bytes) -> list[str]:
    """What is carried out when something happens to an element: the texts of its `onclick` and the like."""
    found: list[str] = []
    waiting = [GRAMMAR.parse(page).root_node]
    while waiting:
        node = waiting.pop()
        if node.type in ("element", "script_element", "style_element"):
            found += [text for name, text in _attributes(node, page).items() if name.startswith("on")]
        waiting.extend(reversed(node.named_children))
    return found


def _scripts(page: bytes) -> Iterator[Node]:
    """The script elements of a page whose language is JavaScript."""
    waiting = [GRAMMAR.parse(page).root_node]
    while waiting:
        node = waiting.pop()
        if node.type == "script_element":
            if _attributes(node, page).get("type", "").strip().lower() in _LANGUAGES:
                yield node
            continue
        waiting.extend(reversed(node.named_children))


def _attributes(element: Node, page: bytes) -> dict[str, str]:
    """The attributes of an element."""
    found: dict[str, str] = {}
    for attribute in (node for tag in element.named_children[:1] for node in tag.named_children[1:]):
        name, *rest = attribute.named_children
        text = page[rest[0].start_byte : rest[0].end_byte].decode("utf-8", "replace") if rest else ""
        found[page[name.start_byte : name.end_byte].decode("utf-8", "replace").lower()] = text.strip("\"'")
    return found
