"""Random scripts in which some statements stand in several places."""

from __future__ import annotations

import ast
import random
import re
import tempfile
import textwrap
from collections.abc import Iterator
from pathlib import Path

from aedifex.design.dividing.repeats import repeats
from aedifex.languages.python import DIALECT
from aedifex.moves.carve import Carve
from aedifex.program.model.names import MAIN
from aedifex.program.model.program import Program
from aedifex.program.reading import read_program
from aedifex.source.errors import RefusedError
from aedifex.source.text import SourceText
from tests.support.carving import moved_at_random
from tests.support.scripts import play_here, write_script


def write_repeats(seed: int) -> str:
    """The script of a seed, with runs of its statements written once more elsewhere."""
    text, chance = write_script(seed), random.Random(seed)
    for _ in range(chance.randint(2, 6)):
        text = _with_copy(text, chance)
    return text


def gathered(text: str, chance: random.Random) -> str:
    """`same`, `refused: …` or `different: …` for all that stands in several places, each made one function."""
    with tempfile.TemporaryDirectory() as work:
        script = Path(work) / "script.py"
        script.write_text(text)
        program = read_program([SourceText.read(script)], DIALECT)
        return moved_at_random(text, script, program, lambda now, number: _gathering(now, chance, number), 4)


def _gathering(program: Program, chance: random.Random, number: int) -> Carve:
    module = program.main
    found = repeats(module)
    if not found:
        raise RefusedError("nothing stands in several places")
    repeat = chance.choice(found)
    one = chance.choice(repeat.occurrences)
    lines = module.source.lines_of(one.run[0].span)[0], module.source.lines_of(one.run[-1].span)[1]
    routine = one.routine.qualified_name if one.routine is not None else MAIN
    values = tuple(f"value_{number}_{place}" for place in range(len(repeat.holes)))
    return Carve(module.path, routine, *lines, f"gathered_{number}", values=values)


def _with_copy(text: str, chance: random.Random) -> str:
    blocks = [block for block in _blocks(ast.parse(text)) if len(block) > 1]
    if len(blocks) < 2:
        return text
    source, target = chance.sample(blocks, 2)
    first = chance.randrange(len(source) - 1)
    run = source[first : first + chance.randint(2, 4)]
    nodes = [node for statement in run for node in ast.walk(statement)]
    functions = {node.name for node in ast.walk(ast.parse(text)) if isinstance(node, ast.FunctionDef)}
    kept = {*functions, "total"}  # else it might not end
    if any(isinstance(node, ast.Name) and node.id in kept for node in nodes) or any(
        isinstance(node, ast.Return | ast.Break | ast.Continue | ast.FunctionDef) for node in nodes
    ):
        return text
    lines = text.splitlines()
    copied = textwrap.dedent("\n".join(lines[run[0].lineno - 1 : run[-1].end_lineno]))
    if chance.random() < 0.6:
        copied = re.sub(r"\b\d\b", lambda found: str(chance.choice([int(found[0]), chance.randint(0, 9)])), copied)
    place = chance.choice(target)
    margin = " " * place.col_offset
    at = place.lineno - 1
    changed = "\n".join([*lines[:at], *textwrap.indent(copied, margin).splitlines(), *lines[at:]]) + "\n"
    try:
        compile(changed, "script.py", "exec")
    except SyntaxError:
        return text
    return changed if _runs_through(changed) else text


def _runs_through(text: str) -> bool:
    with tempfile.TemporaryDirectory() as work:
        (Path(work) / "script.py").write_text(text)
        return not play_here(Path(work), "script.py").endswith("Error")


def _blocks(tree: ast.AST) -> Iterator[list[ast.stmt]]:
    for node in ast.walk(tree):
        for name in ("body", "orelse"):
            block = getattr(node, name, None)
            if isinstance(block, list) and not isinstance(node, ast.ClassDef | ast.Module):
                yield block
