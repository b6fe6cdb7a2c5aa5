"""Carves random statements out of random scripts, and runs both."""

from __future__ import annotations

import random
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

from aedifex.languages.python import DIALECT
from aedifex.moves.carve import Carve
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.move import Move
from aedifex.program.model.module import Module
from aedifex.program.model.names import MAIN
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Block, Function
from aedifex.program.reading import read_program
from aedifex.source.errors import RefusedError
from aedifex.source.text import SourceText
from tests.support.scripts import play_here as play


def carved(text: str, chance: random.Random, times: int = 3) -> str:
    """`same`, `refused: …` where nothing could be carved, or `different: …`."""
    with tempfile.TemporaryDirectory() as work:
        script = Path(work) / "script.py"
        script.write_text(text)
        program = read_program([SourceText.read(script)], DIALECT)
        return moved_at_random(text, script, program, lambda now, number: random_carve(now, chance, number), times)


def moved_at_random(
    text: str, script: Path, program: Program, move_for: Callable[[Program, int], Move], times: int
) -> str:
    """Make some moves, one on the result of another, and run the program with and without them.

    `text` is what stands in the script before the first of them.
    """
    program, done, reason = moves_at_random(program, move_for, times)
    if not done:
        return f"refused: {reason}"
    before = play(script.parent, script.name)
    script.write_bytes(program.main.source.encode())
    after = play(script.parent, script.name)
    return "same" if before == after else f"different:\n{text}\n----\n{program.main.source.data.decode()}"


def moves_at_random(program: Program, move_for: Callable[[Program, int], Move], times: int) -> tuple[Program, int, str]:
    """The program after some moves, how many of them were made, and why the last of the others was refused."""
    reason, done = "", 0
    for number in range(times):
        try:
            program = perform(program, move_for(program, number))
            done += 1
        except RefusedError as error:
            reason = error.reason
    return program, done, reason


def random_carve(program: Program, chance: random.Random, number: int, *, of_methods: bool = False) -> Carve:
    """A run of statements that stand side by side, to become a function; or, where those of methods, a method."""
    module = program.main
    functions = module.all_functions if of_methods else module.functions
    name, block = chance.choice([*_blocks(module, MAIN, module.block), *_of_routines(module, functions)])
    first = chance.randrange(len(block.statements))
    last = chance.randrange(first, len(block.statements))
    lines = [module.source.line_of(at) for at in (block.statements[first].start, block.statements[last].end - 1)]
    variables = [s.name for s in module.symbols]
    owned = frozenset(chance.sample(variables, len(variables) // 3))
    return Carve(module.path, name, lines[0], lines[1], f"carved_{number}", owned)


def _of_routines(module: Module, functions: list[Function]) -> Iterator[tuple[str, Block]]:
    for function in functions:
        yield from _blocks(module, function.qualified_name, function.body)


def _blocks(module: Module, name: str, block: Block) -> Iterator[tuple[str, Block]]:
    yield name, block
    for statement in block.walk():
        for inner in statement.blocks:
            if inner.routine is None and inner.statements:
                yield name, inner
