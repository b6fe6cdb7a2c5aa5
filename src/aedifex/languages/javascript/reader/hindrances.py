"""Places in JavaScript where names cannot be followed."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import cache
from pathlib import Path

from aedifex.languages.javascript import pages
from aedifex.languages.javascript.page_code import page_of
from aedifex.languages.javascript.reader.scopes import GLOBAL_OBJECTS, THIS
from aedifex.languages.javascript.rules import words_declaring
from aedifex.program.model.hindrance import Hindrance
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Origin, Reference, Symbol
from aedifex.program.model.statements import Kind

_THROUGH_WINDOW = re.compile(
    rb"(?:\bfor\s*\(\s*(?:(?:var|let|const)\s+)?[\w$.]+\s+in\s+|"
    rb"\bObject\s*\.\s*(?:keys|entries|values|getOwnPropertyNames)\s*\(\s*)(?:window|globalThis|self)\s*\)"
)
_EVALUATING = {"eval": "evaluates a text as code", "Function": "makes a function of a text"}


def find(module: Module) -> list[Hindrance]:
    """All of them, in the order of the text."""
    found: dict[int, Hindrance] = {}
    for reference in module.references:
        hindrance = _of_reference(module, reference)
        if hindrance is not None:
            found[reference.start] = hindrance
    for statement in module.walk():
        if statement.kind is Kind.RESOURCE:  # `with`
            found[statement.start] = _hindrance(module, statement.start, "looks for names in an object first")
    return [*(found[start] for start in sorted(found)), *_of_window(module)]


def _of_window(module: Module) -> Iterator[Hindrance]:
    """Where a script, or one that its page loads, goes through the names of the window, which variables are among."""
    if not any(_is_of_window(module, symbol) for symbol in module.scope.symbols.values()):
        return
    own = _THROUGH_WINDOW.search(module.source.parse_view)
    if own is not None:
        yield _hindrance(module, own.start(), "goes through the names of all global variables")
    if module.source.within is not None:
        page = page_of(module.source)
        for path in pages.files_of(module.path, page):
            if _goes_through_window(path, path.stat().st_mtime_ns):
                line = page.count(b"\n", 0, max(page.find(path.name.encode()), 0)) + 1
                yield Hindrance(
                    module.path, line, f"loads {path.name}, which goes through the names of all global variables"
                )


def _is_of_window(module: Module, symbol: Symbol) -> bool:
    """Whether a variable of the top level is a member of the window: `let`, `const` and `class` make none."""
    is_class = any(reference.form is Form.CLASS for reference in symbol.references)
    return not is_class and symbol.imported is None and words_declaring(module, symbol) <= {"var"}


@cache
def _goes_through_window(path: Path, _time: int) -> bool:
    return _THROUGH_WINDOW.search(path.read_bytes()) is not None


def _of_reference(module: Module, reference: Reference) -> Hindrance | None:
    """What hinders where a name stands that JavaScript, or a page, gives to all scripts."""
    if reference.symbol.origin is not Origin.BUILTIN:
        return None
    first = reference.path[0] if reference.path else None
    is_global = reference.name in GLOBAL_OBJECTS or reference.name == THIS
    if reference.name in _EVALUATING and reference.mode is Mode.CALL:
        return _hindrance(module, reference.start, _EVALUATING[reference.name])
    if not is_global or first is None:
        return None
    if first.name is None:
        return _hindrance(module, reference.start, f"reaches a global variable by a text, through `{reference.name}`")
    if first.name in _EVALUATING and len(reference.path) == 1:
        return _hindrance(module, reference.start, _EVALUATING[first.name])
    if first.name in module.scope.symbols:
        reason = f"reaches `{first.name}` through `{reference.name}`"
        return _hindrance(module, reference.start, reason, frozenset({first.name}))
    return None


def _hindrance(module: Module, start: int, reason: str, touches: frozenset[str] | None = None) -> Hindrance:
    return Hindrance(module.path, module.source.line_of(start), reason, touches)
