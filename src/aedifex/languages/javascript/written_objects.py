"""Objects that are written out with functions of their own: their members, one by one."""

from __future__ import annotations

from collections.abc import Sequence

from tree_sitter import Node

from aedifex.languages.javascript.page_code import code_of
from aedifex.languages.javascript.reader.grammar import GRAMMAR
from aedifex.languages.tree.grammar import parts, text_of
from aedifex.program.dialect.written import WrittenMember
from aedifex.program.model.module import Module
from aedifex.source.text import Span

_NAMES = frozenset({"property_identifier", "string"})
_FUNCTIONS = frozenset({"function_expression", "generator_function"})


def members_written(module: Module, value: Span) -> Sequence[WrittenMember] | None:
    """The members of an object; None where it is none, or takes over those of others, or works out a name."""
    root = GRAMMAR.parse(code_of(module.source)).root_node
    node = root.named_descendant_for_byte_range(value.start, value.end)
    if node is None or node.type != "object" or (node.start_byte, node.end_byte) != (value.start, value.end):
        return None
    found = [_member(child) for child in parts(node)]
    return None if None in found else [member for member in found if member is not None]


def _member(node: Node) -> WrittenMember | None:
    whole = Span(node.start_byte, node.end_byte)
    if node.type == "shorthand_property_identifier":
        return WrittenMember(text_of(node), whole, whole, value=whole)
    key = node.child_by_field_name("name" if node.type == "method_definition" else "key")
    if key is None or key.type not in _NAMES:
        return None
    name, named = text_of(key).strip("'\""), Span(key.start_byte, key.end_byte)
    if node.type == "method_definition":
        worked_out = any(child.type in ("get", "set") for child in node.children)
        return WrittenMember(name, whole, named, routine=node.start_byte, worked_out=worked_out)
    value = node.child_by_field_name("value")
    if value is None:
        return None
    if value.type in _FUNCTIONS:
        return WrittenMember(name, whole, named, routine=value.start_byte)
    return WrittenMember(name, whole, named, value=Span(value.start_byte, value.end_byte))
