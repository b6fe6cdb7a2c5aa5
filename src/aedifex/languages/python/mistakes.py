"""Small mistakes put into a script: changed numbers, swapped branches and signs, dropped calls and `global`s."""

from __future__ import annotations

import ast
import random
from collections.abc import Iterator
from dataclasses import dataclass


@dataclass(frozen=True)
class Mutant:
    """A script with one mistake: what was done, at which line, in which routine, if any, and the whole text."""

    what: str
    line: int
    text: str
    routine: str = ""


def mutants(text: str, count: int, seed: int = 1, lines: frozenset[int] | None = None) -> list[Mutant]:
    """Up to `count` mutants of a script, on the given lines where any are given."""
    found = [m for m in _all(text) if lines is None or m.line in lines]
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


def _all(text: str) -> Iterator[Mutant]:
    starts = [0]
    for line in text.splitlines(keepends=True):
        starts.append(starts[-1] + len(line.encode()))
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
        start = starts[node.lineno - 1] + node.col_offset
        end = starts[(node.end_lineno or 0) - 1] + (node.end_col_offset or 0)
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
