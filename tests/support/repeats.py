"""Random scripts in which some statements stand in several places."""

from __future__ import annotations

import ast
import random
import textwrap
from collections.abc import Iterator

from tests.support.scripts import write_script


def write_repeats(seed: int) -> str:
    """The script of a seed, with runs of its statements written once more elsewhere."""
    text, chance = write_script(seed), random.Random(seed)
    for _ in range(chance.randint(1, 3)):
        text = _with_copy(text, chance)
    return text


def _with_copy(text: str, chance: random.Random) -> str:
    blocks = [block for block in _blocks(ast.parse(text)) if len(block) > 1]
    if len(blocks) < 2:
        return text
    source, target = chance.sample(blocks, 2)
    first = chance.randrange(len(source) - 1)
    run = source[first : first + chance.randint(2, 4)]
    nodes = [node for statement in run for node in ast.walk(statement)]
    functions = {node.name for node in ast.walk(ast.parse(text)) if isinstance(node, ast.FunctionDef)}
    is_recursive = any(isinstance(node, ast.Name) and node.id in functions for node in nodes)
    if is_recursive or any(isinstance(node, ast.Return | ast.Break | ast.Continue | ast.FunctionDef) for node in nodes):
        return text
    lines = text.splitlines()
    copied = textwrap.dedent("\n".join(lines[run[0].lineno - 1 : run[-1].end_lineno]))
    place = chance.choice(target)
    margin = " " * place.col_offset
    at = place.lineno - 1
    changed = "\n".join([*lines[:at], *textwrap.indent(copied, margin).splitlines(), *lines[at:]]) + "\n"
    try:
        compile(changed, "script.py", "exec")
    except SyntaxError:
        return text
    return changed


def _blocks(tree: ast.AST) -> Iterator[list[ast.stmt]]:
    for node in ast.walk(tree):
        for name in ("body", "orelse"):
            block = getattr(node, name, None)
            if isinstance(block, list) and not isinstance(node, ast.ClassDef | ast.Module):
                yield block
