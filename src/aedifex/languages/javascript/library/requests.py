"""Which requests a script in JavaScript answers, as its text tells."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from types import MappingProxyType

from aedifex.program.model.inputs import Request, headers_that_tell_who

_TOLD = re.compile(r"""\b(\w+)\s*\.\s*(get|post|put|patch|delete|all)\(\s*(["'`])(/[^"'`]*)\3""")
_ROUTED = re.compile(r"""\b(\w+)\s*\.\s*route\(\s*(["'`])(/[^"'`]*)\2\s*\)""")
_CHAINED = re.compile(r"\s*\.\s*(get|post|put|patch|delete|all)\s*\(")
_BRACKET = re.compile(r"""(["'`])(?:\\.|(?!\1).)*\1|[()]""", re.DOTALL)
_JOINED = re.compile(r"""\.use\(\s*(["'`])(/[^"'`]*)\1\s*,\s*(?:[\w.]+\(\)\s*,\s*)*(\w+)\s*\)""")
_JOINED_AT_ONCE = re.compile(r"""\.use\(\s*(["'`])(/[^"'`]*)\1\s*,\s*require\(\s*["'`](\.{1,2}/[^"'`]+)["'`]\s*\)""")
_BROUGHT = re.compile(
    r"""\b(\w+)\s*=\s*require\(\s*["'`](\.{1,2}/[^"'`]+)["'`]\s*\)|\bimport\s+(\w+)\s+from\s*["'`](\.{1,2}/[^"'`]+)["'`]"""
)
_HANDED_OUT = re.compile(r"\bmodule\.exports\s*=\s*(\w+)|\bexport\s+default\s+(\w+)")
_ASKED = re.compile(r"""\w\s*===?\s*(["'`])(/[^"'`]*)\1|\bcase\s+(["'`])(/[^"'`]*)\3""")
_BEGUN = re.compile(r"""\w\s*\.\s*startsWith\(\s*(["'`])(/[^"'`]*)\1""")
_STEP_ASKED = re.compile(r"""\[[01]\]\s*===?\s*(["'`])([\w-]+)\1""")
_MATCHED = re.compile(r"""/\^?\\/((?:[\w-]+\\/)*[\w-]+)\\/[\[(\\]""")
_METHOD = re.compile(r"""\bmethod\s*===?\s*["'`]([A-Z]+)["'`]""")
_PARAMETER = re.compile(r":(\w+)(?:\([^)]*\))?\??")
_NAMES = {
    word: re.compile(rf"\b{word}\s*\??\.\s*(\w+)|\{{([^{{}}]*)\}}\s*=\s*\w+\.{word}\b") for word in ("body", "query")
}
_VARYING = re.compile(r"\{(\w+)\}")
_COUNTED = re.compile(r"(?:Number|parseInt|[=(,]\s*\+)\(?\s*\w+\.params\.(\w+)")
_MAKES_NUMBERS = re.compile(r"\b(?:Number|parseInt)\(")
_HEADER = re.compile(
    r"""\bheaders\s*(?:\[\s*["'`]([\w-]+)["'`]\s*\]|\??\.\s*(\w+)\b(?!\())|\.(?:header|get)\(\s*["'`]([\w-]+)["'`]\s*\)"""
)
_REST = "rest"
_BODIES = frozenset({"POST", "PUT", "PATCH"})


def routers_of(text: str) -> dict[str, str]:
    """The files that a script takes routers from, as it spells them, each with the path that its router is under."""
    brought = {required or taken: at or there for required, at, taken, there in _BROUGHT.findall(text)}
    found = {brought[name]: path for _, path, name in _JOINED.findall(text) if name in brought}
    return found | {spelled: path for _, path, spelled in _JOINED_AT_ONCE.findall(text)}


def router_of(text: str) -> str:
    """The router that a file hands out; empty where it hands out none by a name."""
    found = _HANDED_OUT.search(text)
    return (found[1] or found[2]) if found is not None else ""


def requests_of(text: str, under: Mapping[str, str] = MappingProxyType({})) -> tuple[Request, ...]:
    """The requests, in the order of the text: those of applications and routers, and those asked for by their path.

    `under` are the paths that another file puts routers of this one under, by their names.
    """
    found: dict[tuple[str, str], Request] = {}
    body, query = (tuple(_names(text, word)) for word in ("body", "query"))
    counted = {*_COUNTED.findall(text), *([_REST] if _MAKES_NUMBERS.search(text) else [])}
    headers = headers_that_tell_who((name for names in _HEADER.findall(text) for name in names), text)
    is_form = "urlencoded(" in text or "URLSearchParams" in text
    for method, path in [*_told(text, under), *_asked(text)]:
        form, json = ((body, ()) if is_form else ((), body)) if method in _BODIES else ((), ())
        has_body = method in _BODIES and not body
        numbers = tuple(n for n, name in enumerate(_VARYING.findall(path)) if name in counted)
        request = Request(
            (method,),
            path,
            numbers,
            form=form,
            query=query,
            json=json,
            has_body=has_body,
            headers=headers,
        )
        found.setdefault((method, path), request)
    return tuple(found.values())


def _told(text: str, under: Mapping[str, str]) -> Iterator[tuple[str, str]]:
    """What applications and routers are told of, with the path that a router is under."""
    prefixes = {name: path.rstrip("/") for name, path in [*under.items(), *(j[:0:-1] for j in _JOINED.findall(text))]}
    routers = set(re.findall(r"\b(\w+)\s*=\s*(?:\w+\.)?(?:express|Router)\w*\(|\b(\w+)\s*=\s*\w+\.Router\(", text))
    known = {name for pair in routers for name in pair if name} | prefixes.keys()
    told = [(m.start(), m[1], m[2], m[4]) for m in _TOLD.finditer(text)]
    told += [(m.start(), m[1], verb, m[3]) for m in _ROUTED.finditer(text) for verb in _chained(text, m.end())]
    for _, name, method, path in sorted(told, key=lambda each: each[0]):
        if name in known:
            whole = _PARAMETER.sub(r"{\1}", prefixes.get(name, "") + path) or "/"
            yield ("GET" if method == "all" else method.upper()), whole if whole == "/" else whole.rstrip("/")


def _chained(text: str, at: int) -> Iterator[str]:
    """The verbs of the calls that are chained to what ends at a place: `.get(…).post(…)`."""
    while (call := _CHAINED.match(text, at)) is not None:
        yield call[1]
        at, depth = call.end(), 1
        for mark in _BRACKET.finditer(text, at):
            depth += {"(": 1, ")": -1}.get(mark[0], 0)
            at = mark.end()
            if not depth:
                break


def _asked(text: str) -> Iterator[tuple[str, str]]:
    """The paths that a handler of its own compares the request's with, by each method that it speaks of."""
    if "createServer" not in text:
        return
    methods = dict.fromkeys(["GET", *_METHOD.findall(text)])
    paths = [one or two for _, one, _, two in _ASKED.findall(text)]
    steps = [f"/{step}" for _, step in _STEP_ASKED.findall(text)]
    begun = [path.rstrip("/") for _, path in _BEGUN.findall(text)]
    begun += ["/" + path.replace("\\/", "/") for path in _MATCHED.findall(text)]
    paths += [*steps, *(f"{path}/{{{_REST}}}" for path in [*steps, *begun])]
    for path in dict.fromkeys(paths):
        for method in methods:
            yield method, path


def _names(text: str, word: str) -> Iterator[str]:
    found: dict[str, None] = {}
    for member, taken in _NAMES[word].findall(text):
        parts = [member] if member else [re.split(r"[:=]", part)[0].strip() for part in taken.split(",")]
        found.update(dict.fromkeys(part for part in parts if part.isidentifier()))
    yield from found
