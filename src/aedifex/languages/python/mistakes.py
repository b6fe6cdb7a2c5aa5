"""Small mistakes put into a script: changed numbers, swapped branches and signs, dropped calls and `global`s.

In route files also: wrong keys, arguments that decorators have lost, and handlers whose paths are swapped.
"""

from __future__ import annotations

import ast
import random
from collections.abc import Callable, Iterator
from itertools import pairwise

from aedifex.program.dialect.testing import Mutant


def mutants_of(
    text: str, count: int, seed: int = 1, lines: frozenset[int] | None = None, *, has_routes: bool = False
) -> list[Mutant]:
    """Up to `count` mutants of a script, on the given lines where any are given."""
    made = [*_all(text), *(_of_routes(text) if has_routes else ())]
    found = [m for m in made if lines is None or m.line in lines]
    random.Random(seed).shuffle(found)
    chosen: list[Mutant] = []
    for mutant in found:
        if len(chosen) == count:
            break
        try:
            compile(mutant.text, "mutant.py", "exec")
        except SyntaxError:
            continue
        chosen.append(mutant)
    return chosen


def _of_routes(text: str) -> Iterator[Mutant]:
    """What goes wrong in the handlers of requests: in what they are told of, and in what they read."""
    place, data, tree = _places(text), text.encode(), ast.parse(text)

    def put(node: ast.expr, *changes: tuple[ast.expr, str], what: str) -> Mutant:
        changed = data
        for part, new in sorted(changes, key=lambda change: -place(change[0])[0]):
            start, end = place(part)
            changed = changed[:start] + new.encode() + changed[end:]
        return Mutant(what, node.lineno, changed.decode())

    paths: list[ast.Constant] = []
    for node in ast.walk(tree):
        if isinstance(node, ast.Subscript) and isinstance(node.ctx, ast.Load) and isinstance(node.slice, ast.Constant):
            if isinstance(node.slice.value, str):
                yield put(node, (node.slice, repr(f"{node.slice.value}_")), what="wrong key")
        for call in getattr(node, "decorator_list", ()):
            if not isinstance(call, ast.Call) or not call.args or not isinstance(call.args[0], ast.Constant):
                continue
            paths.append(call.args[0])
            if call.keywords:
                given = ", ".join(filter(None, (ast.get_source_segment(text, value) for value in call.args)))
                told = f"{ast.get_source_segment(text, call.func)}({given})"
                yield put(call, (call, told), what="lost argument")
    for one, other in (pair for pair in pairwise(paths) if pair[0].value != pair[1].value):
        swapped = ((one, repr(other.value)), (other, repr(one.value)))
        yield put(one, *swapped, what="swapped handlers")


def _places(text: str) -> Callable[[ast.expr | ast.stmt], tuple[int, int]]:
    """Where a node stands in the bytes of a text."""
    starts = [0]
    for line in text.splitlines(keepends=True):
        starts.append(starts[-1] + len(line.encode()))

    def place(node: ast.expr | ast.stmt) -> tuple[int, int]:
        start = starts[node.lineno - 1] + node.col_offset
        return start, starts[(node.end_lineno or 0) - 1] + (node.end_col_offset or 0)

    return place


def _all(text: str) -> Iterator[Mutant]:
    place = _places(text)
    data = text.encode()
    tree = ast.parse(text)
    docs = {
        id(body[0].value)
        for node in ast.walk(tree)
        if isinstance(body := getattr(node, "body", None), list)
        and body
        and isinstance(body[0], ast.Expr)
        and isinstance(body[0].value, ast.Constant)
    }

    routines = sorted(
        (node.lineno, node.end_lineno or 0, node.name) for node in ast.walk(tree) if isinstance(node, ast.FunctionDef)
    )

    def put(node: ast.expr | ast.stmt, new: str, what: str) -> Mutant:
        start, end = place(node)
        around = [name for first, last, name in routines if first <= node.lineno <= last]
        text = (data[:start] + new.encode() + data[end:]).decode()
        return Mutant(what, node.lineno, text, around[-1] if around else "")

    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and type(value := node.value) in (int, float) and id(node) not in docs:
            assert isinstance(value, int | float)
            yield put(node, repr(value + 1), "off by one")
            yield put(node, repr(value * 2 + 7), "changed number")
        elif isinstance(node, ast.If) and node.orelse:
            test = ast.get_source_segment(text, node.test)
            if test is not None:
                yield put(node.test, f"not ({test})", "swapped branch")
        elif isinstance(node, ast.Expr) and isinstance(node.value, ast.Call):
            yield put(node, "pass", "dropped call")
        elif isinstance(node, ast.Global):
            yield put(node, "pass", "dropped global")
        elif isinstance(node, ast.AugAssign) and isinstance(node.op, ast.Add | ast.Sub):
            target, value = ast.get_source_segment(text, node.target), ast.get_source_segment(text, node.value)
            sign = "-" if isinstance(node.op, ast.Add) else "+"
            yield put(node, f"{target} {sign}= {value}", "swapped sign")
