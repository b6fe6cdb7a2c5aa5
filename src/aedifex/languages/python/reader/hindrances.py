"""Finding the places in a Python file where names cannot be followed."""

from __future__ import annotations

import re
from collections.abc import Iterator

from aedifex.languages.python.library.standard import DYNAMIC_FUNCTIONS, TEXT_RUNNERS
from aedifex.program.model.hindrance import Hindrance
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Origin, Reference, ScopeKind
from aedifex.program.model.statements import Call, Statement
from aedifex.source.text import Span

_MODULE_LISTS = frozenset({"modules"})
_KEY = re.compile(rb"""\s*\[\s*(['"])(\w+)\1\s*\]""")
_FRAME_VIEWS = frozenset({"f_globals", "f_locals", "__globals__"})
_STACK_VIEWS = frozenset(
    "_getframe currentframe f_code f_back co_name extract_stack format_stack print_stack getouterframes".split()
)
_FILE_OF_FRAME = frozenset({"getfile", "getsourcefile"})
_UNBOUND = frozenset({"NameError", "UnboundLocalError"})
_LOGGED_PLACES = re.compile(r"[%{]\(?(?:funcName|lineno|module|filename|pathname)\b")
_BY_NAME = frozenset({"setattr", "delattr", "getattr"})


def find(module: Module) -> list[Hindrance]:
    """All hindrances of a module, in the order of the text."""
    found = [
        *_stars(module),
        *(hindrance for statement in module.walk() for hindrance in _in_statement(module, statement)),
        *_logged_places(module),
    ]
    return sorted(found, key=lambda hindrance: hindrance.line)


def _stars(module: Module) -> Iterator[Hindrance]:
    for name, star in module.unknown_stars:
        line = module.source.line_of(star.start)
        perhaps = frozenset(s.name for s in module.outside.symbols.values() if s.origin is Origin.PERHAPS_STAR)
        reason = f"the names that `from {name} import *` brings cannot be found out"
        if perhaps:
            reason += f"; perhaps {', '.join(sorted(perhaps)[:5])}"
        yield Hindrance(module.path, line, reason, perhaps)


def _in_statement(module: Module, statement: Statement) -> Iterator[Hindrance]:
    for reference in statement.references:
        if reference.symbol.scope.kind is not ScopeKind.OUTSIDE:
            yield from _imports_that_reach_in(module, reference)
            if _is_own_dictionary(module, reference):
                yield _everything(module, reference, "reaches the module's variables by its `__dict__`")
            elif _is_module_table(reference):
                yield _everything(module, reference, "reaches modules by `sys.modules`")
            continue
        if reference.name == "RecursionError" and reference.mode.reads:
            yield _everything(module, reference, "depends on how deep calls may go")
        elif reference.name in _UNBOUND and reference.mode.reads:
            yield Hindrance(
                module.path,
                module.source.line_of(reference.start),
                f"catches or raises `{reference.name}`, which unbound names depend on",
                None,
            )
        elif reference.name in DYNAMIC_FUNCTIONS and reference.mode.reads:
            yield from _dynamic(module, statement, reference)
    for call in statement.calls:
        yield from _set_on_import(module, call)
    if not _FILE_OF_FRAME.intersection(statement.attributes):
        yield from _looks_at_stack(module, statement)
    for name in _FRAME_VIEWS.intersection(statement.attributes):
        line = module.source.line_of(statement.start)
        yield Hindrance(module.path, line, f"reaches variables through a frame's `{name}`", None)


def _looks_at_stack(module: Module, statement: Statement) -> Iterator[Hindrance]:
    """Code that looks at what is running sees functions by their names and places."""
    names = {*statement.attributes, *(reference.name for reference in statement.references)}
    found = sorted(_STACK_VIEWS & names)
    if any(
        r.symbol.imported == ("inspect", None) and r.path and r.path[0].name == "stack" for r in statement.references
    ):
        found.append("inspect.stack")
    if found:
        line = module.source.line_of(statement.start)
        yield Hindrance(module.path, line, f"looks at what is running by `{found[0]}`", None)


def _logged_places(module: Module) -> Iterator[Hindrance]:
    """Texts by which a logger writes where in the program it was called."""
    if "logging" not in {name.partition(".")[0] for name in module.imported}:
        return
    for span in module.strings:
        if _LOGGED_PLACES.search(module.source.slice(span)):
            line = module.source.line_of(span.start)
            yield Hindrance(module.path, line, "writes the names or places of functions into a log", None)


def _imports_that_reach_in(module: Module, reference: Reference) -> Iterator[Hindrance]:
    """Modules that run text, and the script itself imported as a module."""
    imported = reference.symbol.imported
    if imported is None:
        return
    line = module.source.line_of(reference.start)
    if reference.form is Form.IMPORT and imported.package in TEXT_RUNNERS:
        yield Hindrance(module.path, line, f"may run text as code by `{imported.module}`", None)
    elif imported == ("__main__", None) and reference.path and reference.path[0].name != "__dict__":
        touched = frozenset({reference.path[0].name or ""})
        yield Hindrance(module.path, line, "reaches the script's own variables through `__main__`", touched)
    elif imported.module == "__main__" and imported.name is not None and reference.form is Form.IMPORT:
        yield Hindrance(module.path, line, "imports from the script itself", frozenset({imported.name}))


def _everything(module: Module, reference: Reference, reason: str) -> Hindrance:
    return Hindrance(module.path, module.source.line_of(reference.start), reason, None)


def _dynamic(module: Module, statement: Statement, reference: Reference) -> Iterator[Hindrance]:
    call = next((call for call in statement.calls if call.callee is reference), None)
    if reference.name in ("vars", "dir") and call is not None and call.arguments:
        return
    home = reference.scope.home
    if home.kind is ScopeKind.ROUTINE and reference.name in ("dir", "vars", "locals"):
        line = module.source.line_of(reference.start)
        if reference.name != "dir":
            yield Hindrance(module.path, line, DYNAMIC_FUNCTIONS[reference.name], frozenset(home.symbols))
        if not _fills_template(module, statement, call):
            reason = f"shows all names of a function by `{reference.name}()`"
            yield Hindrance(module.path, line, reason, frozenset({home.name}))
        return
    if reference.name in ("eval", "exec") and call is not None and _has_own_names(call):
        return
    touches = None
    if call is not None and reference.name in ("globals", "vars"):
        key = _KEY.match(module.source.data, call.end)
        touches = frozenset({key[2].decode()}) if key is not None else None
    yield Hindrance(module.path, module.source.line_of(reference.start), DYNAMIC_FUNCTIONS[reference.name], touches)


def _has_own_names(call: Call) -> bool:
    """Whether a text is run with names that are given to it: those of the script come in by a call of their own."""
    return len(call.arguments) > 1 and not any(a.stars or a.keyword for a in call.arguments)


def _fills_template(module: Module, statement: Statement, call: Call | None) -> bool:
    """Whether names are shown to a template only, which takes what it mentions: `text % locals()` and the like."""
    if call is None:
        return False
    is_operand = module.source.slice(Span(statement.start, call.start)).rstrip().endswith("%")
    return is_operand or not {"format", "format_map"}.isdisjoint(statement.attributes)


def _is_own_dictionary(module: Module, reference: Reference) -> bool:
    """Whether the variables of the script itself are reached through a module object's `__dict__`."""
    imported = reference.symbol.imported
    return (
        bool(reference.path)
        and reference.path[0].name == "__dict__"
        and imported is not None
        and imported.name is None
        and imported.module in (module.path.stem, "__main__")
    )


def _is_module_table(reference: Reference) -> bool:
    return (
        bool(reference.path)
        and reference.path[0].name in _MODULE_LISTS
        and reference.symbol.imported == ("sys", None)
        and reference.mode is Mode.READ
    )


def _set_on_import(module: Module, call: Call) -> Iterator[Hindrance]:
    callee = call.callee
    if callee is None or callee.path or callee.name not in _BY_NAME or not call.arguments:
        return
    if callee.symbol.scope.kind is not ScopeKind.OUTSIDE:
        return
    first = call.arguments[0]
    target = module.reference_at.get(first.start)
    if target is None or target.end != first.end or target.symbol.imported is None:
        return
    name, what = target.symbol.imported
    if what is None and name in (module.path.stem, "__main__"):
        line = module.source.line_of(call.start)
        yield Hindrance(module.path, line, f"reaches the module's own variables by `{callee.name}()`", None)
