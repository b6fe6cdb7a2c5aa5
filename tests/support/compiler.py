"""Holds our scopes against the compiler's own symbol tables.

Where the two differ for reasons that are the oracle's own, `_IMPLICIT`, `_is_passed_through`, `_merged`,
`_is_seen_in_class` and `_is_named_top` say so:

* the compiler adds names that no text holds (`.0`, `__class__`, `__classdict__`, `.type_params`…);
* a name that only passes through a function on its way to an inner one stands in that function's table as free;
* from Python 3.12 on, list, set and dict comprehensions are merged into the scope around them and have no table
  of their own; names that occur in a merged one are compared under Python 3.11 only (`_merged`);
* a name of a class body that a type parameter's bound or a type alias sees is looked up in the class first, but stands
  as a global in the table (`_is_seen_in_class`);
* up to Python 3.12 a function named `top` is taken for a module (`_is_named_top`);
* an annotation under `from __future__ import annotations` is in no table, or in one of its own.
"""

from __future__ import annotations

import symtable
import sys
import unicodedata
import warnings
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

from aedifex.languages.python.dialect import DIALECT
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Home, Mode, Reference, Scope, ScopeKind
from aedifex.source.text import SourceText

_IMPLICIT = frozenset(
    "__class__ __classdict__ .type_params .generic_base .defaults .kwdefaults __static_attributes__ "
    "__firstlineno__ __type_params__ __conditional_annotations__ .format".split()
)
_KINDS = {
    "module": ScopeKind.MODULE,
    "class": ScopeKind.CLASS,
    "function": ScopeKind.ROUTINE,
    "type parameter": ScopeKind.TYPE_PARAMETERS,
    "type parameters": ScopeKind.TYPE_PARAMETERS,
    "type alias": ScopeKind.TYPE_PARAMETERS,
    "type variable": ScopeKind.TYPE_PARAMETERS,
    "TypeVar bound": ScopeKind.TYPE_PARAMETERS,
}


class Verdict(NamedTuple):
    """What a name is in one scope."""

    parameter: bool
    local: bool
    declared_global: bool
    implicit_global: bool
    free: bool
    imported: bool
    assigned: bool
    referenced: bool


def read(text: str, name: str = "script.py") -> Module:
    """Our model of a text."""
    return DIALECT.files.read(SourceText(Path(name), text.encode()))


def disagreements(path: Path) -> list[str]:
    """Each difference between our scopes and the compiler's for one file, in words."""
    source = SourceText.read(path)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        table = symtable.symtable(source.parse_view.decode(), str(path), "exec")
    module = DIALECT.files.read(source)
    return [*_compare(table, module.scope, _Reader(module)), *misplaced(module)]


def misplaced(module: Module) -> Iterator[str]:
    """References whose span holds something else than their name, or its twin under NFKC or mangling."""
    for reference in module.references:
        shown = unicodedata.normalize("NFKC", module.source.slice(reference.span))
        mangled = f"_{reference.scope.private}{shown}" if reference.scope.private else shown
        if reference.name not in (shown, mangled) and reference.form is not Form.STAR:
            yield f"{module.source.place(reference.start)}: {shown!r} stands where {reference.name} should"


def compare_text(text: str) -> list[str]:
    """The same for a text."""
    module = read(text)
    return list(_compare(symtable.symtable(text, "script.py", "exec"), module.scope, _Reader(module)))


class _Reader:
    """Reads verdicts off our model."""

    def __init__(self, module: Module) -> None:
        self.module = module
        self.postponed = any(
            symbol.imported == ("__future__", "annotations") for symbol in module.scope.symbols.values()
        )
        self.passed_out: dict[Scope, set[str]] = defaultdict(set)
        for reference in module.references:
            if reference.form is Form.WALRUS and reference.scope.kind is ScopeKind.COMPREHENSION:
                scope = reference.scope
                while scope.kind is ScopeKind.COMPREHENSION and scope.parent is not None:
                    scope = scope.parent
                if scope.kind is not ScopeKind.MODULE:
                    self.passed_out[scope].add(reference.name)

    def counts(self, use: Reference) -> bool:
        if use.form is Form.QUOTED or use.form is Form.STAR:
            return False
        return not (self.postponed and use.form is Form.ANNOTATION)

    def verdict(self, scope: Scope, name: str, uses: list[Reference]) -> Verdict:
        home = uses[0].symbol.scope if uses else scope
        declared = scope.declared.get(name) is Home.MODULE
        is_module = scope.kind is ScopeKind.MODULE
        assigned = name in self.passed_out[scope] or any(
            (use.mode.writes or use.mode is Mode.DECLARE)
            and use.form not in (Form.PARAMETER, Form.IMPORT, Form.DECLARATION, Form.STAR)
            for use in uses
        )
        return Verdict(
            parameter=any(use.form is Form.PARAMETER for use in uses),
            local=home is scope and (not is_module or bool(uses) or assigned),
            declared_global=declared,
            implicit_global=not declared and not is_module and home.kind in (ScopeKind.MODULE, ScopeKind.OUTSIDE),
            free=home is not scope and home.kind not in (ScopeKind.MODULE, ScopeKind.OUTSIDE),
            imported=any(use.form is Form.IMPORT for use in uses),
            assigned=assigned,
            referenced=any(use.mode in (Mode.READ, Mode.CALL) for use in uses),
        )


def _their_verdict(table: symtable.SymbolTable, symbol: symtable.Symbol) -> Verdict:
    is_module = table.get_type() == "module"
    return Verdict(
        parameter=symbol.is_parameter(),
        local=symbol.is_local(),
        declared_global=symbol.is_declared_global() and not is_module,
        implicit_global=symbol.is_global() and not symbol.is_declared_global() and not is_module,
        free=symbol.is_free(),
        imported=symbol.is_imported(),
        assigned=symbol.is_assigned(),
        referenced=symbol.is_referenced(),
    )


def _kind(table: symtable.SymbolTable) -> ScopeKind | None:
    kind = str(getattr(table.get_type(), "value", table.get_type()))
    if kind == "function" and table.get_name() == "lambda":
        return ScopeKind.LAMBDA
    if kind == "function" and ".0" in table.get_identifiers():
        return ScopeKind.COMPREHENSION
    return _KINDS.get(kind)


def _compare(table: symtable.SymbolTable, scope: Scope, reader: _Reader) -> Iterator[str]:
    uses: dict[str, list[Reference]] = defaultdict(list)
    for use in scope.uses:
        if reader.counts(use):
            uses[use.name].append(use)
    where = f"{reader.module.path}:{reader.module.source.line_of(scope.start)} {scope.kind.value} {scope.name}"
    theirs = {symbol.get_name(): symbol for symbol in table.get_symbols()}
    merged = _merged(table, scope, reader)
    hidden = {name for inner in merged for name in (*inner.symbols, *(use.name for use in inner.uses))}
    names = (theirs.keys() | uses.keys() | reader.passed_out[scope]) - _IMPLICIT - hidden
    for name in sorted(names):
        if name.startswith("."):
            continue
        symbol = theirs.get(name)
        if symbol is None:
            yield f"{where}: {name} is only in ours"
            continue
        their = _their_verdict(table, symbol)
        if _is_named_top(table):
            their = their._replace(implicit_global=their.implicit_global and not their.local)
        if _is_passed_through(their, uses.get(name, [])):
            continue
        if scope.kind is ScopeKind.MODULE and not uses.get(name) and name not in reader.passed_out[scope]:
            continue  # declared global somewhere below, never used here
        our = reader.verdict(scope, name, uses.get(name, []))
        if scope.kind is ScopeKind.MODULE:
            our = our._replace(local=their.local)
        if our != their and not _is_seen_in_class(scope, uses.get(name, [])):
            yield f"{where}: {name} is {our} in ours, {their} in theirs"
    inner_scopes = [inner for inner in scope.children if inner not in merged]
    inner_scopes += [inner for comprehension in merged for inner in comprehension.children if inner not in merged]
    yield from _compare_children(table, inner_scopes, reader, where)


def _merged(table: symtable.SymbolTable, scope: Scope, reader: _Reader) -> list[Scope]:
    """The comprehensions that this compiler has merged into a scope, with those inside them."""
    if sys.version_info < (3, 12):
        return []
    shown = {(t.get_name(), t.get_lineno()) for t in table.get_children()}
    found: list[Scope] = []
    waiting = list(scope.children)
    while waiting:
        inner = waiting.pop()
        key = (inner.name, reader.module.source.line_of(inner.start))
        if inner.kind is ScopeKind.COMPREHENSION and inner.name != "genexpr" and key not in shown:
            found.append(inner)
            waiting += inner.children
    return found


def _is_passed_through(their: Verdict, uses: list[Reference]) -> bool:
    return their == Verdict(False, False, False, False, True, False, False, False) and not uses


def _is_seen_in_class(scope: Scope, uses: list[Reference]) -> bool:
    return scope.kind is ScopeKind.TYPE_PARAMETERS and any(use.symbol.scope.kind is ScopeKind.CLASS for use in uses)


def _is_named_top(table: symtable.SymbolTable) -> bool:
    return table.get_name() == "top" and table.get_type() != "module"


def _compare_children(table: symtable.SymbolTable, scopes: list[Scope], reader: _Reader, where: str) -> Iterator[str]:
    theirs: dict[tuple[str, str, int], list[symtable.SymbolTable]] = defaultdict(list)
    for child in _real_children(table):
        kind = _kind(child)
        assert kind is not None
        theirs[kind.value, child.get_name(), child.get_lineno()].append(child)
    ours: dict[tuple[str, str, int], list[Scope]] = defaultdict(list)
    for inner in scopes:
        line = reader.module.source.line_of(inner.start)
        ours[inner.kind.value, inner.name, line].append(inner)
    if {key: len(value) for key, value in theirs.items()} != {key: len(value) for key, value in ours.items()}:
        yield f"{where}: inner scopes are {sorted(ours)} in ours, {sorted(theirs)} in theirs"
        return
    for key, tables in theirs.items():
        yield from _best_match(tables, ours[key], reader)


def _best_match(tables: list[symtable.SymbolTable], scopes: list[Scope], reader: _Reader) -> Iterator[str]:
    """Several scopes of one kind may begin on one line: pair those that agree."""
    rest = list(scopes)
    for table in tables:
        answers = [list(_compare(table, scope, reader)) for scope in rest]
        best = min(range(len(rest)), key=lambda at: len(answers[at]))
        yield from answers[best]
        del rest[best]


def _real_children(table: symtable.SymbolTable) -> Iterator[symtable.SymbolTable]:
    for child in table.get_children():
        if str(getattr(child.get_type(), "value", child.get_type())) != "annotation":
            yield child
