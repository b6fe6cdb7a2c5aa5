"""Places in JavaScript whose code would mean something else inside a class, which is strict."""

from __future__ import annotations

import re
from collections.abc import Iterator

from aedifex.languages.javascript.reader import silent_failures
from aedifex.languages.javascript.reader.scopes import ARGUMENTS, THIS
from aedifex.program.model.module import Module
from aedifex.program.model.names import ScopeKind
from aedifex.program.model.statements import Call, Function, Kind, Lambda, Routine, final_name
from aedifex.source.text import Span

_STRICT = re.compile(rb"""\s*(?:(?://[^\n]*|/\*(?:[^*]|\*(?!/))*\*/)\s*)*(['"])use strict\1""")
_OCTAL = re.compile(rb"(?<![\w$.])0[0-7]+(?![\w.])")
_KEY = re.compile(rb"(?P<name>[\w$]+)['\"]?\s*:$")
_SHORT = re.compile(rb"(?:async\s+|\*\s*)*(?!(?:get|set)\s+[\w$])(?P<name>[\w$]+)\s*\(")
_BEFORE_ARGUMENTS = re.compile(rb"(?P<name>[\w$]+)\s*\(\s*$")
_REACH = 200
"""How far before a place a name is looked for, in bytes."""

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
    objects = _Objects(module)
    for routine in module.routines:
        this = routine.scope.symbols.get(THIS)
        is_inner = isinstance(routine, Lambda) or routine.scope.parent is not module.scope
        is_method = isinstance(routine, Function) and routine.is_method
        if this is None or not this.references or not is_inner or is_method:
            continue
        if routine.scope.parent is not None and routine.scope.parent.kind is ScopeKind.CLASS:
            continue
        if not objects.has_one(routine):
            yield this.references[0].start, "`this` is nothing here where the function is called without an object"


class _Objects:
    """Tells which functions of a file have an object: a file may be one statement with thousands of them."""

    def __init__(self, module: Module) -> None:
        self.data = module.source.parse_view
        self.calls = {a.span: call for s in module.walk() for call in s.calls for a in call.arguments}
        self.taken: dict[bytes, bool] = {}

    def has_one(self, routine: Routine) -> bool:
        """Whether a function is a member, or given to something that calls it with an object."""
        data, scope = self.data, routine.scope
        if isinstance(routine, Function):
            calls = [r for r in routine.symbol.references if r is not routine.named]
            return bool(calls) and all(_text_before(data, r.start).endswith(b"new") for r in calls)
        assert isinstance(routine, Lambda)
        statement, before = routine.statement, _text_before(data, scope.start)
        is_function = data.startswith((b"function", b"async function"), scope.start)
        if not is_function or before.endswith(b":"):
            named = _KEY.search(before) if is_function else _SHORT.match(data, scope.start)
            return named is None or not self.is_taken_off(named["name"])
        if statement is None:
            return False
        call = self.calls.get(Span(scope.start, scope.end))
        if call is not None:
            return not _is_own(call) and _called(data, call) not in _CALLING_PLAINLY
        given = statement.assignment
        is_set = given is not None and given.value is not None and given.value.start == scope.start
        return is_set and any(r.path and r.start == statement.start for r in statement.references)

    def is_taken_off(self, name: bytes) -> bool:
        """Whether a member is asked for, and neither called nor set there: it may be called without its object."""
        if name not in self.taken:
            word = re.escape(name)
            asked = rb"\.\s*" + word + rb"(?![\w$])(?!\s*(?:\(|\?\.|\.|=(?!=)))"
            taken_apart = rb"\{[^{}:]*(?<![\w$.])" + word + rb"(?![\w$])[^{}()]*\}\s*=(?![=>])"
            self.taken[name] = re.search(asked + rb"|" + taken_apart, self.data) is not None
        return self.taken[name]


def _text_before(data: bytes, at: int) -> bytes:
    """The last of what stands before a place, without the space between."""
    end = at
    while end and data[end - 1 : end].isspace():
        end -= 1
    return data[max(0, end - _REACH) : end]


def _is_own(call: Call) -> bool:
    """Whether a function of the script is called, which may call what it is given without an object."""
    callee = call.callee
    return callee is not None and not callee.path and callee.symbol.scope.kind is not ScopeKind.OUTSIDE


def _called(data: bytes, call: Call) -> str:
    """The last name of what is called, whatever stands before that: of `document.querySelectorAll("p").forEach` too."""
    first = call.arguments[0].start
    named = _BEFORE_ARGUMENTS.search(data[max(call.start, first - _REACH) : first])
    return final_name(call.callee) or (named["name"].decode() if named is not None else "")
