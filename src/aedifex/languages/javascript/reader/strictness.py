"""Places in JavaScript whose code would mean something else inside a class, which is strict."""

from __future__ import annotations

import re
from collections.abc import Iterator

from aedifex.languages.javascript.reader import silent_failures
from aedifex.languages.javascript.reader.scopes import ARGUMENTS, THIS
from aedifex.program.model.module import Module
from aedifex.program.model.names import ScopeKind
from aedifex.program.model.statements import Call, Function, Kind, Lambda, Routine, final_name

_STRICT = re.compile(rb"""\s*(?:(?://[^\n]*|/\*(?:[^*]|\*(?!/))*\*/)\s*)*(['"])use strict\1""")
_OCTAL = re.compile(rb"(?<![\w$.])0[0-7]+(?![\w.])")
_KEY = re.compile(rb"(?P<name>[\w$]+)['\"]?\s*:$")
_SHORT = re.compile(rb"(?:async\s+|\*\s*)*(?!(?:get|set)\s+[\w$])(?P<name>[\w$]+)\s*\(")
_BEFORE_ARGUMENTS = re.compile(rb"(?P<name>[\w$]+)\s*\(\s*$")
_CALLING_PLAINLY = frozenset(
    """
every filter find findIndex findLast flatMap forEach map queueMicrotask reduce reduceRight replace
requestAnimationFrame some sort then catch finally Promise
""".split()
)


def find(module: Module) -> list[tuple[int, str]]:
    """Where they are, each with a plain sentence; none in a file that is strict anyway."""
    data = module.source.parse_view
    if _STRICT.match(data) or any(s.kind is Kind.IMPORT and data.startswith(b"import", s.start) for s in module.walk()):
        return []
    ways = (_octals, _reaching_callers, _doubled, _in_blocks, _bare)
    return sorted({*(place for way in ways for place in way(module)), *silent_failures.find(module)})


def _octals(module: Module) -> Iterator[tuple[int, str]]:
    for number in _OCTAL.finditer(module.source.parse_view):
        inside = any(span.start <= number.start() < span.end for span in (*module.strings, *module.fixed))
        if not inside and not any(c.start <= number.start() < c.end for c in module.comments):
            yield number.start(), "a number is written in octal here, which classes do not allow"


def _reaching_callers(module: Module) -> Iterator[tuple[int, str]]:
    for reference in module.references:
        steps = [step.name for step in reference.path]
        if reference.name == ARGUMENTS and steps[:1] in (["callee"], ["caller"]):
            yield reference.start, "what is called, or who calls, is asked here, which classes do not allow"


def _doubled(module: Module) -> Iterator[tuple[int, str]]:
    for routine in module.routines:
        names = [parameter.name for parameter in routine.parameters]
        if len(set(names)) < len(names):
            yield routine.signature.start, "two parameters have one name here, which classes do not allow"


def _in_blocks(module: Module) -> Iterator[tuple[int, str]]:
    """Functions declared in a block and used outside of it."""
    for routine in module.routines:
        if not isinstance(routine, Function) or routine.is_method or routine.statement.keyword is not None:
            continue
        block = routine.statement.block
        if block.owner is None or block.routine is not None or block.owner.kind is Kind.CLASS:
            continue
        named = module.scope.find(routine.name)
        outside = [u for u in module.references if u.name == routine.name and not block.start <= u.start < block.end]
        if outside and (named is None or any(u.symbol is routine.symbol or u.mode.reads for u in outside)):
            yield routine.statement.start, f"`{routine.name}` is defined in a block and used outside of it"


def _bare(module: Module) -> Iterator[tuple[int, str]]:
    """Inner functions that use `this` and may be called without an object."""
    for routine in module.routines:
        this = routine.scope.symbols.get(THIS)
        is_inner = isinstance(routine, Lambda) or routine.scope.parent is not module.scope
        is_method = isinstance(routine, Function) and routine.is_method
        if this is None or not this.references or not is_inner or is_method:
            continue
        if routine.scope.parent is not None and routine.scope.parent.kind is ScopeKind.CLASS:
            continue
        if not _has_object(module, routine):
            yield this.references[0].start, "`this` is nothing here where the function is called without an object"


def _has_object(module: Module, routine: Routine) -> bool:
    """Whether a function is a member, or given to something that calls it with an object."""
    data, scope = module.source.parse_view, routine.scope
    if isinstance(routine, Function):
        calls = [r for r in routine.symbol.references if r is not routine.named]
        return bool(calls) and all(data[: r.start].rstrip().endswith(b"new") for r in calls)
    assert isinstance(routine, Lambda)
    statement, before = routine.statement, data[: scope.start].rstrip()
    is_function = data.startswith((b"function", b"async function"), scope.start)
    if not is_function or before.endswith(b":"):
        named = _KEY.search(before) if is_function else _SHORT.match(data, scope.start)
        return named is None or not _is_taken_off(data, named["name"])
    if statement is None:
        return False
    for call in statement.calls:
        if any((a.start, a.end) == (scope.start, scope.end) for a in call.arguments):
            return not _is_own(call) and _called(data, call) not in _CALLING_PLAINLY
    given = statement.assignment
    is_set = given is not None and given.value is not None and given.value.start == scope.start
    return is_set and any(r.path and r.start == statement.start for r in statement.references)


def _is_own(call: Call) -> bool:
    """Whether a function of the script is called, which may call what it is given without an object."""
    callee = call.callee
    return callee is not None and not callee.path and callee.symbol.scope.kind is not ScopeKind.OUTSIDE


def _called(data: bytes, call: Call) -> str:
    """The last name of what is called, whatever stands before that: of `document.querySelectorAll("p").forEach` too."""
    named = _BEFORE_ARGUMENTS.search(data[call.start : call.arguments[0].start])
    return final_name(call.callee) or (named["name"].decode() if named is not None else "")


def _is_taken_off(data: bytes, name: bytes) -> bool:
    """Whether a member is asked for, and neither called nor set there: it may be called without its object."""
    word = re.escape(name)
    asked = rb"\.\s*" + word + rb"(?![\w$])(?!\s*(?:\(|\?\.|\.|=(?!=)))"
    taken_apart = rb"\{[^{}:]*(?<![\w$.])" + word + rb"(?![\w$])[^{}()]*\}\s*=(?![=>])"
    return re.search(asked + rb"|" + taken_apart, data) is not None
