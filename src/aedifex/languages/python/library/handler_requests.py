"""Finding which requests the handler classes of the standard library's server answer, and functions by PEP 3333.

From their text alone.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator

from aedifex.languages.python.library.requests import names_read
from aedifex.program.model.inputs import Request
from aedifex.program.model.module import Module

_SERVERS = ("http", "http.server")
_DOING, _BEGINS = "do_", "startswith"
_PATH_GIVEN = "PATH_INFO"
_METHODS = ("GET", "POST", "PUT", "PATCH", "DELETE")


def find(module: Module) -> Iterator[Request]:
    """The requests for whose paths a method `do_GET`, `do_POST` … asks, or a function that is given the environment."""
    has_server = not module.imported.isdisjoint(_SERVERS)
    if not has_server and _PATH_GIVEN.encode() not in module.source.data:
        return
    try:
        tree = ast.parse(module.source.data)
    except (SyntaxError, ValueError):
        return
    for function in ast.walk(tree):
        if not isinstance(function, ast.FunctionDef):
            continue
        if has_server and function.name.startswith(_DOING):
            yield from _requests(function, (function.name.removeprefix(_DOING).upper(),))
        elif any(isinstance(node, ast.Constant) and node.value == _PATH_GIVEN for node in ast.walk(function)):
            asked = {node.value for node in ast.walk(function) if isinstance(node, ast.Constant)}
            yield from _requests(function, tuple(m for m in _METHODS if m in asked) or _METHODS[:1])


def _requests(function: ast.FunctionDef, methods: tuple[str, ...]) -> Iterator[Request]:
    text = ast.unparse(function)
    form, query, json = names_read(text)
    paths = dict.fromkeys(_paths(function)) or {"/": None}
    for path in paths:
        yield Request(
            methods=methods,
            path=path,
            numbers=(0,) if "{}" in path and "int(" in text else (),
            form=form,
            query=query,
            json=json,
            has_body="rfile" in text and not form and not json,
        )


def _paths(function: ast.FunctionDef) -> Iterator[str]:
    """The paths that a method compares with something, with `{}` for what comes behind one that is only a begin."""
    for node in ast.walk(function):
        if isinstance(node, ast.Compare):
            sides = [node.left, *node.comparators]
            yield from (path for side in sides for path in _texts(side))
        elif isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr == _BEGINS:
            yield from (f"{path}{{}}" for argument in node.args for path in _texts(argument))


def _texts(node: ast.expr) -> Iterator[str]:
    parts = node.elts if isinstance(node, ast.Tuple | ast.List | ast.Set) else [node]
    values = (part.value for part in parts if isinstance(part, ast.Constant))
    return (value for value in values if isinstance(value, str) and value.startswith("/"))
