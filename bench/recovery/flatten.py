"""Flattening classes to a procedural script: fields to module variables, methods to functions."""

from __future__ import annotations

import ast
import builtins
import keyword
import random
import re
from dataclasses import dataclass, field

FEWEST = 2
MOST_CLASSES = 5
MOST_FIELDS = 14


@dataclass
class Flat:
    """A script, and the class that each of its variables and functions came from."""

    name: str
    text: str
    variables: dict[str, str] = field(default_factory=dict)
    functions: dict[str, str] = field(default_factory=dict)


@dataclass
class _Source:
    name: str
    fields: dict[str, ast.expr | None]
    methods: dict[str, ast.FunctionDef]


def flatten(name: str, text: str, *, meaningless: bool = False, inlined: bool = False) -> Flat | None:
    """One script from the classes of a module; None where it has fewer than two with state and behaviour.

    Every other class keeps its own word in the names of its members, as people do; `meaningless` replaces all names.
    `inlined` leaves no functions: all is one `main`, and the methods' statements stand in its loop one after the other.
    """
    tree = ast.parse(text)
    sources = [s for node in tree.body if isinstance(node, ast.ClassDef) and (s := _source(node)) is not None]
    sources = sources[:MOST_CLASSES]
    if len(sources) < FEWEST:
        return None
    chance = random.Random(name)
    names = _Names(tree, meaningless)
    flat = Flat(name, "")
    lines = [ast.unparse(node) for node in tree.body if isinstance(node, ast.Import | ast.ImportFrom)]
    functions: list[ast.stmt] = []
    for number, source in enumerate(sources):
        prefix = _snake(source.name) if number % 2 == 0 else ""
        members = {one: names.give(f"{prefix}_{one}" if prefix else one) for one in source.fields}
        routines = {one: names.give(f"{one}_{prefix}" if prefix else one) for one in source.methods}
        lines += [] if chance.random() < 0.5 else [""]
        for one, value in source.fields.items():
            lines.append(f"{members[one]} = {ast.unparse(value) if value is not None else 'None'}")
        flat.variables |= dict.fromkeys(members.values(), source.name)
        flat.functions |= dict.fromkeys(routines.values(), source.name)
        functions += [
            _Rewriter(members, routines).function(node, routines[one]) for one, node in source.methods.items()
        ]
    if not meaningless:
        functions = chance.sample(functions, len(functions))
    calls = [f"    {f.name}({', '.join('0' for _ in f.args.args)})" for f in functions]
    loop = ["for turn in range(3):", *calls]
    if inlined:
        flat.functions = {}
        flat.text = _one_main(lines, functions)
        return flat
    flat.text = "\n".join([*lines, "", *(f"\n{ast.unparse(f)}\n" for f in functions), *loop]) + "\n"
    return flat


def _one_main(lines: list[str], functions: list[ast.stmt]) -> str:
    imports = [line for line in lines if line.startswith(("import ", "from "))]
    starts = [line for line in lines if line not in imports]
    turn = [
        line
        for function in functions
        if isinstance(function, ast.FunctionDef)
        for line in [*(f"{a.arg} = 0" for a in function.args.args), *_Inliner().body(function), ""]
    ]
    inner = [*starts, "turn = 0", "while turn < 3:", "    turn += 1", *(f"    {line}" if line else "" for line in turn)]
    return "\n".join(
        [*imports, "", "", "def main():", *(f"    {line}" if line else "" for line in inner), "", "", "main()", ""]
    )


class _Inliner(ast.NodeTransformer):
    """Turns the statements of a function into such as may stand in a loop; what they give is not used there."""

    def body(self, function: ast.FunctionDef) -> list[str]:
        made = [self.visit(statement) for statement in function.body if not isinstance(statement, ast.Global)]
        return ast.unparse(ast.fix_missing_locations(ast.Module(made, []))).splitlines()

    def visit_Return(self, node: ast.Return) -> ast.AST:
        return ast.Expr(node.value) if node.value is not None else ast.Pass()

    def visit_Yield(self, node: ast.Yield) -> ast.AST:
        return node.value if node.value is not None else ast.Constant(None)

    def visit_YieldFrom(self, node: ast.YieldFrom) -> ast.AST:
        return node.value

    def visit_Nonlocal(self, node: ast.Nonlocal) -> ast.AST:
        return ast.Pass()

    def visit_Global(self, node: ast.Global) -> ast.AST:
        return ast.Pass()


def _source(node: ast.ClassDef) -> _Source | None:
    methods = {n.name: n for n in node.body if isinstance(n, ast.FunctionDef) and _is_plain(n)}
    start = next((n for n in node.body if isinstance(n, ast.FunctionDef) and n.name == "__init__"), None)
    if start is None:
        return None
    fields: dict[str, ast.expr | None] = {}
    for statement in ast.walk(start):
        for target in statement.targets if isinstance(statement, ast.Assign) else ():
            if _is_member(target) and target.attr not in fields:
                fields[target.attr] = statement.value if _is_simple(statement.value) else None
    for method in methods.values():
        for inner in ast.walk(method):
            if _is_member(inner) and isinstance(inner.ctx, ast.Store):
                fields.setdefault(inner.attr, None)
    used = {n.attr for m in methods.values() for n in ast.walk(m) if _is_member(n)}
    fields = {one: value for one, value in fields.items() if one in used and one not in methods}
    changed = {
        n.attr for m in methods.values() for n in ast.walk(m) if _is_member(n) and not isinstance(n.ctx, ast.Load)
    }
    if not FEWEST <= len(fields) <= MOST_FIELDS or len(methods) < FEWEST or not changed:
        return None
    return _Source(node.name, fields, methods)


def _is_plain(node: ast.FunctionDef) -> bool:
    is_special = node.name.startswith("__") and node.name.endswith("__")
    return not (is_special or node.decorator_list) and bool(node.args.args) and node.args.args[0].arg == "self"


def _is_member(node: ast.AST) -> bool:
    return isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name) and node.value.id == "self"


def _is_simple(node: ast.expr) -> bool:
    if isinstance(node, ast.List | ast.Tuple | ast.Set):
        return all(map(_is_simple, node.elts))
    if isinstance(node, ast.Dict):
        return not node.keys
    return isinstance(node, ast.Constant)


def _snake(name: str) -> str:
    return re.sub(r"(?<=[a-z0-9])(?=[A-Z])", "_", name).lower().strip("_")


class _Names:
    """Gives names that nothing else has."""

    def __init__(self, tree: ast.Module, meaningless: bool) -> None:
        self.taken = {n.id for n in ast.walk(tree) if isinstance(n, ast.Name)} | set(dir(builtins))
        self.taken |= {a.arg for a in ast.walk(tree) if isinstance(a, ast.arg)} | set(keyword.kwlist)
        self.meaningless = meaningless
        self.count = 0

    def give(self, wish: str) -> str:
        if self.meaningless:
            self.count += 1
            return f"q{self.count:03}"
        wish = wish.strip("_")
        number, name = 2, wish
        while name in self.taken:
            name = f"{wish}_{number}"
            number += 1
        self.taken.add(name)
        return name


class _Rewriter(ast.NodeTransformer):
    def __init__(self, members: dict[str, str], routines: dict[str, str]) -> None:
        self.members = members
        self.routines = routines
        self.written: dict[str, None] = {}

    def function(self, node: ast.FunctionDef, name: str) -> ast.FunctionDef:
        self.written = {}
        made = ast.parse(ast.unparse(node)).body[0]
        assert isinstance(made, ast.FunctionDef)
        made.args.args = made.args.args[1:]
        made.args.defaults = made.args.defaults[-len(made.args.args) :] if made.args.args else []
        made.name = name
        made = self.generic_visit(made)
        assert isinstance(made, ast.FunctionDef)
        if self.written:
            made.body.insert(0, ast.Global(list(self.written)))
        return ast.fix_missing_locations(made)

    def visit_Attribute(self, node: ast.Attribute) -> ast.AST:
        if not _is_member(node):
            return self.generic_visit(node)
        if node.attr in self.routines:
            return ast.Name(self.routines[node.attr], node.ctx)
        name = self.members.get(node.attr)
        if name is None:
            return ast.Constant(node.attr) if isinstance(node.ctx, ast.Load) else ast.Name("unused", node.ctx)
        if not isinstance(node.ctx, ast.Load):
            self.written[name] = None
        return ast.Name(name, node.ctx)

    def visit_Name(self, node: ast.Name) -> ast.AST:
        return ast.Constant(None) if node.id == "self" and isinstance(node.ctx, ast.Load) else node
