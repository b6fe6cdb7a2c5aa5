"""Values at the borders of conditions: what a method compares with, and what is beside it."""

from __future__ import annotations

import ast
import operator
from collections import defaultdict
from collections.abc import Callable, Iterator, Mapping
from itertools import chain

_BOUNDS = ("min", "max")
Value = int | float | str | bool
Known = Mapping[str, Value]
_OPERATIONS: Mapping[type, Callable[[float, float], float]] = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
}


def borders_of(text: str) -> dict[str, list[dict[str, str]]]:
    """For each method, by `Class.method`, what to try: texts of values by what is to have them.

    A parameter goes by its name, a field by `.` and its name, a field of a thing in a field by both: `.lamp.oil`.
    """
    tree = ast.parse(text)
    known = _constants(tree)
    found: dict[str, list[dict[str, str]]] = {}
    for made in (node for node in tree.body if isinstance(node, ast.ClassDef)):
        for method in (node for node in made.body if isinstance(node, ast.FunctionDef)):
            if tried := _tried(method, known):
                found[f"{made.name}.{method.name}"] = tried
    return found


def _constants(tree: ast.Module) -> dict[str, Value]:
    """The plain values that names of a module hold."""
    found: dict[str, Value] = {}
    for node in tree.body:
        if isinstance(node, ast.Assign) and isinstance(name := node.targets[0], ast.Name):
            value = _value(node.value, found)
            if value is not None:
                found[name.id] = value
    return found


def _tried(method: ast.FunctionDef, known: Known) -> list[dict[str, str]]:
    parameters = {each.arg for each in method.args.args}
    tried: list[dict[str, str]] = []
    for node in ast.walk(method):
        if isinstance(node, ast.BoolOp):
            pairs = [pair for value in node.values for pair in _compared(value, parameters, known)]
            at_once = {way: repr(values[0]) for way, values in reversed(pairs)}
            tried += [at_once] if len(at_once) > 1 else []
        tried += [{way: repr(value)} for way, values in _compared(node, parameters, known) for value in values]
    return [each for number, each in enumerate(tried) if each not in tried[:number]]


def _compared(node: ast.AST, parameters: set[str], known: Known) -> Iterator[tuple[str, list[Value]]]:
    """What stands in a condition, each with the values that it is compared with and those beside them."""
    if isinstance(node, ast.Compare):
        parts = [node.left, *node.comparators]
    elif isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in _BOUNDS:
        parts = list(node.args)
    else:
        if isinstance(node, ast.If | ast.While | ast.IfExp):
            for part in _asked(node.test):
                for way in _ways(part, parameters):
                    yield way, [True, False, 0, 1]
        return
    values = [value for part in parts for value in _values(part, known)]
    for way in dict.fromkeys(chain.from_iterable(_ways(part, parameters) for part in parts)):
        beside: dict[type, list[Value]] = defaultdict(list)
        for value in values:
            beside[type(value)] += _beside(value)
        for each in beside.values():
            yield way, list(dict.fromkeys(each))


def _asked(test: ast.expr) -> Iterator[ast.expr]:
    """What a condition asks as it is, compared with nothing."""
    if isinstance(test, ast.BoolOp):
        for value in test.values:
            yield from _asked(value)
    elif isinstance(test, ast.UnaryOp):
        yield from _asked(test.operand)
    elif isinstance(test, ast.Name | ast.Attribute):
        yield test


def _beside(value: Value) -> list[Value]:
    """A value; of a number also the ones beside it."""
    if isinstance(value, str | bool):
        return [value]
    return [value, value - 1, value + 1]


def _values(part: ast.expr, known: Known) -> list[Value]:
    """The plain values that a side of a comparison names, or the one that they come to."""
    whole = _value(part, known)
    if whole is not None:
        return [whole]
    found = [_value(node, known) for node in ast.walk(part) if isinstance(node, ast.Constant | ast.Name)]
    return [value for value in found if value is not None]


def _value(node: ast.expr, known: Known) -> Value | None:
    """What an expression of constants comes to."""
    if isinstance(node, ast.Constant) and isinstance(node.value, int | float | str):
        return node.value
    if isinstance(node, ast.Name):
        return known.get(node.id)
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub):
        inner = _value(node.operand, known)
        return -inner if isinstance(inner, int | float) else None
    if isinstance(node, ast.BinOp) and type(node.op) in _OPERATIONS:
        one, two = _value(node.left, known), _value(node.right, known)
        if isinstance(one, int | float) and isinstance(two, int | float):
            return _OPERATIONS[type(node.op)](one, two)
    return None


def _ways(part: ast.expr, parameters: set[str]) -> Iterator[str]:
    """The parameters and fields in an expression."""
    for node in ast.walk(part):
        if isinstance(node, ast.Name) and node.id in parameters and node.id != "self":
            yield node.id
        elif isinstance(node, ast.Attribute):
            way = _way(node)
            if way:
                yield way


def _way(node: ast.Attribute) -> str:
    names: list[str] = []
    here: ast.expr = node
    while isinstance(here, ast.Attribute):
        names.append(here.attr)
        here = here.value
    is_own = isinstance(here, ast.Name) and here.id == "self" and len(names) <= 2
    return "".join(f".{name}" for name in reversed(names)) if is_own else ""
