"""What a copied script says to the stage so that the calls of its classes can be noted."""

from __future__ import annotations

import json
from collections.abc import Collection, Iterator
from pathlib import Path

from tree_sitter import Node

from aedifex.languages.javascript import pages
from aedifex.languages.javascript.reader.grammar import GRAMMAR
from aedifex.languages.tree.grammar import parts, text_of

_NOT_WATCHED = frozenset({"get", "set", "static", "*"})


def watched(path: Path, text: bytes, classes: Collection[str]) -> bytes:
    """The text of a script, or of a page, in which each of these classes is watched from where it is declared."""
    root = GRAMMAR.parse(pages.code_of(text) if pages.is_page(path) else text).root_node
    for statement in reversed(parts(root)):
        node = statement.child_by_field_name("declaration") or statement
        name = node.child_by_field_name("name") if node.type == "class_declaration" else None
        if name is not None and (called := text_of(name)) in classes:
            told = f" {called} = aedifexWatched({called}, {json.dumps(dict(_methods(node)))});"
            text = text[: node.end_byte] + told.encode() + text[node.end_byte :]
    return text


def _methods(declared: Node) -> Iterator[tuple[str, list[str]]]:
    """The methods of a class that begin when they are called, and the names of what they are given."""
    body = declared.child_by_field_name("body")
    for method in parts(body) if body is not None else ():
        name, given = method.child_by_field_name("name"), method.child_by_field_name("parameters")
        if method.type != "method_definition" or name is None or given is None:
            continue
        names = [each.child_by_field_name("left") or each for each in parts(given)]
        is_plain = name.type == "property_identifier" and all(each.type == "identifier" for each in names)
        if is_plain and not any(child.type in _NOT_WATCHED for child in method.children):
            yield text_of(name), [text_of(each) for each in names]
