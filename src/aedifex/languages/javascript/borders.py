"""Values at the borders of conditions: what a method compares with, and what is beside it."""

from __future__ import annotations

import json
from collections.abc import Collection, Iterator, Mapping
from itertools import chain

from tree_sitter import Node

from aedifex.languages.javascript.literals import text_value
from aedifex.languages.javascript.page_code import code_of_text
from aedifex.languages.javascript.reader.grammar import GRAMMAR
from aedifex.languages.tree.grammar import below, parts, text_of

_COMPARING = frozenset({"<", "<=", ">", ">=", "==", "===", "!=", "!=="})
_JOINING = frozenset({"&&", "||"})
_ASKING = frozenset({"if_statement", "while_statement", "ternary_expression"})
_BOUNDS = frozenset({b"Math.min", b"Math.max"})
_DEEPEST = 2
Known = Mapping[str, "int | float | str"]


def borders_of(text: str) -> dict[str, list[dict[str, str]]]:
    """For each method, by `Class.method`, what to try: texts of values by what is to have them.

    A parameter goes by its name, a field by `.` and its name, a field of a thing in a field by both: `.lamp.oil`.
    """
    root = GRAMMAR.parse(code_of_text(text.encode())).root_node
    known = dict(_constants(root))
    found: dict[str, list[dict[str, str]]] = {}
    for made in (node for node in parts(root) if node.type == "class_declaration"):
        body, name = made.child_by_field_name("body"), made.child_by_field_name("name")
        for method in parts(body) if body is not None else ():
            called = method.child_by_field_name("name")
            if method.type == "method_definition" and (tried := _tried(method, known)):
                found[f"{text_of(name)}.{text_of(called)}"] = tried
    return found


def _constants(root: Node) -> Iterator[tuple[str, int | float | str]]:
    """The plain values that names of a script hold."""
    for statement in parts(root):
        for declared in parts(statement) if statement.type == "lexical_declaration" else ():
            name, held = declared.child_by_field_name("name"), declared.child_by_field_name("value")
            if held is not None and (value := _value(held, {})) is not None:
                yield text_of(name), value


def _tried(method: Node, known: Known) -> list[dict[str, str]]:
    given = method.child_by_field_name("parameters")
    parameters = {text_of(each) for each in parts(given)} if given is not None else set()
    tried: list[dict[str, str]] = []
    for node in below(method):
        if node.type == "binary_expression" and text_of(node.child_by_field_name("operator")) in _JOINING:
            pairs = [pair for side in parts(node) for pair in _compared(side, parameters, known)]
            at_once = {way: values[0] for way, values in reversed(pairs)}
            tried += [at_once] if len(at_once) > 1 else []
        tried += [{way: value} for way, values in _compared(node, parameters, known) for value in values]
    return [each for number, each in enumerate(tried) if each not in tried[:number]]


def _compared(node: Node, parameters: Collection[str], known: Known) -> Iterator[tuple[str, list[str]]]:
    """What stands in a condition, each with the values that it is compared with and those beside them."""
    if node.type == "binary_expression" and text_of(node.child_by_field_name("operator")) in _COMPARING:
        sides = parts(node)
    elif node.type == "call_expression" and (node.child_by_field_name("function") or node).text in _BOUNDS:
        sides = parts(node.child_by_field_name("arguments") or node)
    else:
        test = node.child_by_field_name("condition") if node.type in _ASKING else None
        for asked in _asked(test) if test is not None else ():
            for way in _ways(asked, parameters):
                yield way, ["true", "false", "0", "1"]
        return
    values = list(chain.from_iterable(_beside(value) for side in sides for value in _values(side, known)))
    for way in dict.fromkeys(chain.from_iterable(_ways(side, parameters) for side in sides)) if values else ():
        yield way, list(dict.fromkeys(values))


def _asked(test: Node) -> Iterator[Node]:
    """What a condition asks as it is, compared with nothing."""
    is_joined = test.type == "binary_expression" and text_of(test.child_by_field_name("operator")) in _JOINING
    if is_joined or test.type in ("parenthesized_expression", "unary_expression"):
        for part in parts(test):
            yield from _asked(part)
    elif test.type in ("identifier", "member_expression"):
        yield test


def _beside(value: float | str) -> list[str]:
    """A value; of a number also the ones beside it."""
    if isinstance(value, str):
        return [json.dumps(value, ensure_ascii=False)]
    return [str(each) for each in (value, value - 1, value + 1)]


def _values(side: Node, known: Known) -> list[int | float | str]:
    """The plain values that a side of a comparison names, or the one that it comes to."""
    whole = _value(side, known)
    found = [whole] if whole is not None else [_value(node, known) for node in below(side)]
    return [value for value in found if value is not None]


def _value(node: Node, known: Known) -> int | float | str | None:
    """What an expression of constants comes to."""
    text = text_of(node)
    if node.type == "number":
        return int(text) if text.isdigit() else float(text) if text.replace(".", "", 1).isdigit() else None
    if node.type == "string":
        return text_value(text)
    if node.type == "identifier":
        return known.get(text)
    if node.type == "unary_expression" and text.startswith("-"):
        inner = _value(parts(node)[-1], known)
        return -inner if isinstance(inner, int | float) else None
    if node.type != "binary_expression":
        return None
    sides = [_value(side, known) for side in parts(node)]
    one, two = sides if len(sides) == 2 else (None, None)
    if not isinstance(one, int | float) or not isinstance(two, int | float):
        return None
    return {"+": one + two, "-": one - two, "*": one * two}.get(text_of(node.child_by_field_name("operator")))


def _ways(side: Node, parameters: Collection[str]) -> Iterator[str]:
    """The parameters and fields in an expression."""
    for node in below(side):
        if node.type == "identifier" and text_of(node) in parameters:
            yield text_of(node)
        elif node.type == "member_expression" and (steps := text_of(node).split("."))[0] == "this":
            is_value = steps[-1] != "length" and all(step.isidentifier() for step in steps)
            if is_value and 1 < len(steps) <= _DEEPEST + 1:
                yield "".join(f".{step}" for step in steps[1:])
