"""Places in JavaScript where nothing happens, or something else, and which would be an error in a class."""

from __future__ import annotations

import re
from collections.abc import Iterator

from aedifex.languages.javascript.reader.scopes import ARGUMENTS
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Symbol
from aedifex.program.model.statements import Lambda, Routine

Place = tuple[int, str]

_FREEZING = frozenset({"freeze", "seal", "preventExtensions", "defineProperty", "defineProperties"})
_GETTER = re.compile(rb"(?<![\w$.])get\s+([\w$]+)\s*\(\s*\)\s*\{")
_SETTER = re.compile(rb"(?<![\w$.])set\s+([\w$]+)\s*\(")
_ESCAPED = re.compile(rb"\\(?:[1-7]|0[0-9]|[89])")
_PLAIN = re.compile(rb"""["'`\d]|-\s*\d""")
_HANDED_ON = re.compile(rb"(?:\.\.\.|\b(?:apply|from|slice\.call)\s*\((?:[^()]*,)?)\s*$")
_READ_ONLY = frozenset({"undefined", "NaN", "Infinity"})
_CONSTANTS = frozenset({"Math", "Number"})
_RESERVED = frozenset("implements interface let package private protected public static yield".split())


def find(module: Module) -> Iterator[Place]:
    """Where they are, each with a plain sentence."""
    for way in (_aliased, _on_frozen, _on_values, _without_setter, _on_builtins, _named_anew, _escapes, _reserved):
        yield from way(module)


def _aliased(module: Module) -> Iterator[Place]:
    """Parameters and `arguments` that are one thing, where either is set."""
    data = module.source.parse_view
    for routine in module.routines:
        own = routine.scope.symbols.get(ARGUMENTS)
        if own is None or not own.references or not _is_simple(module, routine):
            continue
        given = [routine.scope.symbols.get(parameter.name) for parameter in routine.parameters]
        is_set = any(_is_set(symbol) for symbol in given if symbol is not None)
        for use in own.references:
            is_whole = not use.path and _HANDED_ON.search(data[max(0, use.start - 80) : use.start]) is None
            if is_set or is_whole or _sets_member(use):
                yield use.start, "`arguments` and a parameter are the same here, which they are not in a class"


def _is_simple(module: Module, routine: Routine) -> bool:
    """Whether a routine's parameters are names alone: others are never the same as `arguments`."""
    given = module.source.parse_view[routine.signature.start : routine.signature.end]
    return re.fullmatch(rb"[\w$\s,]*", given) is not None


def _is_set(symbol: Symbol) -> bool:
    return any(r.mode.writes and r.form is not Form.PARAMETER for r in symbol.references)


def _on_frozen(module: Module) -> Iterator[Place]:
    """Members that are set of what cannot be changed."""
    frozen, members, is_unknown = set[Symbol](), set[str | None](), False
    for statement, call in ((each, call) for each in module.walk() for call in each.calls):
        if call.callee is None or not call.callee.path or call.callee.path[-1].name not in _FREEZING:
            continue
        given = statement.assignment.value if statement.assignment is not None else None
        targets = [r for r in statement.references if given is not None and given.start == call.start and _is_set_by(r)]
        inside = [r for a in call.arguments[:1] for r in statement.references if r.start == a.start and not r.path]
        frozen |= {r.symbol for r in (*inside, *(r for r in targets if not r.path))}
        members |= {r.path[-1].name for r in targets if r.path}
        is_unknown = is_unknown or not (targets or inside)
    for use in module.references if frozen or members or is_unknown else ():
        is_frozen = use.symbol in frozen or is_unknown or any(step.name in members for step in use.path[:-1])
        if _sets_member(use) and is_frozen:
            yield use.start, "this may not be changed, and trying to is an error in a class"


def _is_set_by(use: Reference) -> bool:
    """Whether a name, or a member, is what a statement gives its value to."""
    return use.mode.writes if not use.path else use.path_mode is Mode.WRITE


def _on_values(module: Module) -> Iterator[Place]:
    """Members that are set of texts and numbers."""
    data, plain = module.source.parse_view, dict[Symbol, bool]()
    for use in filter(_sets_member, module.references):
        if use.symbol not in plain:
            starts = [_given_at(binding) for binding in use.symbol.bindings]
            plain[use.symbol] = bool(starts) and all(at is not None and _PLAIN.match(data, at) for at in starts)
        if plain[use.symbol]:
            yield use.start, "a text or a number gets a member here, which is an error in a class"


def _given_at(binding: Reference) -> int | None:
    """Where the value begins that a variable is given by itself."""
    statement = binding.statement
    given = statement.assignment if statement is not None else None
    if statement is None or given is None or given.value is None:
        return None
    return given.value.start if sum(r.mode.writes for r in statement.references) == 1 else None


def _without_setter(module: Module) -> Iterator[Place]:
    data = module.source.parse_view
    readable, settable = ({name.decode() for name in way.findall(data)} for way in (_GETTER, _SETTER))
    names = readable - settable
    for use in module.references if names else ():
        if _sets_member(use) and use.path[-1].name in names:
            yield use.start, f"`{use.path[-1].name}` cannot be set, and trying to is an error in a class"


def _on_builtins(module: Module) -> Iterator[Place]:
    for use in module.references:
        is_constant = use.name in _READ_ONLY and use.mode.writes
        is_member = use.name in _CONSTANTS and _sets_member(use) and (use.path[-1].name or "").isupper()
        is_gone = use.path_mode is Mode.DELETE and use.path[-1].name == "prototype"
        is_failing = is_constant or is_member or is_gone or (use.mode is Mode.DELETE and not use.path)
        if is_failing and not (use.symbol.is_module_level and use.symbol.bindings):
            yield use.start, "this may not be changed, and trying to is an error in a class"


def _named_anew(module: Module) -> Iterator[Place]:
    """A function that has a name for itself alone, and sets it."""
    for routine in module.routines:
        around = routine.scope.parent
        if isinstance(routine, Lambda) and around is not None and around.start == routine.scope.start:
            for symbol in around.symbols.values():
                for use in symbol.references:
                    if use.mode.writes and use.form is not Form.ROUTINE and not use.declares:
                        yield use.start, "a function's own name is set here, which is an error in a class"


def _escapes(module: Module) -> Iterator[Place]:
    """Texts with a sign in octal."""
    data = module.source.parse_view
    for span in module.strings:
        text = data[span.start : span.end].replace(rb"\\", b"..")
        if text[:1] != b"`" and (found := _ESCAPED.search(text)) is not None:
            yield span.start + found.start(), "a sign is written in octal here, which classes do not allow"


def _reserved(module: Module) -> Iterator[Place]:
    for use in module.references:
        if use.name in _RESERVED:
            yield use.start, f"`{use.name}` can be no name in a class"


def _sets_member(use: Reference) -> bool:
    return use.path_mode is not None and use.path_mode.writes
