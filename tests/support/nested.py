"""Writes programs of nested scopes with every binding form, and renames all their names."""

from __future__ import annotations

from hypothesis import strategies as st

from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, ScopeKind, Symbol

NAMES = ["a", "b", "c", "d"]


@st.composite
def programs(draw: st.DrawFn) -> str:
    """A program that runs without error and prints a good deal."""
    lines = [f"{name} = {number}" for number, name in enumerate(NAMES)]
    lines += draw(_block(0, tuple(NAMES), False))
    lines.append(f"print({', '.join(NAMES)})")
    return "\n".join(lines) + "\n"


@st.composite
def _block(draw: st.DrawFn, depth: int, known: tuple[str, ...], in_function: bool) -> list[str]:
    lines: list[str] = []
    for _ in range(draw(st.integers(1, 4))):
        lines += draw(_statement(depth, known, in_function))
    return lines


@st.composite
def _statement(draw: st.DrawFn, depth: int, known: tuple[str, ...], in_function: bool) -> list[str]:
    one, two = draw(st.sampled_from(known)), draw(st.sampled_from(known))
    plain = [
        f"{one} = {two}",
        f"{one}, ({two}, *rest) = 1, (2, 3)",
        f"print([{one} for {one} in range(2)], {two}, [x + {one} for x in range(2) if x < {one}])",
        "print(f'{ONE} {TWO!r:>{len(str(ONE)) + 1}}', (lambda ONE, k=TWO: (ONE, k))(1))".replace("ONE", one).replace(
            "TWO", two
        ),
        f"print({{{one}: {two}}}, {{{one} for _ in range(1)}}, sum({one} for _ in range(2)))",
        f"for {one} in range(2):\n    print({two})\nelse:\n    print({one})",
        f"print(({one} := {two}), {one})",
        f"print([{one} := y for y in range(2)], {one})",
        f"try:\n    raise ValueError({two})\nexcept ValueError as error:\n    print(error)",
        f"match {one}, 5:\n    case ({two}, 5) if {two} is not None:\n        print({two})\n    case _:\n        print(0)",
        f"import math as {one}_m\nprint({one}_m.floor(2.5))",
        f"{one}: int = {two}",
        f"with open('/dev/null') as handle:\n    print(handle.read(), {one})",
    ]
    if depth >= 3:
        return draw(st.sampled_from(plain)).split("\n")
    form = draw(st.integers(0, 9))
    if form < 6:
        return draw(st.sampled_from(plain)).split("\n")
    if form == 6:
        body = draw(_block(depth + 1, known, in_function))
        return [f"if {one} is not None:", *(f"    {line}" for line in body)]
    if form == 7:
        return draw(_class(depth, known))
    return draw(_function(depth, known, in_function))


@st.composite
def _function(draw: st.DrawFn, depth: int, known: tuple[str, ...], in_function: bool) -> list[str]:
    one, two = draw(st.sampled_from(known)), draw(st.sampled_from(known))
    name = f"f{depth}_{draw(st.integers(0, 2))}"
    declared = draw(st.sampled_from(["", "global", "nonlocal" if in_function else "global"]))
    parameters = [p for p in ("p", "q") if draw(st.booleans())]
    head = [f"def {name}({', '.join(f'{p}={two}' for p in parameters)}):"]
    body: list[str] = []
    if declared == "global":
        body.append(f"global {one}")
    elif declared == "nonlocal":
        return []
    else:
        body += [f"{n} = {k}" for k, n in enumerate(known[:2])]
    inner = tuple(dict.fromkeys([*known[:2], *parameters])) if not declared else (one, *parameters)
    body += draw(_block(depth + 1, inner, True))
    body.append(f"return {inner[0]}")
    return [*head, *(f"    {line}" for line in body), f"print({name}())"]


@st.composite
def _class(draw: st.DrawFn, depth: int, known: tuple[str, ...]) -> list[str]:
    one = draw(st.sampled_from(known))
    name = f"C{depth}"
    return [
        f"class {name}:",
        f"    {one} = 5",
        f"    __hidden = {one}",
        f"    seen = [i for i in range({one})]",
        f"    def get(self, {one}=3):",
        f"        return {one}, self.__hidden, type(self).seen, __class__.__name__ != ''",
        f"print({name}().get(), {name}.{one})",
    ]


def renamed(module: Module) -> str:
    """The text with every symbol that may be renamed given a fresh name of its own."""
    fresh: dict[Symbol, str] = {}
    text = module.source.data
    for reference in sorted(module.references, key=lambda r: -r.start):
        symbol = reference.symbol
        if not may_be_renamed(symbol) or module.source.slice(reference.span) != reference.name:
            continue
        name = fresh.setdefault(symbol, f"fresh_{len(fresh)}")
        text = text[: reference.start] + name.encode() + text[reference.end :]
    return text.decode()


def may_be_renamed(symbol: Symbol) -> bool:
    """Whether a name can change without being seen: class members are reached as attributes, parameters by keyword."""
    if symbol.scope.kind in (ScopeKind.OUTSIDE, ScopeKind.CLASS) or symbol.name.startswith("__"):
        return False
    forms = {reference.form for reference in symbol.references}
    if Form.IMPORT in forms:
        return symbol.imported is not None and symbol.imported.module != symbol.name
    return Form.STAR not in forms and Form.CLASS not in forms
