"""Random scripts that fill one of several lists in the branches of a choice, and the move that fills it once."""

from __future__ import annotations

import random
import re

from aedifex.moves.fuse import Fuse, choices_of_additions
from aedifex.moves.kit.binding_check import attempted
from aedifex.program.model.program import Program
from tests.support.kinds import write_columns
from tests.support.scripts import changed_outcome

_ASKED = ["turn % 2", "turn > 3 and not turn == 5", "draw() < 2", "len({name}) > 2", "{name} and {name}[-1] == 1"]
_ODD = ["swap()", "(n := turn) > 2", "turn if turn > 1 else 0", "(lambda: turn)() > 2"]
_VALUES = ["2", "-3", "'low'", "turn + 1", "draw()", "[turn]", "(turn, 4)", "turn and 3", "len({name})"]
_ODD_VALUES = ["lambda: 3", "(n := 4)", "5 if turn else 6", "{name}.append(1)", "*[3]"]


def fused(text: str) -> str:
    """Fuse all choices of a script and run both: `same`, `refused`, or `different: …`."""
    return changed_outcome(text, _with_all_fused)


def _with_all_fused(program: Program) -> Program:
    for choice in reversed(list(choices_of_additions(program.main))):
        program = attempted(program, Fuse(program.main.path, program.main.source.line_of(choice.statement.start)))
    return program


def write_fusing(seed: int) -> str:
    """A script with lists side by side, of which a loop fills some in branches."""
    chance = random.Random(f"fusing {seed}")
    oddity = chance.choice([0.0, 0.0, 0.2])
    text = write_columns(seed, plain=chance.random() < 0.7)
    names = re.findall(r"^(\w+) = \[", text, re.MULTILINE)

    def one_of(plain: list[str], odd: list[str], name: str) -> str:
        return chance.choice(odd if chance.random() < oddity else plain).format(name=name)

    def addition(name: str, margin: str) -> list[str]:
        if chance.random() < 0.5:
            return [f"{margin}{name}.append({one_of(_VALUES[:4], _ODD_VALUES, name)})"]
        lines = [f"{margin}if {one_of(_ASKED, _ODD, name)}:"]
        for _ in range(chance.choice([0, 0, 1, 2])):
            lines += [f"{margin}    {name}.append({one_of(_VALUES, _ODD_VALUES, name)})"]
            lines += [f"{margin}elif {one_of(_ASKED, _ODD, name)}:"]
        lines += [f"{margin}    {name}.append({one_of(_VALUES, _ODD_VALUES, name)})"]
        lines += [f"{margin}    {chance.choice(['print(turn)', '# low', 'pass'])}"] if chance.random() < oddity else []
        other = chance.choice(names) if chance.random() < oddity else name
        return [*lines, f"{margin}else:", f"{margin}    {other}.append({one_of(_VALUES, _ODD_VALUES, name)})"]

    added = [line for name in names for line in addition(name, "    ")]
    swapped, again = (name := chance.choice(names), f"list({name})") if oddity else ("drawn", "drawn")
    head = ["drawn = 0", "", "", "def draw():", "    global drawn", "    drawn += 1", "    return drawn * 7 % 5"]
    head += ["", "", "def swap():", f"    global {swapped}", f"    {swapped} = {again}", "    print(drawn)"]
    head += ["    return drawn % 2", "", ""]
    loop = ["for turn in range(4):", *added, *(f"print([str(v)[:9] for v in {name}[-4:]])" for name in names)]
    return "\n".join([*head, text, *loop]) + "\n"
