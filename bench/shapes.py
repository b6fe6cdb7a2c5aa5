"""What the classes that are built look like, in figures: who reaches into whom, what is relayed, what is left over.

Run `python -m bench.shapes FOLDER… [--command COMMAND]`: each script of the folders is drafted and built by a command,
and what comes of it is measured. With `--command` that of another version can be measured on the same scripts.
"""

from __future__ import annotations

import argparse
import ast
import statistics
import subprocess
import tempfile
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

_SILENT = {"__init__"}
_PATIENCE = 180


@dataclass(frozen=True)
class Shape:
    """One result: its methods and classes, and what speaks against them.

    `foreign` are uses of fields of other objects in methods, `relay` is how many methods in a row only end by calling
    the next, `behaving` the classes with a method beside the constructor, `owned` the fields of the largest class.
    """

    methods: int
    foreign: int
    relay: int
    classes: int
    behaving: int
    fields: int
    owned: int
    longest_line: int
    longest_routine: int


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("folders", nargs="+", type=Path)
    parser.add_argument("--command", default="aedifex")
    given = parser.parse_args()
    scripts = [script for folder in given.folders for script in sorted(folder.glob("*.py"))]
    found = [shape for script in scripts if (shape := of_script(script.resolve(), given.command)) is not None]
    print(summary(found))


def summary(shapes: Sequence[Shape]) -> str:
    """The figures of all results, a line each."""
    methods, classes = sum(s.methods for s in shapes), sum(s.classes for s in shapes)
    behaving, fields = sum(s.behaving for s in shapes), sum(s.fields for s in shapes)
    lines = [
        f"results                                   {len(shapes)}",
        f"classes a result                          {classes / len(shapes):.2f}",
        f"uses of foreign fields a method           {sum(s.foreign for s in shapes) / methods:.2f}",
        f"methods in a row that end in the next     {max(s.relay for s in shapes)} at most, in "
        f"{sum(s.relay > 1 for s in shapes)} results more than one",
        f"classes with behaviour                    {100 * behaving / classes:.0f} %",
        f"fields in the largest class of a result   {100 * sum(s.owned for s in shapes) / fields:.0f} %",
        f"longest line, median and most             {_middle_and_most([s.longest_line for s in shapes])}",
        f"longest routine, median and most          {_middle_and_most([s.longest_routine for s in shapes])}",
    ]
    return "\n".join(lines)


def _middle_and_most(values: Sequence[int]) -> str:
    return f"{statistics.median(values):.0f}, {max(values)}"


def of_script(script: Path, command: str) -> Shape | None:
    """The shape of what a script is built into; None where nothing is."""
    with tempfile.TemporaryDirectory() as work:
        design, target = Path(work) / "x.design.toml", Path(work) / "built"
        for arguments in (["draft", script, "-o", design], ["build", design, "--into", target]):
            try:
                done = subprocess.run([command, *map(str, arguments)], capture_output=True, timeout=_PATIENCE)
            except subprocess.TimeoutExpired:
                return None
            if done.returncode:
                return None
        before = script.read_text("utf-8", errors="replace")
        return shape_of([path.read_text("utf-8") for path in sorted(target.glob("*.py"))], _classes(before))


def _classes(text: str) -> frozenset[str]:
    return frozenset(node.name for node in ast.walk(ast.parse(text)) if isinstance(node, ast.ClassDef))


def shape_of(texts: Sequence[str], known: frozenset[str]) -> Shape | None:
    """The shape of some files, by the classes that were not `known` before; None where there are none."""
    trees = [ast.parse(text) for text in texts]
    made = [n for tree in trees for n in tree.body if isinstance(n, ast.ClassDef) and n.name not in known]
    if not made:
        return None
    fields = {plan.name: _fields(plan) for plan in made}
    methods = [(plan, method) for plan in made for method in _methods(plan)]
    imported = {name.asname or name.name.split(".")[0] for tree in trees for name in _imports(tree)}
    foreign = sum(_foreign(method, fields, plan.name, imported) for plan, method in methods)
    routines = [n for tree in trees for n in ast.walk(tree) if isinstance(n, ast.FunctionDef)]
    return Shape(
        methods=len(methods),
        foreign=foreign,
        relay=max((_relay(plan) for plan in made), default=0),
        classes=len(made),
        behaving=sum(any(m.name not in _SILENT for m in _methods(plan)) for plan in made),
        fields=sum(map(len, fields.values())),
        owned=max(map(len, fields.values())),
        longest_line=max(len(line) for text in texts for line in text.splitlines()),
        longest_routine=max(((r.end_lineno or r.lineno) - r.lineno + 1 for r in routines), default=0),
    )


def _imports(tree: ast.Module) -> Iterator[ast.alias]:
    for node in ast.walk(tree):
        if isinstance(node, ast.Import | ast.ImportFrom):
            yield from node.names


def _methods(plan: ast.ClassDef) -> list[ast.FunctionDef]:
    return [node for node in plan.body if isinstance(node, ast.FunctionDef)]


def _fields(plan: ast.ClassDef) -> set[str]:
    return {node.attr for node in ast.walk(plan) if isinstance(node, ast.Attribute) and _is_set(node) and _own(node)}


def _is_set(node: ast.Attribute) -> bool:
    return isinstance(node.ctx, ast.Store)


def _own(node: ast.Attribute) -> bool:
    return isinstance(node.value, ast.Name) and node.value.id == "self"


def _foreign(method: ast.FunctionDef, fields: dict[str, set[str]], own: str, imported: set[str]) -> int:
    """How often a method uses what other classes made here have for a field, through another object."""
    others = set[str]().union(*(names for name, names in fields.items() if name != own))
    called = {id(node.func) for node in ast.walk(method) if isinstance(node, ast.Call)}
    found = 0
    for node in ast.walk(method):
        if isinstance(node, ast.Attribute) and node.attr in others and not _own(node) and id(node) not in called:
            base = node.value
            found += not (isinstance(base, ast.Name) and base.id in imported)
    return found


def _relay(plan: ast.ClassDef) -> int:
    """The longest row of methods of which each ends by calling the next, which nobody else calls."""
    by_name = {method.name: method for method in _methods(plan)}
    called = [
        node.attr for node in ast.walk(plan) if isinstance(node, ast.Attribute) and _own(node) and node.attr in by_name
    ]
    ends = {name: target for name, method in by_name.items() if called.count(target := _last_call(method)) == 1}

    def length(name: str, seen: frozenset[str]) -> int:
        target = ends.get(name, "")
        return 1 + length(target, seen | {name}) if target in by_name and target not in seen | {name} else 0

    return max((length(name, frozenset()) for name in by_name if name not in _SILENT), default=0)


def _last_call(method: ast.FunctionDef) -> str:
    """The own method that a method calls at its end, and whose answer it hands on; empty where it does not."""
    last = method.body[-1]
    value = last.value if isinstance(last, ast.Return) else None
    if isinstance(value, ast.Call) and isinstance(value.func, ast.Attribute) and _own(value.func):
        return value.func.attr
    return ""


if __name__ == "__main__":
    main()
