"""Finding which requests a Python script answers, and what it reads of them, from its text alone."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator, Mapping
from dataclasses import replace
from types import MappingProxyType
from typing import NamedTuple

from aedifex.languages.python.routes import all_routes
from aedifex.program.model.inputs import Request, headers_that_tell_who
from aedifex.program.model.module import Module

_JOINING = frozenset({"register_blueprint", "include_router"})
_VARYING = re.compile(r"<(?:(?P<first>\w+):)?(?P<name>\w+)(?::(?P<last>\w+))?>|\{(?P<braced>\w+)(?::(?P<sort>\w+))?\}")
_FORM = re.compile(r"""\.(?:forms?|values|params|POST)(?:\.get(?:list|one)?\(|\[)\s*["'](\w+)["']""")
_QUERY = re.compile(r"""\.(?:args|query|query_params|GET)(?:\.get(?:list|one)?\(|\[)\s*["'](\w+)["']""")
_JSON = re.compile(r"""(?:\bjson|get_json\([^)]*\)|\bdata|\bpayload|\bbody)(?:\.get\(|\[)\s*["'](\w+)["']""")
_FILES = re.compile(r"""\.files(?:\.get(?:list|one)?\(|\[)\s*["'](\w+)["']""")
_HEADER = re.compile(r"""\bheaders(?:\.get(?:_header)?\(|\[)\s*["']([\w-]+)["']""")
_FORM_MEMBER = re.compile(r"\bforms\.(?!get|decode|all|items|keys)(\w+)")
_QUERY_MEMBER = re.compile(r"\bquery\.(?!get|decode|all|items|keys)(\w+)")


class Joined(NamedTuple):
    """A part of an application from another module: that, what it is called there, and the path that it is under."""

    module: str
    name: str
    path: str


def find(module: Module, under: Mapping[str, str] = MappingProxyType({})) -> Iterator[Request]:
    """The requests for which a decorator, or a call that adds a rule, names a path.

    `under` are the paths that another file puts parts of this one under, by their names.
    """
    text = module.source.data.decode("utf-8", "replace")
    headers = headers_that_tell_who(_HEADER.findall(text), text)
    return (replace(request, headers=headers) for request in _found(module, under))


def joined(module: Module) -> Iterator[Joined]:
    """The parts of an application that a script takes from other modules."""
    tree = _tree(module)
    brought = {
        alias.asname or alias.name: (node.module or "", alias.name)
        for node in ast.walk(tree)
        if isinstance(node, ast.ImportFrom)
        for alias in node.names
    }
    modules = {a.asname or a.name: a.name for n in ast.walk(tree) if isinstance(n, ast.Import) for a in n.names}
    for part, path in _put_under(tree):
        if isinstance(part, ast.Name) and part.id in brought:
            yield Joined(*brought[part.id], path)
        elif isinstance(part, ast.Attribute) and (of := ast.unparse(part.value)) in {*modules, *brought}:
            home = modules.get(of) or ".".join(filter(None, brought[of]))
            yield Joined(home, part.attr, path)


def _tree(module: Module) -> ast.Module:
    try:
        return ast.parse(module.source.data)
    except (SyntaxError, ValueError):
        return ast.Module(body=[], type_ignores=[])


def _put_under(tree: ast.Module) -> Iterator[tuple[ast.expr, str]]:
    """What is made a part of an application, with the path that is said there."""
    for call in (node for node in ast.walk(tree) if isinstance(node, ast.Call)):
        if call.args and _last_name(call.func) in _JOINING:
            yield call.args[0], _prefix(call)


def _prefix(call: ast.Call) -> str:
    """The path that a call says all others begin with."""
    said = (k.value for k in call.keywords if k.arg in ("prefix", "url_prefix"))
    return next((v.value for v in said if isinstance(v, ast.Constant) and isinstance(v.value, str)), "")


def _prefixes(tree: ast.Module, under: Mapping[str, str]) -> dict[str, str]:
    """The paths that parts of an application are under: what is said where one is joined comes first, or instead."""
    outer = {part.id: path for part, path in _put_under(tree) if isinstance(part, ast.Name)} | {**under}
    found = dict(outer)
    for node in tree.body:
        if not isinstance(node, ast.Assign) or not isinstance(node.value, ast.Call):
            continue
        is_instead, own = any(k.arg == "url_prefix" for k in node.value.keywords), _prefix(node.value)
        for target in (target for target in node.targets if isinstance(target, ast.Name)):
            before = outer.get(target.id, "")
            found[target.id] = (before or own) if is_instead else before + own
    return found


def _found(module: Module, under: Mapping[str, str]) -> Iterator[Request]:
    known = {verb for routes in all_routes() for verb in routes.routes}
    if not any(routes.is_used_in(module.imported) for routes in all_routes()):
        return
    tree = _tree(module)
    prefixes = _prefixes(tree, under)
    functions = {n.name: n for n in ast.walk(tree) if isinstance(n, ast.FunctionDef | ast.AsyncFunctionDef)}
    for function in functions.values():
        for decorator in function.decorator_list:
            if isinstance(decorator, ast.Call) and _last_name(decorator.func) in known:
                yield from _request(decorator, function, prefixes)
    for node in ast.walk(tree):
        if isinstance(node, ast.Call) and _last_name(node.func) in known:
            handlers = (functions.get(_last_name(a)) for a in [*node.args, *(k.value for k in node.keywords)])
            handler = next((found for found in handlers if found is not None), None)
            if handler is not None:
                yield from _request(node, handler, prefixes)
    yield from _in_loops(tree, known)


def _in_loops(tree: ast.Module, known: set[str]) -> Iterator[Request]:
    """The requests whose paths are put together in a loop over texts that are written out."""
    listed = {
        target.id: texts
        for node in tree.body
        if isinstance(node, ast.Assign) and (texts := _texts(node.value))
        for target in node.targets
        if isinstance(target, ast.Name)
    }
    for loop in (node for node in ast.walk(tree) if isinstance(node, ast.For)):
        over, name = _gone_over(loop.iter), loop.target
        if isinstance(name, ast.Tuple) and name.elts:
            name = name.elts[0]
        texts = listed.get(over.id, []) if isinstance(over, ast.Name) else _texts(over)
        if not isinstance(name, ast.Name):
            continue
        for call in (node for node in ast.walk(loop) if isinstance(node, ast.Call) and _last_name(node.func) in known):
            values = _values(call)
            for text in texts if values else ():
                path = _put_together(values[0], {name.id: text})
                if path is not None and path.startswith("/") and not isinstance(values[0], ast.Constant):
                    yield Request(methods=_methods(call), path=_VARYING.sub(_named, path))


def _gone_over(node: ast.expr) -> ast.expr:
    """The list or the table over which a loop goes, perhaps by its keys or by them and what is under them."""
    if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and not node.args:
        return node.func.value
    return node


def _texts(node: ast.expr) -> list[str]:
    """The texts of a list, or the keys of a table, that is written out; none where it has others."""
    elements = node.keys if isinstance(node, ast.Dict) else getattr(node, "elts", [])
    values = [element.value for element in elements if isinstance(element, ast.Constant)]
    texts = [value for value in values if isinstance(value, str)]
    return texts if len(texts) == len(elements) else []


def _put_together(node: ast.expr, known: Mapping[str, str]) -> str | None:
    """A text that is put together of others; None where that is not plain to see."""
    if isinstance(node, ast.Constant):
        return node.value if isinstance(node.value, str) else None
    if isinstance(node, ast.Name):
        return known.get(node.id)
    if isinstance(node, ast.FormattedValue):
        return _put_together(node.value, known) if node.format_spec is None else None
    if isinstance(node, ast.BinOp) and isinstance(node.op, ast.Add):
        parts: list[ast.expr] = [node.left, node.right]
    elif isinstance(node, ast.JoinedStr):
        parts = node.values
    else:
        return None
    texts = [_put_together(part, known) for part in parts]
    return None if None in texts else "".join(text for text in texts if text is not None)


def _request(
    call: ast.Call, handler: ast.FunctionDef | ast.AsyncFunctionDef, prefixes: Mapping[str, str]
) -> Iterator[Request]:
    values = _values(call)
    paths = [v.value for v in values if isinstance(v, ast.Constant) and isinstance(v.value, str)]
    if not paths or not paths[0].startswith("/"):
        return
    text = ast.unparse(handler)
    part = ast.unparse(call.func.value) if isinstance(call.func, ast.Attribute) else ""
    found = list(_VARYING.finditer(paths[0]))
    names = {m["name"] or m["braced"] for m in found}
    hints = {a.arg: ast.unparse(a.annotation) for a in handler.args.args if a.annotation is not None}
    given = [
        a.arg for a in handler.args.args if a.arg not in names and hints.get(a.arg) in ("int", "str", "float", "bool")
    ]
    form, query, json = names_read(text)
    yield Request(
        methods=_methods(call),
        path=prefixes.get(part, "") + _VARYING.sub(_named, paths[0]),
        numbers=tuple(
            n for n, m in enumerate(found) if "int" in m.groups() or hints.get(m["name"] or m["braced"]) == "int"
        ),
        form=form,
        query=(*query, *given),
        json=json,
        files=(*_names(text, _FILES), *(name for name, hint in hints.items() if "UploadFile" in hint)),
    )


def _named(part: re.Match[str]) -> str:
    """A part of a path that varies, by its name alone."""
    return f"{{{part['name'] or part['braced']}}}"


def names_read(text: str) -> tuple[tuple[str, ...], tuple[str, ...], tuple[str, ...]]:
    """The names that the text of a handler looks for in the form, behind the path, and in the data sent."""
    return _names(text, _FORM, _FORM_MEMBER), _names(text, _QUERY, _QUERY_MEMBER), _names(text, _JSON)


def _names(text: str, *patterns: re.Pattern[str]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(name for pattern in patterns for name in pattern.findall(text)))


def _values(call: ast.Call) -> list[ast.expr]:
    """What a call is given that may be its path, that first."""
    return [*call.args, *(k.value for k in call.keywords if k.arg in ("rule", "path"))]


def _methods(call: ast.Call) -> tuple[str, ...]:
    """The methods that a call names, itself or by its own name; `GET` otherwise."""
    named = _last_name(call.func).upper()
    if named in ("GET", "POST", "PUT", "PATCH", "DELETE", "HEAD"):
        return (named,)
    texts = [k.value for k in call.keywords if k.arg in ("methods", "method")]
    found = [c.value for text in texts for c in ast.walk(text) if isinstance(c, ast.Constant)]
    return tuple(str(value).upper() for value in found) or ("GET",)


def _last_name(node: ast.expr) -> str:
    return node.attr if isinstance(node, ast.Attribute) else node.id if isinstance(node, ast.Name) else ""
