"""The arguments that a script declares with argparse, from its text alone."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from aedifex.program.model.inputs import Option
from aedifex.program.model.module import Module

_FLAGS = frozenset({"store_true", "store_false", "count", "store_const", "append_const"})
_ENDS = frozenset({"help", "version"})
_OF_KIND = {"int": ("3", "10", "0", "-1"), "float": ("1.5", "3")}
_ANY = ("3", "x", "hello", "10")


def find(module: Module) -> Iterator[Option]:
    """The arguments, those without a name in the order in which they stand."""
    try:
        tree = ast.parse(module.source.encode())
    except (SyntaxError, ValueError, RecursionError):
        return
    calls = [n for n in ast.walk(tree) if isinstance(n, ast.Call) and isinstance(n.func, ast.Attribute)]
    for call in sorted(calls, key=lambda call: call.lineno):
        if isinstance(call.func, ast.Attribute) and call.func.attr == "add_argument":
            yield from _option(call)
        elif isinstance(call.func, ast.Attribute) and call.func.attr == "add_parser" and call.args:
            yield Option((), tuple(_texts(call.args[:1])))


def _option(call: ast.Call) -> Iterator[Option]:
    names = tuple(_texts(call.args))
    given = {keyword.arg: keyword.value for keyword in call.keywords}
    action = next(_texts([given["action"]]), "") if "action" in given else ""
    if not names or action in _ENDS:
        return
    values = () if action in _FLAGS else _values(given)
    if names[0].startswith("-"):
        yield Option(names, values, is_needed=_is_true(given.get("required")))
    else:
        nargs = next(_texts([given["nargs"]]), "") if "nargs" in given else ""
        yield Option((), values, is_needed=nargs not in ("?", "*"))


def _values(given: dict[str | None, ast.expr]) -> tuple[str, ...]:
    choices = given.get("choices")
    if isinstance(choices, (ast.List, ast.Tuple, ast.Set)):
        found = tuple(str(each.value) for each in choices.elts if isinstance(each, ast.Constant))
        if found:
            return found
    kind = given.get("type")
    return _OF_KIND.get(kind.id, _ANY) if isinstance(kind, ast.Name) else _ANY


def _texts(nodes: list[ast.expr]) -> Iterator[str]:
    yield from (node.value for node in nodes if isinstance(node, ast.Constant) and isinstance(node.value, str))


def _is_true(node: ast.expr | None) -> bool:
    return isinstance(node, ast.Constant) and node.value is True
